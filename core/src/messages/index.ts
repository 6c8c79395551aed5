export * from './readReply.ts';
export * from './nonGsmLetters.ts';
export * from './smsParts.ts';
export * from './contact.ts';
export * from './receipts.ts';

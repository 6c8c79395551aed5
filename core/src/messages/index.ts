export * from './readReply.ts';
export * from './plainText.ts';
export * from './smsParts.ts';
export * from './contact.ts';
export * from './receipts.ts';

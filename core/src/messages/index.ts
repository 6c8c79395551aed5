export * from './readReply.ts';
export * from './smsParts.ts';

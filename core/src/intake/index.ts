export * from './answerText.ts';
export * from './answers.ts';
export * from './consent.ts';
export * from './merge.ts';
export * from './packet.ts';
export * from './readiness.ts';
export * from './shown.ts';
export * from './types.ts';

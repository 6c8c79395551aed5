export * from './finds.ts';
export * from './follow.ts';
export * from './pace.ts';
export * from './part.ts';
export * from './wanted.ts';
export * from './words.ts';

export * from './status.ts';
export * from './types.ts';

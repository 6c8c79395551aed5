export * from './overlap.ts';
export * from './resourceDay.ts';
export * from './types.ts';

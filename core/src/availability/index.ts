export { ACCESS, type Access } from './access.ts';
export * from './atOnce.ts';
export * from './overlap.ts';
export * from './resourceDay.ts';
export * from './types.ts';

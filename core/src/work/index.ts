export * from './due.ts';

export * from './strips.ts';

export * from './hoursBands.ts';

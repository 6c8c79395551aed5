export * from './weekly.ts';

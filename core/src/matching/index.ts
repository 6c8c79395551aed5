export * from './candidates.ts';
export * from './jaroWinkler.ts';

export * from './candidates.ts';
export * from './jaroWinkler.ts';
export * from './sameSource.ts';

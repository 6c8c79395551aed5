export * from './date.ts';
export * from './mask.ts';
export * from './units.ts';
export * from './zone.ts';

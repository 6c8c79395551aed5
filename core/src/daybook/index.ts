export * from './delay.ts';
export * from './hoursBands.ts';
export * from './oneAfterAnother.ts';

export * from './daySheet.ts';
export * from './delay.ts';
export * from './hoursBands.ts';
export * from './oneAfterAnother.ts';
export * from './minutes.ts';

export * from './list.ts';
export * from './plan.ts';

export * from './plan.ts';
export * from './handOver.ts';

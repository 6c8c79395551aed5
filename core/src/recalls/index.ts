export * from './codes.ts';
export * from './concerned.ts';
export * from './due.ts';
export * from './interval.ts';
export * from './judge.ts';
export * from './plan.ts';
export type { RecallCase, RecallFacts, RecallRule } from './rule.ts';
export { RECALL_RULES } from './rules/index.ts';
export * from './who.ts';

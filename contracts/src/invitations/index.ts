export * from './patient.ts';
export * from './send.ts';
export * from './template.ts';

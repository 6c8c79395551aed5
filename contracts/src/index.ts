export * from './endpoint.ts';
export * from './errors.ts';
export * from './faults.ts';
export * from './roles.ts';
export * from './wire.ts';

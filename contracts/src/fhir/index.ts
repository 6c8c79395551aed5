export * from './clinic.ts';
export * from './metadata.ts';
export * from './patient.ts';
export * from './request.ts';
export * from './schedule.ts';
export * from './visit.ts';

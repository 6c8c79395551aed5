export * from './planVisit.ts';

export * from './drafts.ts';
export * from './edits.ts';
export * from './impact.ts';
export * from './visitsToMove.ts';
export * from './week.ts';
export * from './requests.ts';

export { collisions } from './collisions.ts';
export * from './edits.ts';
export { changedDays, type ChangedDay, touchedBy } from './changedDays.ts';
export { replaceable, resolveEdits, resolveReplacing, type Resolved, type ResolveWith } from './resolve.ts';
export * from './rows.ts';
export { orphansOf } from './orphans.ts';
export { startingFrom } from './fromDate.ts';

export * from './givePlaces.ts';
export * from './holdShare.ts';
export { bookInto, putPlanned, type TentativeVisit } from './bookInto.ts';
export * from './placesLeft.ts';
export * from './override.ts';
export * from './planVisit.ts';
export * from './shift.ts';
export * from './urgency.ts';
export * from './whereItFits.ts';

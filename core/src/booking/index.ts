export * from './givePlaces.ts';
export * from './holdShare.ts';
export { bookInto, type TentativeVisit } from './bookInto.ts';
export * from './placesLeft.ts';
export * from './planVisit.ts';

export * from './holdShare.ts';
export { bookInto, type Thought } from './bookInto.ts';
export * from './placesLeft.ts';
export * from './planVisit.ts';

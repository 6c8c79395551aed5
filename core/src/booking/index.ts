export * from './placesLeft.ts';
export * from './planVisit.ts';

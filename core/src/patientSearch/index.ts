export { foldWord, wordsOf } from './fold.ts';
export { gapsOf, isOneSlip, SLIP_FROM_LETTERS } from './oneSlip.ts';
export { type Findable, type Fit, FITS, type Hit, nameWords, rankPatients } from './rankPatients.ts';
export { type Item, MAX_QUERY_LENGTH, type Reading, readQuery } from './readQuery.ts';

import { findOpenings, publicDays, publicTimes, whyNot } from '@zaguan/contracts/openings';
import { handle } from '../../platform/endpoint/handler.ts';
import { findTimes } from './findTimes.ts';
import { explainStart, find } from './searchDesk.ts';
import { searchDays, searchTimes } from './searchPublic.ts';

export const openingsEndpoints = [
  handle(publicDays, searchDays),
  handle(publicTimes, searchTimes),
  handle(whyNot, explainStart),
  handle(findOpenings, find),
  findTimes,
];

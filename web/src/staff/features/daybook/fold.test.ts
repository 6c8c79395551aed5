import { foldSiteDay, unfoldSiteDay } from '@zaguan/contracts/daybook';
import { expect, it } from 'vitest';
import { at, lane, plate, site } from './samples.ts';

const shared = plate('a', 540, 600);
const room = { ...shared, resourceId: 'room', drawn: { start: at(540), end: at(560) } };
const day = {
  ...site([shared, plate('b', 600, 620)]),
  lanes: [lane([shared, plate('b', 600, 620)]), { ...lane([room]), id: 'l2', resourceId: 'room' }],
};

it('says a visit once, however many lanes show it, and draws the same from it', () => {
  const wire = foldSiteDay(day);
  expect(wire.visits.map(({ id }) => id)).toEqual(['a', 'b']);
  expect(unfoldSiteDay(wire)).toEqual(day);
});

it('draws no lane whose visit is missing', () => {
  expect(() => unfoldSiteDay({ ...foldSiteDay(day), visits: [] })).toThrow(RangeError);
});

import { describe, expect, it } from 'vitest';
import { dateBounds, hasToken, instantBounds, isWithin } from './searching.ts';

const at = (text: string) => Date.parse(text);

describe('date searches', () => {
  // HL7 FHIR R4 4.0.1, §3.1.1.4.7 "Prefixes" and "date", the examples of the table (from memory).
  it.each([
    ['eq2013-01-14', ['2013-01-14T00:00Z', '2013-01-14T10:00Z'], ['2013-01-15T00:00Z', '2013-01-13T23:59Z']],
    ['2013-01-14', ['2013-01-14T23:59Z'], ['2013-01-15T00:00Z']],
    ['lt2013-01-14T10:00Z', ['2013-01-14T09:59Z'], ['2013-01-14T10:00Z']],
    ['gt2013-01-14T10:00Z', ['2013-01-14T10:01Z'], ['2013-01-14T10:00:30Z']],
    ['ge2013-03-14', ['2013-03-14T00:00Z', '2014-01-01T00:00Z'], ['2013-03-13T23:59Z']],
    ['le2013-03-14', ['2013-03-14T23:59Z', '2012-01-01T00:00Z'], ['2013-03-15T00:00Z']],
    ['sa2013-03-14', ['2013-03-15T00:00Z'], ['2013-03-14T23:59Z']],
    ['eb2013-03-14', ['2013-03-13T23:59Z'], ['2013-03-14T00:00Z']],
    ['2013-12', ['2013-12-31T23:59Z'], ['2014-01-01T00:00Z']],
    ['2013', ['2013-01-01T00:00Z', '2013-12-31T23:59Z'], ['2014-01-01T00:00Z']],
    ['2013-01-14T10:00:05+02:00', ['2013-01-14T08:00:05.900Z'], ['2013-01-14T08:00:06Z']],
  ])('%s', (search, inside, outside) => {
    const bounds = instantBounds([search]);
    expect(inside.map((each) => isWithin(at(each), bounds))).toEqual(inside.map(() => true));
    expect(outside.map((each) => isWithin(at(each), bounds))).toEqual(outside.map(() => false));
  });

  it('hold together, and keep days and instants apart', () => {
    expect(dateBounds(['ge2026-12-01', 'lt2026-12-08', 'ge2026-12-02T10:00Z'])).toEqual({
      days: { from: '2026-12-01', until: '2026-12-08' },
      instants: { from: at('2026-12-02T10:00Z'), until: null },
    });
  });
});

it('tokens are found by value, by system and value, and by no other system (§3.1.1.4.10)', () => {
  const identifiers = [{ system: 'http://here/site', value: 'canal' }, { value: 'plain' }];
  expect(hasToken(identifiers, ['canal'])).toBe(true);
  expect(hasToken(identifiers, ['other', 'http://here/site|canal'])).toBe(true);
  expect(hasToken(identifiers, ['http://there/site|canal'])).toBe(false);
  expect(hasToken(identifiers, ['|plain'])).toBe(true);
  expect(hasToken(identifiers, ['|canal'])).toBe(false);
});

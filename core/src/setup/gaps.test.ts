import { describe, expect, it } from 'vitest';
import { DAY, HOURS, POLICY, smallClinic, VISIT, ZONE } from '../../tests/smallClinic.ts';
import type { ClinicSnapshot } from '../openings/index.ts';
import { addDays } from '../time/index.ts';
import { type SetupFacts, setupGaps } from './index.ts';

const WHOLE: Omit<SetupFacts, 'plan'> = {
  today: DAY,
  sitesOf: new Map([['doctor', ['site']]]),
  accounts: { managers: 2, invited: 0 },
  clinicHasPhone: true,
  typesWithPapers: new Set(['visit']),
  missingWords: [],
};
const gaps = (change: Partial<ClinicSnapshot> = {}, facts: Partial<SetupFacts> = {}) =>
  setupGaps({ plan: smallClinic(change), ...WHOLE, ...facts });
const codes = (change: Partial<ClinicSnapshot> = {}, facts: Partial<SetupFacts> = {}) =>
  gaps(change, facts).map(({ step, code, blocks }) => `${step}: ${code}${blocks ? ' (blocks)' : ''}`);

describe('what is missing until patients can book', () => {
  it('is nothing in a clinic that is set up', () => {
    expect(codes()).toEqual([]);
  });

  it('names everything of an empty clinic, in the order in which one thing needs another', () => {
    const nothing = {
      sites: [],
      siteHours: [],
      resources: [],
      pools: [],
      workingHours: [],
      visitTypes: [],
      policies: [],
    };
    expect(
      codes(nothing, { sitesOf: new Map(), accounts: { managers: 1, invited: 0 }, clinicHasPhone: false }),
    ).toEqual([
      'people: no-provider (blocks)',
      'people: one-manager',
      'sites: no-site (blocks)',
      'visit-types: no-type (blocks)',
      'online: nothing-offered (blocks)',
      'messages: clinic-no-phone (blocks)',
    ]);
  });

  it.each<[string, Partial<ClinicSnapshot>, Partial<SetupFacts>, string[]]>([
    ['a person at no site', {}, { sitesOf: new Map() }, ['people: person-no-site']],
    ['somebody who has not joined', {}, { accounts: { managers: 2, invited: 3 } }, ['people: invited']],
    ['a site without hours', { siteHours: [] }, {}, ['sites: site-no-hours (blocks)']],
    [
      'words that one language lacks',
      {},
      { missingWords: [{ kind: 'visit-type', id: 'visit', field: 'preparationEs' }] },
      ['visit-types: words-missing'],
    ],
    ['a person without hours', { workingHours: [] }, {}, ['hours: person-no-hours (blocks)']],
    [
      'hours that ended yesterday',
      { workingHours: [{ ...HOURS, rule: { ...HOURS.rule, effectiveUntil: addDays(DAY, -1) } }] },
      {},
      ['hours: person-no-hours (blocks)'],
    ],
    [
      'a pool that a type asks for and no site has',
      {
        pools: [],
        visitTypes: [
          {
            ...VISIT,
            parts: [
              {
                lengthMin: 15,
                needs: [...VISIT.parts[0].needs, { key: 'a', what: 'pool' as const, poolKind: 'room' }],
              },
            ],
          },
        ],
      },
      {},
      ['rooms: pool-missing (blocks)', 'visit-types: pool-nowhere (blocks)'],
    ],
    [
      'a pool with nothing in it that nobody asks for',
      { pools: [{ id: 'rooms', siteId: 'site', kind: 'room', memberIds: [] }] },
      {},
      ['rooms: pool-empty'],
    ],
    ['a type without parts', { visitTypes: [{ ...VISIT, parts: [] }] }, {}, ['visit-types: type-no-parts (blocks)']],
    ['nothing offered', { policies: [{ ...POLICY, offered: null }] }, {}, ['online: nothing-offered (blocks)']],
    ['a site switched off', { sites: [{ id: 'site', zone: ZONE, bookableOnline: false }] }, {}, ['online: site-off']],
    [
      'nobody switched on',
      { resources: [{ id: 'doctor', kind: 'provider', bookableOnline: false, capabilities: [] }], pools: [] },
      {},
      ['online: no-provider-online (blocks)'],
    ],
    ['no papers for what is offered', {}, { typesWithPapers: new Set() }, ['forms: no-papers']],
  ])('names %s', (_, change, facts, wanted) => {
    expect(codes(change, facts)).toEqual(wanted);
  });

  it('counts the hours of a pool for each of its members', () => {
    const workingHours = [{ ...HOURS, subject: { of: 'pool' as const, id: 'doctors' } }];
    const pools = [{ id: 'doctors', siteId: 'site', kind: 'doctor', memberIds: ['doctor'] }];
    expect(codes({ workingHours, pools })).toEqual([]);
  });

  it('leads to the record and the field', () => {
    expect(gaps({ siteHours: [] })[0]).toMatchObject({ kind: 'site', id: 'site', field: 'hours' });
    expect(gaps({}, { clinicHasPhone: false })[0]).toMatchObject({ kind: 'clinic', id: null, field: 'phone' });
    expect(gaps({ workingHours: [] })[0].facts).toEqual({ resourceId: 'doctor', siteId: 'site' });
  });
});

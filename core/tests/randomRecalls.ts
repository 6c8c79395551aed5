import { addDays } from '../src/time/index.ts';
import type { Interval, RecallPerson, RecallPlan, When } from '../src/recalls/index.ts';
import type { Draw } from './randomClinic.ts';

/** Any date of about four years around this one, with a leap day among them. */
const MIDDLE = '2028-02-29';
const TYPES = ['injection', 'review', 'spirometry'] as const;
const REGISTERS = ['asthma', 'venom'] as const;

export function randomRecalls({ int, pick, chance }: Draw): {
  plans: RecallPlan[];
  person: RecallPerson;
  today: string;
} {
  const date = (within = 700) => addDays(MIDDLE, int(-within, within));
  const today = date(200);
  const some = <T>(from: readonly T[]): T[] => from.filter(() => chance(60));
  const maybe = <T>(value: () => T): T | null => (chance(30) ? value() : null);
  const interval = (): Interval => ({ n: int(1, 14), unit: pick(['days', 'weeks', 'months', 'years'] as const) });
  const typeIds = () => {
    const types = some(TYPES);
    return types.length ? types : [TYPES[0]];
  };
  const when = (): When => {
    switch (int(1, 5)) {
      case 1:
        return { kind: 'after-visit', typeIds: typeIds(), every: interval() };
      case 2:
        return {
          ...{ kind: 'build-up', typeIds: typeIds(), afterwards: interval(), restartAfter: maybe(interval) },
          steps: Array.from({ length: int(1, 3) }, () => ({ visits: int(1, 4), every: interval() })),
        };
      case 3:
        return {
          kind: 'season',
          typeIds: typeIds(),
          from: pick(['01-01', '03-15', '10-01']),
          until: pick(['02-28', '06-30', '12-31']),
        };
      case 4:
        return { kind: 'never-seen', after: interval() };
      default:
        return {
          ...{ kind: 'on-register', registerId: pick(REGISTERS), typeIds: typeIds() },
          ...{ after: interval(), every: maybe(interval) },
        };
    }
  };
  const plan = (id: string): RecallPlan => ({
    id,
    who: {
      ageFrom: maybe(() => int(0, 12)),
      ageTo: maybe(() => int(8, 20)),
      sexes: maybe(() => some(['female', 'male', 'other', 'unknown'] as const)),
      languages: maybe(() => some(['en', 'es'] as const)),
      homeSiteIds: maybe(() => some(['canal', 'mesa'])),
      codes: maybe(() => some(['J45', 'J45.4', 'Z91.030'])),
      registerIds: maybe(() => some(REGISTERS)),
      fields: chance(20) ? [{ fieldId: 'f', values: some(['yes', 'no']) }] : [],
    },
    when: when(),
    aheadDays: pick([0, 0, 14, 30]),
    graceDays: 30,
    comingTypeIds: maybe(() => some(TYPES)),
    quietDays: pick([0, 7, 30]),
  });
  const plans = Array.from({ length: int(1, 3) }, (_, i) => plan(`p${i}`));
  const visits = (n: number) => Array.from({ length: int(0, n) }, () => ({ typeId: pick(TYPES), date: date() }));
  const planId = () => pick(plans).id;
  const person: RecallPerson = {
    birthDate: pick(['2012-02-29', '2016-02-29', addDays(today, -int(0, 9000))]),
    sex: pick([null, 'female', 'male']),
    language: pick(['en', 'es']),
    homeSiteId: pick([null, 'canal', 'mesa']),
    isInactive: chance(5),
    hasDied: chance(5),
    registeredOn: date(),
    codes: some(['J45.40', 'Z91.030', 'L20.9']),
    fields: chance(50) ? { f: pick(['yes', 'no']) } : {},
    registers: some(REGISTERS).map((registerId) => {
      const from = date();
      return { registerId, from, until: maybe(() => addDays(from, int(0, 400))) };
    }),
    completed: visits(12),
    coming: chance(30) ? visits(2) : [],
    reach: chance(85) ? 'open' : pick(['opted-out', 'none']),
    invitedOn: chance(30) ? [date(100)] : [],
    live: chance(25) ? [{ planId: planId(), on: addDays(today, -int(0, 20)), until: addDays(today, int(-5, 30)) }] : [],
    choices: chance(30)
      ? [
          {
            planId: planId(),
            kind: pick(['later', 'declined', 'done-elsewhere'] as const),
            on: addDays(today, -10),
            date: date(100),
          },
        ]
      : [],
  };
  return { plans, person, today };
}

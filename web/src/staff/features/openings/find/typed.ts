import type { TimesCriteria } from '@zaguan/contracts/openings';

export type Weekday = NonNullable<TimesCriteria['weekdays']>[number];
export interface Member {
  readonly visitTypeId: string;
  readonly kind: 'new' | 'established';
  /** Somebody on record: what they need is looked for by itself. */
  readonly patientId: string | null;
}

/** A search as it is set on screen. */
export interface TypedSearch {
  readonly members: Member[];
  readonly channel: 'desk' | 'online';
  /** Empty: every site. */
  readonly siteIds: string[];
  /** Empty: anyone. */
  readonly providerIds: string[];
  readonly from: string;
  readonly days: number;
  readonly weekdays: Weekday[];
  readonly hours: HoursName;
  readonly language: string;
  readonly access: NonNullable<TimesCriteria['access']>;
  readonly how: 'back-to-back' | 'side-by-side';
  readonly mostWaitMin: number;
  readonly repeats: boolean;
  readonly everyWeeks: number;
  readonly count: number;
  readonly toleranceDays: number;
  readonly sameProvider: boolean;
}

/** A search while it is being set. */
export interface Typing {
  readonly typed: TypedSearch;
  readonly set: (change: Partial<TypedSearch>) => void;
}

/** Times of the day that people wish for. */
export const HOURS = {
  any: [0, 1440],
  morning: [0, 720],
  noon: [660, 840],
  afternoon: [720, 1440],
  late: [960, 1440],
} as const satisfies Record<string, readonly [number, number]>;
export type HoursName = keyof typeof HOURS;

export const EVERY_DAY: Weekday[] = [1, 2, 3, 4, 5, 6, 7];

/** The search as the server is asked it; `null` while something needed is missing. */
export function toWanted(typed: TypedSearch, allSiteIds: readonly string[]): TimesCriteria | null {
  const { members, channel, from, days, weekdays, language } = typed;
  if (!members.length || members.some(({ visitTypeId }) => !visitTypeId) || !from || !weekdays.length) return null;
  if (!allSiteIds.length) return null;
  const [fromMinute, toMinute] = HOURS[typed.hours];
  const { everyWeeks, count, toleranceDays, sameProvider } = typed;
  return {
    members,
    channel,
    siteIds: typed.siteIds.length ? typed.siteIds : [...allSiteIds],
    providerIds: typed.providerIds.length ? typed.providerIds : null,
    from,
    days,
    weekdays: weekdays.length === EVERY_DAY.length ? null : weekdays,
    fromMinute,
    toMinute,
    language: language || null,
    access: typed.access,
    household: { how: typed.how, mostWaitMin: typed.mostWaitMin },
    series: typed.repeats && members.length === 1 ? { everyWeeks, count, toleranceDays, sameProvider } : null,
  };
}

/** The search with some criteria given up. */
export function givenUp(typed: TypedSearch, giveUp: readonly string[]): TypedSearch {
  return {
    ...typed,
    ...(giveUp.includes('hour') && { hours: 'any' as const }),
    ...(giveUp.includes('weekday') && { weekdays: EVERY_DAY }),
    ...(giveUp.includes('provider') && { providerIds: [] }),
    ...(giveUp.includes('site') && { siteIds: [] }),
    ...(giveUp.includes('language') && { language: '' }),
    ...(giveUp.includes('access') && { access: [] }),
    ...(giveUp.includes('later') && { days: Math.min(120, typed.days + 60) }),
    ...(giveUp.includes('desk') && { channel: 'desk' as const }),
  };
}

/** How what was found may be looked at. */
export const VIEWS = ['times', 'providers', 'calendar'] as const;
export type View = (typeof VIEWS)[number];

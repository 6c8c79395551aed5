import type { RecurringHours, WireEdit } from '@zaguan/contracts/availability';
import { wallTime } from '../../../../shared/time/format.ts';
import { readStretches } from '../../../../shared/time/typedTimes.ts';
import type { Faults } from './checkEdits.ts';

type HoursPattern = Extract<WireEdit, { do: 'add-hours' }>['pattern'];
export type Weekday = HoursPattern['weekdays'][number];

/** Who is taken. */
export interface Audience {
  readonly kinds: 'any' | 'new' | 'established' | 'invited';
  readonly typeIds: string[] | null;
  readonly online: boolean;
}

/** At most so many visits of a kind or type each time. */
export interface TypedLimit {
  readonly max: string;
  readonly kind: 'any' | 'new' | 'established';
  /** Empty for all types together. */
  readonly typeId: string;
}

export const EVERYONE: Audience = { kinds: 'any', typeIds: null, online: true };
export const NO_LIMIT: TypedLimit = { max: '', kind: 'any', typeId: '' };

/** The terms of working hours as they are typed. */
export interface HoursFormValues extends Audience {
  readonly siteId: string;
  readonly weekdays: Weekday[];
  readonly everyWeeks: number;
  readonly until: string;
  readonly follows: boolean;
  readonly times: string;
  readonly places: number;
  /** Hours before each start from which others are taken too; empty for never. */
  readonly releaseHours: string;
  readonly releaseTo: Audience;
  /** Limits of each stretch, in the order in which they were added. */
  readonly limits: readonly TypedLimit[];
  readonly roomIds: string[];
}

export const DEFAULT_TERMS: HoursFormValues = {
  siteId: '',
  weekdays: [1, 2, 3, 4, 5],
  everyWeeks: 1,
  until: '',
  follows: false,
  times: '8:00 am – 12:00 pm, 1:00 pm – 5:00 pm',
  kinds: 'any',
  typeIds: null,
  online: true,
  places: 1,
  releaseHours: '',
  releaseTo: EVERYONE,
  limits: [],
  roomIds: [],
};

export const formatMinutes = (span: { fromMinute: number; toMinute: number }) =>
  `${wallTime(span.fromMinute)} – ${wallTime(span.toMinute)}`;

/** The same to be read, not typed over: a whole day is said as one. */
export const formatMinutesOrAllDay = (span: { fromMinute: number; toMinute: number }, allDay: string) =>
  span.fromMinute === 0 && span.toMinute === 1440 ? allDay : formatMinutes(span);

/** Hours as they stand, to be typed over. */
export function typedFrom(hours: RecurringHours): HoursFormValues {
  const { accepts, release, caps } = hours;
  return {
    siteId: hours.siteId,
    weekdays: hours.weekdays as Weekday[],
    everyWeeks: hours.everyWeeks,
    until: hours.effectiveUntil ?? '',
    follows: hours.followsSiteHours,
    times: formatMinutes(hours),
    ...audienceOf(accepts, hours.online),
    places: hours.places,
    releaseHours: release ? String(release.beforeMin / 60) : '',
    releaseTo: release ? audienceOf(release.accepts, release.online) : EVERYONE,
    limits: caps.map(({ max, kind, visitTypeId }) => ({
      max: String(max),
      kind: kind ?? 'any',
      typeId: visitTypeId ?? '',
    })),
    roomIds: hours.preferredRoomIds,
  };
}

/** Who is taken, as hours or an extra stretch say it. */
export function audienceOf(accepts: RecurringHours['accepts'], online: boolean): Audience {
  const kinds = accepts.invitedOnly ? 'invited' : accepts.kinds?.length === 1 ? accepts.kinds[0] : 'any';
  return { kinds, typeIds: accepts.visitTypeIds, online };
}

export function acceptsOf({ kinds, typeIds }: Pick<Audience, 'kinds' | 'typeIds'>): HoursPattern['accepts'] {
  return {
    visitTypeIds: typeIds,
    kinds: kinds === 'new' || kinds === 'established' ? [kinds] : null,
    invitedOnly: kinds === 'invited',
  };
}

/** In the place of times that can't be read. */
export const ANY_STRETCH = { fromMinute: 0, toMinute: 1440 };

/** One set of terms for each stretch that was typed, and what of it can't be read, by field. The contract judges the rest. */
export function readHoursForm(typed: HoursFormValues): { each: HoursPattern[]; unread: Faults } {
  const stretches = typed.follows ? [ANY_STRETCH] : readStretches(typed.times);
  const releaseMin = typed.releaseHours === '' ? null : Math.round(Number(typed.releaseHours) * 60);
  const maxima = typed.limits.map(({ max }) => (max.trim() === '' ? Number.NaN : Number(max)));
  const unread: Faults = {};
  if (!stretches) unread.times = 'stretches';
  if (Number.isNaN(releaseMin)) unread.releaseHours = 'number';
  maxima.forEach((max, i) => {
    if (Number.isNaN(max)) unread[`limits.${i}`] = 'number';
  });
  const common = {
    siteId: typed.siteId,
    weekdays: typed.weekdays,
    everyWeeks: typed.everyWeeks,
    effectiveUntil: typed.until || null,
    followsSiteHours: typed.follows,
    places: typed.places,
    accepts: acceptsOf(typed),
    online: typed.online,
    release:
      releaseMin === null
        ? null
        : { beforeMin: releaseMin, accepts: acceptsOf(typed.releaseTo), online: typed.releaseTo.online },
    caps: typed.limits.map(({ kind, typeId }, i) => ({
      visitTypeId: typeId || null,
      kind: kind === 'any' ? null : kind,
      max: maxima[i],
    })),
    preferredRoomIds: typed.roomIds,
  };
  // Hours that follow the site's have none of their own; the day stands in for them.
  const each = (stretches ?? [ANY_STRETCH]).map((span) => ({
    ...common,
    ...span,
    fromMinute: Math.min(span.fromMinute, 1435),
  }));
  return { each, unread };
}

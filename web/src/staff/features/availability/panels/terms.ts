import type { RecurringHours, WireEdit } from '@zaguan/contracts/availability';
import { wallTime } from '../../../../shared/time/format.ts';
import { readStretches } from '../../../../shared/time/typedTimes.ts';

type Terms = Extract<WireEdit, { do: 'add-hours' }>['terms'];
export type Weekday = Terms['weekdays'][number];

/** The terms of working hours as they are typed. */
export interface TypedTerms {
  readonly siteId: string;
  readonly weekdays: Weekday[];
  readonly everyWeeks: number;
  readonly until: string;
  readonly follows: boolean;
  readonly times: string;
  readonly kinds: 'any' | 'new' | 'established' | 'invited';
  readonly typeIds: string[] | null;
  readonly online: boolean;
  readonly places: number;
  /** Hours before each start from which everyone is taken; empty for never. */
  readonly releaseHours: string;
  /** Most visits in each stretch; empty for no limit. */
  readonly capMost: string;
  readonly capKind: 'any' | 'new' | 'established';
  readonly roomIds: string[];
}

export const USUAL: TypedTerms = {
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
  capMost: '',
  capKind: 'any',
  roomIds: [],
};

export const spanWords = (span: { fromMinute: number; toMinute: number }) =>
  `${wallTime(span.fromMinute)} – ${wallTime(span.toMinute)}`;

/** The same to be read, not typed over: a whole day is said as one. */
export const stretchWords = (span: { fromMinute: number; toMinute: number }, allDay: string) =>
  span.fromMinute === 0 && span.toMinute === 1440 ? allDay : spanWords(span);

/** Hours as they stand, to be typed over. */
export function typedFrom(hours: RecurringHours): TypedTerms {
  const { accepts, release, caps } = hours;
  return {
    siteId: hours.siteId,
    weekdays: hours.weekdays as Weekday[],
    everyWeeks: hours.everyWeeks,
    until: hours.effectiveUntil ?? '',
    follows: hours.followsSiteHours,
    times: spanWords(hours),
    kinds: accepts.invitedOnly ? 'invited' : accepts.kinds?.length === 1 ? accepts.kinds[0] : 'any',
    typeIds: accepts.visitTypeIds,
    online: hours.online,
    places: hours.places,
    releaseHours: release ? String(release.beforeMin / 60) : '',
    capMost: caps[0] ? String(caps[0].most) : '',
    capKind: caps[0]?.kind ?? 'any',
    roomIds: hours.preferredRoomIds,
  };
}

/** Terms as they were read, but for what was not touched: the form shows less than hours can hold. */
export function keepUntouched(read: Terms, typed: TypedTerms, hours: RecurringHours): Terms {
  const before = typedFrom(hours);
  return {
    ...read,
    release: typed.releaseHours === before.releaseHours ? hours.release : read.release,
    caps: typed.capMost === before.capMost && typed.capKind === before.capKind ? hours.caps : read.caps,
  } as Terms;
}

export function acceptsOf({ kinds, typeIds }: Pick<TypedTerms, 'kinds' | 'typeIds'>): Terms['accepts'] {
  return {
    visitTypeIds: typeIds,
    kinds: kinds === 'new' || kinds === 'established' ? [kinds] : null,
    invitedOnly: kinds === 'invited',
  };
}

const EVERYTHING = { visitTypeIds: null, kinds: null, invitedOnly: false };

/** One set of terms for each stretch that was typed; what can't be read comes back by field. */
export function readTerms(
  typed: TypedTerms,
): { ok: true; each: Terms[] } | { ok: false; faults: Record<string, string> } {
  const faults: Record<string, string> = {};
  const stretches = typed.follows ? [{ fromMinute: 0, toMinute: 1440 }] : readStretches(typed.times);
  const releaseMin = typed.releaseHours === '' ? null : Math.round(Number(typed.releaseHours) * 60);
  const most = typed.capMost === '' ? null : Number(typed.capMost);
  if (!typed.siteId) faults.siteId = 'needed';
  if (!typed.weekdays.length) faults.weekdays = 'no-weekday';
  if (!stretches) faults.times = 'stretches';
  if (typed.typeIds?.length === 0) faults.typeIds = 'no-type';
  if (releaseMin !== null && !(releaseMin >= 0 && releaseMin <= 525_600)) faults.releaseHours = 'number';
  if (most !== null && !(Number.isInteger(most) && most >= 0 && most < 1000)) faults.capMost = 'number';
  if (!stretches || Object.keys(faults).length) return { ok: false, faults };
  const common = {
    siteId: typed.siteId,
    weekdays: typed.weekdays,
    everyWeeks: typed.everyWeeks,
    effectiveUntil: typed.until || null,
    followsSiteHours: typed.follows,
    places: typed.places,
    accepts: acceptsOf(typed),
    online: typed.online,
    release: releaseMin === null ? null : { beforeMin: releaseMin, accepts: EVERYTHING, online: true },
    caps: most === null ? [] : [{ visitTypeId: null, kind: typed.capKind === 'any' ? null : typed.capKind, most }],
    preferredRoomIds: typed.roomIds,
  };
  // Hours that follow the site's have none of their own; the day stands in for them.
  const each = stretches.map((span) => ({ ...common, ...span, fromMinute: Math.min(span.fromMinute, 1435) }));
  return { ok: true, each };
}

import { ACCESS } from '@zaguan/core/availability';
import { MAX_MEMBERS } from '@zaguan/core/findTime';
import { z } from 'zod';
import type { AddressChanges } from '../../../shell/useAddress.ts';
import { EVERY_DAY, HOURS, type HoursName, type Member, type TypedSearch, type Weekday } from './typed.ts';

/** What may be chosen, and what is looked for where an address doesn't say. */
export interface SearchBounds {
  readonly visitTypeIds: readonly string[];
  readonly siteIds: readonly string[];
  readonly providerIds: readonly string[];
  readonly languages: readonly string[];
  /** Site-local date from which one looks. */
  readonly today: string;
}

const whole = (min: number, max: number, otherwise: number) =>
  z.coerce.number().int().min(min).max(max).catch(otherwise);
const days = whole(1, 120, 14);
const mostWaitMin = whole(0, 240, 10);
const hours = z.enum(Object.keys(HOURS) as [HoursName, ...HoursName[]]).catch('any');
const channel = z.enum(['desk', 'online']).catch('desk');
const how = z.enum(['back-to-back', 'side-by-side']).catch('back-to-back');
const [everyWeeks, count, toleranceDays] = [whole(1, 26, 4), whole(2, 12, 6), whole(0, 7, 2)];
const date = z.union([z.literal(''), z.iso.date()]);

const listOf = (text: string | null) => text?.split(',').filter(Boolean) ?? [];

/** The search that an address asks for; what it doesn't say, or what can't be chosen any more, is left at its default. */
export function searchOf(asked: URLSearchParams, bounds: SearchBounds): TypedSearch {
  const known = (name: string, ids: readonly string[]) => listOf(asked.get(name)).filter((id) => ids.includes(id));
  const series = listOf(asked.get('series'));
  const weekdays = EVERY_DAY.filter((day) => listOf(asked.get('weekdays')).includes(String(day)));
  const language = asked.get('language') ?? '';
  return {
    members: membersOf(listOf(asked.get('who')), bounds.visitTypeIds),
    channel: channel.parse(asked.get('channel')),
    siteIds: known('site', bounds.siteIds),
    providerIds: known('provider', bounds.providerIds),
    from: date.catch(bounds.today).parse(asked.get('from')),
    days: days.parse(asked.get('days') ?? undefined),
    weekdays: asked.has('weekdays') ? weekdays : EVERY_DAY,
    hours: hours.parse(asked.get('hours')),
    language: bounds.languages.includes(language) ? language : '',
    access: ACCESS.filter((need) => listOf(asked.get('access')).includes(need)),
    how: how.parse(asked.get('how')),
    mostWaitMin: mostWaitMin.parse(asked.get('wait') ?? undefined),
    repeats: series.length > 0,
    everyWeeks: everyWeeks.parse(series[0]),
    count: count.parse(series[1]),
    toleranceDays: toleranceDays.parse(series[2]),
    sameProvider: series[3] !== 'anyone',
  };
}

const PATIENT_ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** Each as `<kind>:<visit type>` or `<kind>:<visit type>:<patient>`; one person and the first visit type where there is none. */
function membersOf(who: readonly string[], visitTypeIds: readonly string[]): Member[] {
  const [first = ''] = visitTypeIds;
  const members = who
    .map((each): Member => {
      const [kind, visitTypeId, patient = ''] = each.split(':');
      const patientId = PATIENT_ID.test(patient) ? patient : null;
      return { kind: kind === 'new' ? 'new' : 'established', visitTypeId: visitTypeId || first, patientId };
    })
    .filter(({ visitTypeId }) => visitTypeIds.includes(visitTypeId))
    .slice(0, MAX_MEMBERS);
  return members.length ? members : [{ kind: 'established', visitTypeId: first, patientId: null }];
}

/** The address of a search: each part, `null` where it is at its default. */
export function addressOf(typed: TypedSearch, bounds: SearchBounds): AddressChanges {
  const usual = searchOf(new URLSearchParams(), bounds);
  const unless = <V extends string | number>(value: V, same: V) => (value === same ? null : String(value));
  const list = (values: readonly (string | number)[]) => (values.length ? values.join(',') : null);
  const who = typed.members.map(({ kind, visitTypeId, patientId }) =>
    [kind, visitTypeId, ...(patientId ? [patientId] : [])].join(':'),
  );
  const everyDay = typed.weekdays.length === EVERY_DAY.length;
  const { everyWeeks, count, toleranceDays, sameProvider } = typed;
  return {
    who: list(who),
    channel: unless(typed.channel, usual.channel),
    site: list(typed.siteIds),
    provider: list(typed.providerIds),
    from: unless(typed.from, bounds.today),
    days: unless(typed.days, usual.days),
    weekdays: everyDay ? null : typed.weekdays.toSorted((a: Weekday, b: Weekday) => a - b).join(','),
    hours: unless(typed.hours, usual.hours),
    language: typed.language || null,
    access: list(typed.access),
    how: unless(typed.how, usual.how),
    wait: unless(typed.mostWaitMin, usual.mostWaitMin),
    series: typed.repeats ? [everyWeeks, count, toleranceDays, sameProvider ? 'same' : 'anyone'].join(',') : null,
  };
}

import type { FhirResource } from 'fhir/r4.js';
import { addDays, type LocalDate } from '@zaguan/core/time';
import { toSearchset, withoutEmpty } from '../../exchange/fhir/searchset.ts';
import type { Ctx } from '../../platform/endpoint/context.ts';

/** The root of this server's FHIR resources. */
export const baseOf = (ctx: Ctx): string => `${ctx.addresses.publicUrl}/fhir`;

/** From a moment on up to another one, that one not included; `null`: no bound. */
export interface Bounds<T> {
  readonly from: T | null;
  readonly until: T | null;
}

interface Read {
  readonly prefix: string;
  /** What was written, without its prefix. */
  readonly text: string;
}

const readSearch = (search: string): Read => ({
  prefix: /^[a-z]{2}/.exec(search)?.[0] ?? 'eq',
  text: search.replace(/^[a-z]{2}/, ''),
});

/** The days that a year, a month or a day means, the last one not included; `null` for an instant. */
function daysOf(text: string): { from: LocalDate; until: LocalDate } | null {
  if (text.length > 10) return null;
  const [year, month, day] = text.split('-').map(Number);
  const date = (y: number, m: number, d: number) => new Date(Date.UTC(y, m - 1, d)).toISOString().slice(0, 10);
  if (day) return { from: text, until: addDays(text, 1) };
  return month
    ? { from: date(year, month, 1), until: date(year, month + 1, 1) }
    : { from: date(year, 1, 1), until: date(year + 1, 1, 1) };
}

/** What an instant means: as long as it is exact (FHIR R4 §3.1.1.4.7), a minute, a second or a millisecond. */
function momentsOf(text: string): { from: number; until: number } {
  const from = Date.parse(text);
  const exact = /T\d{2}:\d{2}(:\d{2}(\.\d+)?)?/.exec(text);
  const ms = exact?.[2] ? 1 : exact?.[1] ? 1000 : 60_000;
  return { from, until: from + ms };
}

function narrow<T extends number | string>(bounds: Bounds<T>, prefix: string, range: { from: T; until: T }): Bounds<T> {
  const later = (a: T | null, b: T) => (a === null || b > a ? b : a);
  const sooner = (a: T | null, b: T) => (a === null || b < a ? b : a);
  const { from, until } = bounds;
  if (prefix === 'eq') return { from: later(from, range.from), until: sooner(until, range.until) };
  if (prefix === 'ge') return { from: later(from, range.from), until };
  if (prefix === 'gt' || prefix === 'sa') return { from: later(from, range.until), until };
  if (prefix === 'lt' || prefix === 'eb') return { from, until: sooner(until, range.from) };
  return { from, until: sooner(until, range.until) };
}

/** What date searches leave: days where a day was written, instants where a time was. */
export interface DateBounds {
  readonly days: Bounds<LocalDate>;
  readonly instants: Bounds<number>;
}

/** Reads date searches that hold together (FHIR R4 §3.1.1.4.7); instants in milliseconds. */
export function dateBounds(searches: readonly string[] = []): DateBounds {
  let days: Bounds<LocalDate> = { from: null, until: null };
  let instants: Bounds<number> = { from: null, until: null };
  for (const { prefix, text } of searches.map(readSearch)) {
    const range = daysOf(text);
    if (range) days = narrow(days, prefix, range);
    else instants = narrow(instants, prefix, momentsOf(text));
  }
  return { days, instants };
}

/** The same where a day without a time is that day in UTC. */
export function instantBounds(searches: readonly string[] = []): Bounds<number> {
  const { days, instants } = dateBounds(searches);
  let bounds = instants;
  if (days.from !== null) bounds = { ...bounds, from: Math.max(bounds.from ?? -Infinity, Date.parse(days.from)) };
  if (days.until !== null) bounds = { ...bounds, until: Math.min(bounds.until ?? Infinity, Date.parse(days.until)) };
  return bounds;
}

export const isWithin = (at: number, { from, until }: Bounds<number>): boolean =>
  (from === null || at >= from) && (until === null || at < until);

/** A parsed search: what every one has, and its own. */
export interface Search {
  readonly _count: number;
  readonly _page?: string;
}

/** The same search as an address; dates that hold together stand apart, choices with commas between. */
function addressOf(base: string, type: string, search: Search, page: string | null): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(search)) {
    if (value === undefined || name === '_page') continue;
    const several = Array.isArray(value) ? value.map(String) : [String(value)];
    if (['date', 'start', '_lastUpdated'].includes(name)) for (const each of several) query.append(name, each);
    else query.append(name, several.join(','));
  }
  if (page !== null) query.append('_page', page);
  return `${base}/${type}?${query}`;
}

/**
 * The answer to a search.
 *
 * @param nextPage where the next page begins, `null` if this is the last one
 */
export function searchset(
  ctx: Ctx,
  type: string,
  search: Search,
  found: { readonly resources: readonly FhirResource[]; readonly total: number; readonly nextPage: string | null },
) {
  const base = baseOf(ctx);
  const self = addressOf(base, type, search, search._page ?? null);
  const next = found.nextPage === null ? null : addressOf(base, type, search, found.nextPage);
  const { resources, total } = found;
  return { ...toSearchset({ resources, total, self, next }, base), type: 'searchset' as const, total };
}

/** A page of a list that is there as a whole. */
export function pageOf<T>(all: readonly T[], { _count, _page }: Search) {
  const from = Number(_page ?? 0);
  const until = from + _count;
  return { page: all.slice(from, until), total: all.length, nextPage: until < all.length ? String(until) : null };
}

/** The wire schema lets a resource through as it is; its type comes from the standard's own definitions. */
export function asWire<T extends FhirResource>(resource: T): T & { id: string } & Record<string, unknown> {
  return withoutEmpty(resource) as T & { id: string } & Record<string, unknown>;
}

/** Whether one of some tokens is this identifier: by its value, or by system and value (§3.1.1.4.10). */
export function hasToken(
  identifiers: readonly { system?: string; value?: string }[] = [],
  wanted: readonly string[],
): boolean {
  return wanted.some((token) => {
    const bar = token.indexOf('|');
    const [system, value] = bar < 0 ? [null, token] : [token.slice(0, bar), token.slice(bar + 1)];
    return identifiers.some((each) => each.value === value && (system === null || (each.system ?? '') === system));
  });
}

import type { InputOf, OutputOf } from '@zaguan/contracts';
import type { bookAtDesk, typeAtDesk, Wish } from '@zaguan/contracts/desk';
import type { FoundTime, TimesCriteria } from '@zaguan/contracts/openings';
import type { Code } from '@zaguan/core/openings';
import { dayNumber } from '@zaguan/core/time';
import type { GroupKind, Part } from '@zaguan/core/visits';

export type TypeAtDesk = OutputOf<typeof typeAtDesk>;

/** A time that was chosen. */
export interface ChosenTime {
  readonly siteId: string;
  readonly providerId: string | null;
  readonly start: string;
}

/** One of several visits that are booked together. */
export interface GroupVisit extends ChosenTime {
  /** `null`: the patient of the booking. */
  readonly patientId: string | null;
  readonly visitTypeId: string;
  /** Not at this time: it goes onto the Bench. */
  readonly toBench: boolean;
}

/** Somebody of the household who comes too. */
export interface Other {
  readonly patientId: string;
  /** Empty: what the first one comes for. */
  readonly visitTypeId: string;
}

export interface Repeat {
  readonly everyWeeks: number;
  readonly count: number;
  readonly toleranceDays: number;
  readonly sameProvider: boolean;
}

/** What is known so far of a visit that is being booked: who, what, when, in any order. */
export interface Flow {
  /** Of this booking; its held times are known by it. */
  readonly flowId: string;
  /** Of this press of "Book": a second one with the same key books nothing more. */
  readonly key: string;
  readonly patientId: string | null;
  readonly visitTypeId: string;
  readonly reason: string;
  /** Of this visit; `null`: the type's. */
  readonly parts: readonly Part[] | null;
  readonly time: ChosenTime | null;
  readonly others: readonly Other[];
  readonly how: 'back-to-back' | 'side-by-side';
  readonly repeat: Repeat | null;
  /** The chosen times of several visits. */
  readonly group: readonly GroupVisit[] | null;
  /** Why rules are set aside. */
  readonly because: string;
  /** The relationship of who asks; empty: the patient. */
  readonly askedBy: string;
  readonly payerId: string;
  readonly hasReferral: boolean;
  readonly hasAuthorization: boolean;
  readonly requestId: string | null;
  readonly unplacedId: string | null;
  readonly sooner: Wish | null;
}

export const EMPTY_FLOW: Omit<Flow, 'flowId' | 'key'> = {
  patientId: null,
  visitTypeId: '',
  reason: '',
  parts: null,
  time: null,
  others: [],
  how: 'back-to-back',
  repeat: null,
  group: null,
  because: '',
  askedBy: '',
  payerId: '',
  hasReferral: false,
  hasAuthorization: false,
  requestId: null,
  unplacedId: null,
  sooner: null,
};

/** Every month for half a year, two days earlier or later. */
export const USUAL_REPEAT: Repeat = { everyWeeks: 4, count: 6, toleranceDays: 2, sameProvider: true };

/** What is asked for, as the server is asked: who and what, without when. */
export interface Wanted {
  readonly patientId: string;
  readonly visitTypeId: string;
  readonly parts: readonly Part[] | null;
  readonly payerId?: string;
  readonly hasReferral?: boolean;
  readonly hasAuthorization?: boolean;
}

/** `null` while who or what is missing. */
export function wantedOf(flow: Flow): Wanted | null {
  const { patientId, visitTypeId, parts, payerId, hasReferral, hasAuthorization } = flow;
  if (!patientId || !visitTypeId) return null;
  return { patientId, visitTypeId, parts, ...(payerId && { payerId, hasReferral, hasAuthorization }) };
}

/** How the visits of a booking belong together; `null`: it is one alone. */
export function groupKindOf(flow: Flow, follows: readonly string[]): GroupKind | null {
  if (flow.others.length) return 'household';
  if (flow.repeat) return 'series';
  return follows.length ? 'linked' : null;
}

/** Where, with whom and when is looked first. */
export interface Bounds {
  readonly siteIds: readonly string[];
  readonly providerIds: readonly string[] | null;
  readonly from: string;
  readonly days: number;
}

/** How far one looks, and how far one may, in days. */
const USUAL_DAYS = 42;
const MOST_DAYS = 62;

/** From a date on; within what a request wants where one is taken up, unless its last date is over. */
export function boundsOf(
  from: string,
  request: { siteId: string | null; providerId: string | null; fromDate: string; dueDate: string } | undefined,
): Bounds {
  if (!request) return { siteIds: [], providerIds: null, from, days: USUAL_DAYS };
  const { siteId, providerId, fromDate, dueDate } = request;
  const first = fromDate > from ? fromDate : from;
  const days = dueDate < first ? USUAL_DAYS : Math.min(MOST_DAYS, dayNumber(dueDate) - dayNumber(first) + 1);
  return { siteIds: siteId ? [siteId] : [], providerIds: providerId ? [providerId] : null, from: first, days };
}

type Kind = 'new' | 'established';
/** Whom a booking can be about, and as what they come. */
export interface People {
  readonly patient: { readonly id: string; readonly name: string; readonly kind: Kind };
  readonly household: readonly { readonly id: string; readonly name: string; readonly kind: Kind }[];
}

/** The search for times that hold together, from a date on. */
export function togetherOf(
  flow: Flow,
  wanted: Wanted,
  { context: { patient, household }, siteIds, from }: { context: People; siteIds: readonly string[]; from: string },
): TimesCriteria {
  const first = {
    visitTypeId: wanted.visitTypeId,
    kind: patient.kind,
    patientId: wanted.patientId,
    parts: wanted.parts,
  };
  const others = flow.others.map((other) => ({
    visitTypeId: other.visitTypeId || wanted.visitTypeId,
    kind: household.find(({ id }) => id === other.patientId)?.kind ?? 'established',
    patientId: other.patientId,
  }));
  return {
    members: [first, ...others],
    channel: 'desk',
    flowId: flow.flowId,
    siteIds,
    providerIds: null,
    from,
    days: 28,
    weekdays: null,
    ...{ fromMinute: 0, toMinute: 1440, language: null },
    household: { how: flow.how, mostWaitMin: 15 },
    series: flow.others.length ? null : flow.repeat,
  } as TimesCriteria;
}

/** Times that hold together, as visits of the booking's people. */
export function groupOf(flow: Flow, times: readonly FoundTime[]): GroupVisit[] {
  return times.map(({ siteId, providerId, start, visitTypeId }, i) => ({
    ...{ siteId, providerId, start, visitTypeId, toBench: false },
    patientId: i > 0 && flow.others.length ? flow.others[i - 1].patientId : null,
  }));
}

type AskedVisit = Wanted & ChosenTime;

/** The visits that would be booked, with their times; empty while one is missing. */
export function visitsOf(flow: Flow, wanted: Wanted, kind: GroupKind | null): readonly AskedVisit[] {
  if (kind !== null) return groupVisits(flow.group ?? [], wanted);
  return flow.time ? [{ ...wanted, ...flow.time }] : [];
}

/** Those of several that get their times now. */
export function groupVisits(group: readonly GroupVisit[], wanted: Wanted): readonly AskedVisit[] {
  return group
    .filter(({ toBench }) => !toBench)
    .map(({ siteId, providerId, start, patientId, visitTypeId }) => ({
      ...wantedIn(wanted, patientId, visitTypeId),
      ...{ siteId, providerId, start },
    }));
}

/** What one of several comes for: own parts and who pays are said of the first one's kind of visit alone. */
export function wantedIn(wanted: Wanted, patientId: string | null, visitTypeId: string): Wanted {
  const isFirst = patientId === null || patientId === wanted.patientId;
  if (isFirst && visitTypeId === wanted.visitTypeId) return wanted;
  return { patientId: patientId ?? wanted.patientId, visitTypeId, parts: null };
}

/** What "Book" sends. */
export function bookingOf(
  flow: Flow,
  wanted: Wanted,
  kind: GroupKind | null,
  { broken, askedBy }: { broken: readonly (readonly Code[])[]; askedBy: (patientId: string) => string | null },
): InputOf<typeof bookAtDesk> {
  const { flowId, key, reason, requestId, unplacedId } = flow;
  const asked = visitsOf(flow, wanted, kind);
  // A request, a place on the Bench and a wish to come sooner belong to the patient they are about.
  const own = asked.findIndex(({ patientId }) => patientId === wanted.patientId);
  const visits = asked.map((visit, i) => ({
    ...visit,
    ...(i === own && { requestId, unplacedId, sooner: flow.sooner }),
    reason,
    waive: broken[i]?.length ? { codes: broken[i], reason: flow.because } : null,
    askedBy: askedBy(visit.patientId),
  }));
  const later = (kind === null ? [] : (flow.group ?? [])).filter(({ toBench }) => toBench);
  const bench = later.map(({ patientId, visitTypeId, siteId, providerId }, i) => {
    const { patientId: who, parts } = wantedIn(wanted, patientId, visitTypeId);
    const isFirst = own < 0 && later.findIndex((each) => (each.patientId ?? wanted.patientId) === who) === i;
    const carried = isFirst && who === wanted.patientId ? { requestId } : {};
    return { patientId: who, visitTypeId, parts, siteId, providerId, reason, ...carried };
  });
  return { key, flowId, group: kind, visits, bench } as unknown as InputOf<typeof bookAtDesk>;
}

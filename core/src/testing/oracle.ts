import { Temporal } from 'temporal-polyfill';
import type { Accepts, DateHours, Session, Subject, TimeOff } from '../availability/index.ts';
import type { PatientKind } from '../availability/index.ts';
import type { WeeklyRule } from '../recurrence/index.ts';
import type { BookedVisit, Need } from '../visits/index.ts';
import type { RandomCase } from './randomClinic.ts';

/**
 * The same question answered the slow way, sharing nothing with the search: no masks, no zone table, no chain. Every
 * five-minute mark is tried with every choice of people and rooms, and each condition is read straight from
 * `DECISIONS`. A condition can be lifted by its name (`code`, or `code#need` for a condition of one need).
 */
export class Oracle {
  readonly c: RandomCase;
  readonly lifted: ReadonlySet<string>;
  private readonly dayStart: number;
  private readonly dayEnd: number;

  constructor(c: RandomCase, lifted: ReadonlySet<string> = new Set()) {
    this.c = c;
    this.lifted = lifted;
    this.dayStart = this.at(c.date, 0);
    this.dayEnd = this.at(plus(c.date, 1), 0);
  }

  /** All starts of the day that can be booked, as epoch minutes. */
  openStarts(): number[] {
    const found: number[] = [];
    for (let t = this.dayStart; t < this.dayEnd; t += 5) if (this.open(t)) found.push(t);
    return found;
  }

  open(start: number): boolean {
    return this.startConditions(start) && this.seatsExist(start);
  }

  private get s() {
    return this.c.snapshot;
  }
  private get type() {
    return this.s.visitTypes[0];
  }
  private get zone() {
    return this.s.sites[0].zone;
  }
  private get patientSide() {
    return this.c.wish.channel !== 'desk';
  }
  private get length() {
    return this.type.parts.reduce((sum, part) => sum + part.lengthMin, 0);
  }

  private at(date: string, minute: number): number {
    const key = `${this.zone}|${date}|${minute}`;
    const known = instants.get(key);
    if (known !== undefined) return known;
    const time = this.readInstant(date, minute);
    instants.set(key, time);
    return time;
  }
  private readInstant(date: string, minute: number): number {
    const day = minute === 1440 ? plus(date, 1) : date;
    const time = Temporal.PlainDateTime.from(day).add({ minutes: minute === 1440 ? 0 : minute });
    return time.toZonedDateTime(this.zone, { disambiguation: 'compatible' }).epochMilliseconds / 60_000;
  }
  private wall(t: number): { date: string; minute: number } {
    const key = `${this.zone}|${t}`;
    let known = walls.get(key);
    if (!known) {
      const z = Temporal.Instant.fromEpochMilliseconds(t * 60_000).toZonedDateTimeISO(this.zone);
      known = { date: z.toPlainDate().toString(), minute: z.hour * 60 + z.minute };
      walls.set(key, known);
    }
    return known;
  }
  private dateOf(t: number): string {
    return this.wall(t).date;
  }
  private wallMinute(t: number): number {
    return this.wall(t).minute;
  }

  private policy<T>(read: (p: RandomCase['snapshot']['policies'][number]) => T | null, otherwise: T): T {
    const rank = (p: { siteId: string | null; providerId: string | null }) =>
      (p.siteId ? 1 : 0) + (p.providerId ? 2 : 0);
    const rows = this.s.policies.filter(
      (p) =>
        p.visitTypeId === 't1' &&
        (!p.siteId || p.siteId === 'a') &&
        (!p.providerId || p.providerId === this.c.providerId),
    );
    for (const row of rows.sort((x, y) => rank(y) - rank(x))) {
      const value = read(row);
      if (value !== null) return value;
    }
    return otherwise;
  }

  private startConditions(start: number): boolean {
    const { wish, now, providerId } = this.c;
    const end = start + this.length;
    const site = this.s.sites[0];
    const visits = this.s.visits.filter((v) => v.id !== wish.ignoreVisitId);
    const patientsVisits = visits.filter((v) => wish.patientId && v.patientId === wish.patientId);
    const fails: Record<string, () => boolean> = {
      past: () => start < now,
      'not-performed': () =>
        (this.type.siteIds !== null && !this.type.siteIds.includes('a')) ||
        (providerId !== null && this.type.providerIds !== null && !this.type.providerIds.includes(providerId)) ||
        this.missingPool(),
      'site-closed': () => this.s.closures.some((c) => meets(start, end, this.span(c))),
      'not-before': () => Boolean(wish.notBefore && this.c.date < wish.notBefore),
      'gap-too-short': () =>
        providerId !== null && visits.some((v) => v.providerId === providerId && this.gapBroken(start, v)),
      'cap-reached': () => this.capReached(start, visits),
      'nobody-present': () => this.presenceMissing(start),
      'patient-elsewhere': () => patientsVisits.some((v) => v.start < end && v.end > start),
      spacing: () =>
        this.type.spacing.some((rule) =>
          patientsVisits.some(
            (v) =>
              v.visitTypeId === rule.otherTypeId &&
              rule.leastDays !== null &&
              Math.abs(Temporal.PlainDate.from(v.date).until(this.c.date).days) < rule.leastDays,
          ),
        ),
      ...(this.patientSide && {
        'outside-site-hours': () => this.cells(start, end).some((t) => !this.siteOpen(t)),
        'not-offered': () => !this.policy((p) => p.offered, false),
        'kind-not-offered': () =>
          !this.policy<readonly PatientKind[]>((p) => p.kinds, ['new', 'established']).includes(wish.kind),
        'not-bookable-online': () =>
          !site.bookableOnline ||
          (providerId !== null && !this.s.resources.find((r) => r.id === providerId)?.bookableOnline),
        'too-soon': () =>
          (this.policy((p) => p.leadMin, 0) > 0 && start < now + this.policy((p) => p.leadMin, 0)) ||
          this.pastDeadline(),
        'too-far': () =>
          this.c.date >
          plus(
            this.dateOf(now),
            this.policy((p) => p.windowDays, 90),
          ),
        'off-grid': () => this.wallMinute(start) % this.policy((p) => p.gridMin, 10) !== 0,
      }),
    };
    return Object.entries(fails).every(([code, failed]) => this.lifted.has(code) || !failed());
  }

  private missingPool(): boolean {
    return this.type.parts.some((part) =>
      part.needs.some((need) => need.what === 'pool' && !this.s.pools.some((pool) => pool.kind === need.poolKind)),
    );
  }

  private pastDeadline(): boolean {
    const by = this.policy(
      (p) =>
        p.leadWorkingDays === null || p.leadByMinute === null
          ? null
          : { days: p.leadWorkingDays, minute: p.leadByMinute },
      null as { days: number; minute: number } | null,
    );
    if (!by) return false;
    let date = this.c.date;
    for (let found = 0, back = 0; found < by.days; back++) {
      if (back > 60) return true;
      date = plus(date, -1);
      const noon = this.at(date, 0);
      const next = this.at(plus(date, 1), 0);
      let open = false;
      for (let t = noon; t < next && !open; t += 5)
        open = this.siteOpen(t) && !this.s.closures.some((c) => meets(t, t + 5, this.span(c)));
      if (open) found++;
    }
    return this.c.now > this.at(date, by.minute);
  }

  private siteOpen(t: number): boolean {
    const date = this.dateOf(t);
    return this.s.siteHours.some(
      (h) => holds(h.rule, date) && meets(t, t + 5, [this.at(date, h.fromMinute), this.at(date, h.toMinute)]),
    );
  }

  private span(row: Pick<TimeOff, 'startDate' | 'startMinute' | 'endDate' | 'endMinute'>): [number, number] {
    return [this.at(row.startDate, row.startMinute), this.at(row.endDate, row.endMinute)];
  }

  private cells(start: number, end: number): number[] {
    const list: number[] = [];
    for (let t = start; t < end; t += 5) list.push(t);
    return list;
  }

  private gapBroken(start: number, v: BookedVisit): boolean {
    let at = start;
    let from: number | null = null;
    let to = start;
    for (const part of this.type.parts) {
      if (part.needs.some((need) => need.what === 'provider')) {
        from ??= at;
        to = at + part.lengthMin;
      }
      at += part.lengthMin;
    }
    if (from === null) return false;
    const way = (one: string, two: string) =>
      one === two ? 0 : (this.s.travel.find((row) => row.fromSiteId === one && row.toSiteId === two)?.minutes ?? 0);
    if (from >= v.providerEnd)
      return from - v.providerEnd < Math.max(v.afterMin, this.type.beforeMin, way(v.siteId, 'a'));
    if (to <= v.providerStart)
      return v.providerStart - to < Math.max(this.type.afterMin, v.beforeMin, way('a', v.siteId));
    return false;
  }

  private capReached(start: number, visits: BookedVisit[]): boolean {
    const { providerId, wish } = this.c;
    const today = visits.filter((v) => v.date === this.c.date);
    const day = this.s.caps.some((cap) => {
      if (cap.siteId && cap.siteId !== 'a') return false;
      const sameType = (v: BookedVisit) => v.visitTypeId === 't1';
      const counted = today.filter(
        (v) => (!cap.siteId || v.siteId === cap.siteId) && (!cap.visitTypeId || v.visitTypeId === cap.visitTypeId),
      );
      if (cap.bucket === 'site-type-day')
        return counted.filter((v) => v.siteId === 'a' && sameType(v)).length >= cap.most;
      if (providerId === null) return false;
      const mine = counted.filter((v) => v.providerId === providerId);
      if (cap.bucket === 'provider-self-day')
        return wish.channel !== 'desk' && mine.filter((v) => v.selfBooked).length >= cap.most;
      return (cap.bucket === 'provider-type-day' ? mine.filter(sameType) : mine).length >= cap.most;
    });
    if (day || providerId === null) return day;
    return this.stretches(providerId).some(
      ({ from, to, caps }) =>
        start >= from &&
        start < to &&
        caps.some(
          (cap) =>
            (!cap.visitTypeId || cap.visitTypeId === 't1') &&
            (!cap.kind || cap.kind === wish.kind) &&
            visits.filter(
              (v) =>
                v.siteId === 'a' &&
                v.providerId === providerId &&
                v.start >= from &&
                v.start < to &&
                (!cap.visitTypeId || v.visitTypeId === cap.visitTypeId) &&
                (!cap.kind || v.kind === cap.kind),
            ).length >= cap.most,
        ),
    );
  }

  private presenceMissing(start: number): boolean {
    let at = start;
    for (const part of this.type.parts) {
      for (const need of part.needs) {
        if (need.what !== 'present') continue;
        const able = this.s.resources.filter((r) => r.capabilities.includes(need.capability));
        if (
          this.cells(at, at + part.lengthMin).some(
            (t) => t >= this.dayEnd || !able.some((r) => this.hoursAt(r.id, t).inForce && !this.away(r.id, t)),
          )
        )
          return true;
      }
      at += part.lengthMin;
    }
    return false;
  }

  private owns(subject: Subject, resourceId: string): boolean {
    return subject.of === 'resource'
      ? subject.id === resourceId
      : Boolean(this.s.pools.find((p) => p.id === subject.id)?.memberIds.includes(resourceId));
  }

  private readonly known = new Map<string, ReturnType<Oracle['readStretches']>>();
  private stretches(resourceId: string) {
    const rows = this.known.get(resourceId) ?? this.readStretches(resourceId);
    this.known.set(resourceId, rows);
    return rows;
  }

  /** Every stretch of the day at site `a`, in rising precedence: taken away, recurring, changed or extra. */
  private readStretches(resourceId: string) {
    const rows: {
      rank: number;
      from: number;
      to: number;
      accepts: Accepts;
      online: boolean;
      release: Session['release'];
      places: number;
      caps: Session['caps'];
    }[] = [];
    const put = (rank: number, from: number, to: number, terms: DateHours | Session, session: Session | null) =>
      rows.push({
        rank,
        from,
        to,
        accepts: terms.accepts,
        online: terms.online,
        release: session?.release ?? null,
        places: terms.places,
        caps: session?.caps ?? [],
      });
    for (const session of this.s.sessions.filter(
      (x) => this.owns(x.subject, resourceId) && holds(x.rule, this.c.date),
    )) {
      const change = this.s.dateChanges.find((c) => c.sessionId === session.id && c.date === this.c.date);
      if (session.siteId === 'a') {
        for (const [from, to] of this.plannedSpans(session)) put(change ? 0 : 1, from, to, session, session);
      }
      if (change?.hours?.siteId === 'a')
        put(
          2,
          this.at(this.c.date, change.hours.fromMinute),
          this.at(this.c.date, change.hours.toMinute),
          change.hours,
          session,
        );
    }
    for (const change of this.s.dateChanges) {
      if (
        change.sessionId === null &&
        change.date === this.c.date &&
        this.owns(change.subject, resourceId) &&
        change.hours?.siteId === 'a'
      )
        put(
          3,
          this.at(change.date, change.hours.fromMinute),
          this.at(change.date, change.hours.toMinute),
          change.hours,
          null,
        );
    }
    return rows.sort((x, y) => x.rank - y.rank);
  }

  private plannedSpans(session: Session): [number, number][] {
    if (!session.followsSiteHours)
      return [[this.at(this.c.date, session.fromMinute), this.at(this.c.date, session.toMinute)]];
    return this.s.siteHours
      .filter((h) => holds(h.rule, this.c.date))
      .map((h) => [this.at(this.c.date, h.fromMinute), this.at(this.c.date, h.toMinute)]);
  }

  private hoursAt(resourceId: string, t: number) {
    const over = this.stretches(resourceId).filter((row) => t >= row.from && t < row.to);
    const terms = over.at(-1) ?? null;
    const none =
      this.s.sessions.every((x) => !this.owns(x.subject, resourceId)) && this.stretches(resourceId).length === 0;
    const thing = ['room', 'equipment'].includes(this.s.resources.find((r) => r.id === resourceId)?.kind ?? '');
    const inForce = (thing && none && t < this.dayEnd) || over.some((row) => row.rank > 0);
    return { terms, inForce, taken: !inForce && over.length > 0 };
  }

  private away(resourceId: string, t: number): boolean {
    return this.s.timeOff.some(
      (o) => o.resourceId === resourceId && (o.siteId === null || o.siteId === 'a') && meets(t, t + 5, this.span(o)),
    );
  }

  private seatsExist(start: number): boolean {
    const needs: { need: Need; from: number; to: number; seats: { id: string; place: number }[] }[] = [];
    let at = start;
    let index = 0;
    const leading = this.type.parts.flatMap((p) => p.needs).filter((n) => n.what !== 'present');
    const lead = leading.find((n) => n.what === 'provider') ?? leading[0];
    for (const part of this.type.parts) {
      for (const need of part.needs) {
        if (need.what === 'present') continue;
        const to = at + part.lengthMin + (need.what === 'pool' ? Math.ceil((need.turnaroundMin ?? 0) / 5) * 5 : 0);
        const ids =
          need.what === 'provider'
            ? [this.c.providerId as string]
            : need.what === 'resource'
              ? [need.resourceId]
              : (this.s.pools.find((p) => p.kind === need.poolKind)?.memberIds ?? []);
        const leads = need.what === 'provider' || need.key === lead?.key;
        const all = ids
          .flatMap((id) => [0, 1].map((place) => ({ id, place })))
          .filter(({ id, place }) => place === 0 || this.stretches(id).some((x) => x.places > place));
        const seats = all.filter((seat) => this.seatFree(seat, this.cells(at, to), start, leads, index));
        if (!seats.length && ids.length) return false;
        if (ids.length) needs.push({ need, from: at, to, seats });
        index++;
      }
      at += part.lengthMin;
    }
    return this.lifted.has('never-together') || this.together(needs, 0, []);
  }

  private together(
    needs: { need: Need; from: number; to: number; seats: { id: string; place: number }[] }[],
    at: number,
    chosen: { id: string; place: number }[],
  ): boolean {
    if (at === needs.length) return true;
    return needs[at].seats.some((seat) => {
      const ok = chosen.every((other, i) => {
        const a = needs[at];
        const b = needs[i];
        if ((a.need.sameAs === b.need.key || b.need.sameAs === a.need.key) && other.id !== seat.id) return false;
        if ((a.need.differentFrom === b.need.key || b.need.differentFrom === a.need.key) && other.id === seat.id)
          return false;
        return !(a.from < b.to && b.from < a.to && other.id === seat.id && other.place === seat.place);
      });
      return ok && this.together(needs, at + 1, [...chosen, seat]);
    });
  }

  private seatFree(
    { id, place }: { id: string; place: number },
    cells: number[],
    start: number,
    leads: boolean,
    need: number,
  ): boolean {
    const { wish, now } = this.c;
    const lifted = (code: string) => this.lifted.has(`${code}#${need}`);
    return cells.every((t) => {
      const { terms, inForce, taken } = this.hoursAt(id, t);
      const released = terms?.release && start - now <= terms.release.beforeMin ? terms.release : null;
      const accepts = released?.accepts ?? terms?.accepts;
      const shown = released?.online ?? terms?.online ?? true;
      const strokes = this.s.brush
        .filter(
          (b) => b.resourceId === id && meets(t, t + 5, [this.at(b.date, b.fromMinute), this.at(b.date, b.toMinute)]),
        )
        .sort((x, y) => x.order - y.order);
      const stroke = strokes.at(-1)?.value ?? 'by-rule';
      const fails: [string, boolean][] = [
        ['no-hours', !inForce && !taken],
        ['changed-that-date', taken],
        ['time-off', this.away(id, t)],
        [
          'kept-free',
          this.s.keptFree.some(
            (k) =>
              k.resourceId === id &&
              (k.siteId === null || k.siteId === 'a') &&
              holds(k.rule, this.c.date) &&
              meets(t, t + 5, [this.at(this.c.date, k.fromMinute), this.at(this.c.date, k.toMinute)]),
          ),
        ],
        ['type-not-accepted', Boolean(accepts?.visitTypeIds && !accepts.visitTypeIds.includes('t1'))],
        ['kind-not-accepted', Boolean(accepts?.kinds && !accepts.kinds.includes(wish.kind))],
        ['invited-only', wish.channel === 'online' && Boolean(accepts?.invitedOnly)],
        [
          'desk-only',
          this.patientSide &&
            leads &&
            !(wish.channel === 'invited' && wish.deskTimesToo) &&
            (stroke === 'desk-only' || (stroke === 'by-rule' && !shown)),
        ],
        [
          'busy',
          this.s.occupied.some(
            (o) =>
              o.resourceId === id &&
              o.place === place &&
              o.visitId !== wish.ignoreVisitId &&
              o.start < t + 5 &&
              o.end > t,
          ) ||
            (place > 0 && (terms === null || terms.places <= place)),
        ],
      ];
      return fails.every(([code, failed]) => !failed || lifted(code));
    });
  }
}

/** What Temporal answered before: the calls are slow, and the same few days are asked for again and again. */
const instants = new Map<string, number>();
const walls = new Map<string, { date: string; minute: number }>();
const sums = new Map<string, string>();

function plus(date: string, days: number): string {
  const key = `${date}|${days}`;
  const sum = sums.get(key) ?? Temporal.PlainDate.from(date).add({ days }).toString();
  sums.set(key, sum);
  return sum;
}

function meets(start: number, end: number, [from, to]: readonly [number, number]): boolean {
  return start < to && end > from;
}

const held = new WeakMap<WeeklyRule, Map<string, boolean>>();

function holds(rule: WeeklyRule, date: string): boolean {
  const known = held.get(rule) ?? new Map<string, boolean>();
  held.set(rule, known);
  if (!known.has(date)) known.set(date, holdsOn(rule, date));
  return known.get(date) as boolean;
}

function holdsOn(rule: WeeklyRule, date: string): boolean {
  if (date < rule.effectiveFrom || (rule.effectiveUntil !== null && date > rule.effectiveUntil)) return false;
  const day = Temporal.PlainDate.from(date);
  const monday = (d: Temporal.PlainDate) => d.subtract({ days: d.dayOfWeek - 1 });
  const weeks = monday(Temporal.PlainDate.from(rule.anchorDate)).until(monday(day), { largestUnit: 'day' }).days / 7;
  return (rule.weekdays as readonly number[]).includes(day.dayOfWeek) && weeks % rule.everyWeeks === 0;
}

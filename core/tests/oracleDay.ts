import { Temporal } from 'temporal-polyfill';
import type { Accepts, DateHours, WorkingHours, Subject, TimeOff } from '../src/availability/index.ts';
import { holds, instants, meets, plus, walls } from './oracleDates.ts';
import type { RandomCase } from './randomClinic.ts';

/** A random case's day as the oracle reads it: wall clocks through Temporal, hours straight from the rows. */
export class OracleDay {
  readonly c: RandomCase;
  readonly lifted: ReadonlySet<string>;
  protected readonly dayStart: number;
  protected readonly dayEnd: number;

  constructor(c: RandomCase, lifted: ReadonlySet<string> = new Set()) {
    this.c = c;
    this.lifted = lifted;
    this.dayStart = this.at(c.date, 0);
    this.dayEnd = this.at(plus(c.date, 1), 0);
  }

  protected get s() {
    return this.c.snapshot;
  }

  protected get type() {
    return this.s.visitTypes[0];
  }

  protected get zone() {
    return this.s.sites[0].zone;
  }

  protected get patientSide() {
    return this.c.criteria.channel !== 'desk';
  }

  protected get length() {
    return this.type.parts.reduce((sum, part) => sum + part.lengthMin, 0);
  }

  protected at(date: string, minute: number): number {
    const key = `${this.zone}|${date}|${minute}`;
    const known = instants.get(key);
    if (known !== undefined) return known;
    const time = this.readInstant(date, minute);
    instants.set(key, time);
    return time;
  }

  protected readInstant(date: string, minute: number): number {
    const day = minute === 1440 ? plus(date, 1) : date;
    const time = Temporal.PlainDateTime.from(day).add({ minutes: minute === 1440 ? 0 : minute });
    return time.toZonedDateTime(this.zone, { disambiguation: 'compatible' }).epochMilliseconds / 60_000;
  }

  protected wall(t: number): { date: string; minute: number } {
    const key = `${this.zone}|${t}`;
    let known = walls.get(key);
    if (!known) {
      const z = Temporal.Instant.fromEpochMilliseconds(t * 60_000).toZonedDateTimeISO(this.zone);
      known = { date: z.toPlainDate().toString(), minute: z.hour * 60 + z.minute };
      walls.set(key, known);
    }
    return known;
  }

  protected dateOf(t: number): string {
    return this.wall(t).date;
  }

  protected wallMinute(t: number): number {
    return this.wall(t).minute;
  }

  protected policy<T>(read: (p: RandomCase['snapshot']['policies'][number]) => T | null, otherwise: T): T {
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

  protected siteOpen(t: number): boolean {
    const date = this.dateOf(t);
    return this.s.siteHours.some(
      (h) => holds(h.rule, date) && meets(t, t + 5, [this.at(date, h.fromMinute), this.at(date, h.toMinute)]),
    );
  }

  protected span(row: Pick<TimeOff, 'startDate' | 'startMinute' | 'endDate' | 'endMinute'>): [number, number] {
    return [this.at(row.startDate, row.startMinute), this.at(row.endDate, row.endMinute)];
  }

  protected cells(start: number, end: number): number[] {
    const list: number[] = [];
    for (let t = start; t < end; t += 5) list.push(t);
    return list;
  }

  protected owns(subject: Subject, resourceId: string): boolean {
    return subject.of === 'resource'
      ? subject.id === resourceId
      : Boolean(this.s.pools.find((p) => p.id === subject.id)?.memberIds.includes(resourceId));
  }

  protected readonly known = new Map<string, ReturnType<OracleDay['readStretches']>>();
  protected stretches(resourceId: string) {
    const rows = this.known.get(resourceId) ?? this.readStretches(resourceId);
    this.known.set(resourceId, rows);
    return rows;
  }

  /** Every stretch of the day at site `a`, in rising precedence: taken away, recurring, changed or extra. */
  protected readStretches(resourceId: string) {
    const rows: {
      rank: number;
      from: number;
      to: number;
      accepts: Accepts;
      online: boolean;
      release: WorkingHours['release'];
      places: number;
      caps: WorkingHours['caps'];
    }[] = [];
    const put = (
      rank: number,
      from: number,
      to: number,
      pattern: DateHours | WorkingHours,
      hoursRow: WorkingHours | null,
    ) =>
      rows.push({
        rank,
        from,
        to,
        accepts: pattern.accepts,
        online: pattern.online,
        release: hoursRow?.release ?? null,
        places: pattern.places,
        caps: hoursRow?.caps ?? [],
      });
    for (const hoursRow of this.s.workingHours.filter(
      (x) => this.owns(x.subject, resourceId) && holds(x.rule, this.c.date),
    )) {
      const change = this.s.dateChanges.find((c) => c.workingHoursId === hoursRow.id && c.date === this.c.date);
      if (hoursRow.siteId === 'a') {
        for (const [from, to] of this.plannedSpans(hoursRow)) put(change ? 0 : 1, from, to, hoursRow, hoursRow);
      }
      if (change?.hours?.siteId === 'a')
        put(
          2,
          this.at(this.c.date, change.hours.fromMinute),
          this.at(this.c.date, change.hours.toMinute),
          change.hours,
          hoursRow,
        );
    }
    for (const change of this.s.dateChanges) {
      if (
        change.workingHoursId === null &&
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

  protected plannedSpans(hoursRow: WorkingHours): [number, number][] {
    if (!hoursRow.followsSiteHours)
      return [[this.at(this.c.date, hoursRow.fromMinute), this.at(this.c.date, hoursRow.toMinute)]];
    return this.s.siteHours
      .filter((h) => holds(h.rule, this.c.date))
      .map((h) => [this.at(this.c.date, h.fromMinute), this.at(this.c.date, h.toMinute)]);
  }

  protected hoursAt(resourceId: string, t: number) {
    const over = this.stretches(resourceId).filter((row) => t >= row.from && t < row.to);
    const pattern = over.at(-1) ?? null;
    const inForce = (this.placesAllDay(resourceId) > 0 && t < this.dayEnd) || over.some((row) => row.rank > 0);
    return { pattern, inForce, taken: !inForce && over.length > 0 };
  }

  /** Visits at once in a room or device that has no hours at all; 0 for people and for whatever has hours. */
  protected placesAllDay(resourceId: string): number {
    const none =
      this.s.workingHours.every((x) => !this.owns(x.subject, resourceId)) && this.stretches(resourceId).length === 0;
    const thing = this.s.resources.find((r) => r.id === resourceId);
    return thing && none && (thing.kind === 'room' || thing.kind === 'equipment') ? (thing.places ?? 1) : 0;
  }

  protected away(resourceId: string, t: number): boolean {
    return this.s.timeOff.some(
      (o) => o.resourceId === resourceId && (o.siteId === null || o.siteId === 'a') && meets(t, t + 5, this.span(o)),
    );
  }
}

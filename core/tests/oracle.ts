import { Temporal } from 'temporal-polyfill';
import type { PatientKind } from '../src/availability/index.ts';
import type { InvitationLimits, PayerRule } from '../src/openings/index.ts';
import type { BookedVisit, Need } from '../src/visits/index.ts';
import { holds, meets, plus } from './oracleDates.ts';

import { OracleDay } from './oracleDay.ts';

/**
 * The same question answered the slow way, sharing nothing with the search: no masks, no zone table, no chain. Every
 * five-minute mark is tried with every choice of people and rooms, and each condition is read straight from
 * `DECISIONS`. A condition can be lifted by its name (`code`, or `code#need` for a condition of one need).
 */
export class Oracle extends OracleDay {
  /** All starts of the day that can be booked, as epoch minutes. */
  openStarts(): number[] {
    const found: number[] = [];
    for (let t = this.dayStart; t < this.dayEnd; t += 5) if (this.open(t)) found.push(t);
    return found;
  }

  open(start: number): boolean {
    return this.startConditions(start) && this.seatsExist(start);
  }

  private startConditions(start: number): boolean {
    const { criteria, now, providerId } = this.c;
    const end = start + this.length;
    const site = this.s.sites[0];
    const visits = this.s.visits.filter((v) => v.id !== criteria.ignoreVisitId);
    const patientsVisits = visits.filter((v) => criteria.patientId && v.patientId === criteria.patientId);
    const fails: Record<string, () => boolean> = {
      past: () => start < now,
      'not-performed': () =>
        (this.type.siteIds !== null && !this.type.siteIds.includes('a')) ||
        (providerId !== null && this.type.providerIds !== null && !this.type.providerIds.includes(providerId)) ||
        this.missingPool(),
      'site-closed': () => this.s.closures.some((c) => meets(start, end, this.span(c))),
      'not-before': () => Boolean(criteria.notBefore && this.c.date < criteria.notBefore),
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
              rule.minDays !== null &&
              Math.abs(Temporal.PlainDate.from(v.date).until(this.c.date).days) < rule.minDays,
          ),
        ),
      ...(criteria.payerId && {
        'payer-not-accepted': () => !this.payer((row) => row.accepted),
        'referral-needed': () => this.payer((row) => row.referral) && !criteria.hasReferral,
        'authorization-needed': () => this.payer((row) => row.authorization) && !criteria.hasAuthorization,
      }),
      ...(this.patientSide && criteria.limits && this.limitsBroken(start, criteria.limits)),
      ...(this.patientSide && {
        'no-new-patients': () =>
          criteria.kind === 'new' && this.s.resources.some((r) => r.id === providerId && r.acceptsNew === false),
        'outside-site-hours': () => this.cells(start, end).some((t) => !this.siteOpen(t)),
        'not-offered': () => !this.deskTimes && !this.policy((p) => p.offered, false),
        'kind-not-offered': () =>
          !this.deskTimes &&
          !this.policy<readonly PatientKind[]>((p) => p.kinds, ['new', 'established']).includes(criteria.kind),
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

  /** An invitation to desk times asks neither the online bit nor whether the type is offered. */
  private get deskTimes(): boolean {
    return this.c.criteria.channel === 'invited' && this.c.criteria.deskTimesToo === true;
  }

  /** What an invitation may book, read as it is written. */
  private limitsBroken(start: number, limits: InvitationLimits): Record<string, () => boolean> {
    const { date, providerId } = this.c;
    const minute = this.wallMinute(start);
    const weekday = Temporal.PlainDate.from(date).dayOfWeek;
    return {
      'invitation-type': () => !limits.typeIds.some((id) => id === 't1'),
      'invitation-site': () => limits.siteIds !== null && !limits.siteIds.some((id) => id === 'a'),
      'invitation-provider': () =>
        limits.providerIds !== null && providerId !== null && !limits.providerIds.some((id) => id === providerId),
      'invitation-dates': () => !((limits.fromDate ?? date) <= date && date <= (limits.untilDate ?? date)),
      'invitation-hours': () =>
        limits.hours?.every(
          (each) =>
            !each.weekdays.some((day) => day === weekday) || minute < each.fromMinute || minute >= each.toMinute,
        ) ?? false,
    };
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
    const { providerId, criteria } = this.c;
    const today = visits.filter((v) => v.date === this.c.date);
    const day = this.s.caps.some((cap) => {
      if (cap.siteId && cap.siteId !== 'a') return false;
      const sameType = (v: BookedVisit) => v.visitTypeId === 't1';
      const counted = today.filter(
        (v) => (!cap.siteId || v.siteId === cap.siteId) && (!cap.visitTypeId || v.visitTypeId === cap.visitTypeId),
      );
      if (cap.bucket === 'site-type-day')
        return counted.filter((v) => v.siteId === 'a' && sameType(v)).length >= cap.max;
      if (providerId === null) return false;
      const mine = counted.filter((v) => v.providerId === providerId);
      if (cap.bucket === 'provider-self-day')
        return criteria.channel !== 'desk' && mine.filter((v) => v.selfBooked).length >= cap.max;
      return (cap.bucket === 'provider-type-day' ? mine.filter(sameType) : mine).length >= cap.max;
    });
    if (day || providerId === null) return day;
    return this.stretches(providerId).some(
      ({ rank, from, to, caps }) =>
        rank > 0 &&
        start >= from &&
        start < to &&
        caps.some(
          (cap) =>
            (!cap.visitTypeId || cap.visitTypeId === 't1') &&
            (!cap.kind || cap.kind === criteria.kind) &&
            visits.filter(
              (v) =>
                v.siteId === 'a' &&
                v.providerId === providerId &&
                v.start >= from &&
                v.start < to &&
                (!cap.visitTypeId || v.visitTypeId === cap.visitTypeId) &&
                (!cap.kind || v.kind === cap.kind),
            ).length >= cap.max,
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

  private seatsExist(start: number): boolean {
    const needs: { need: Need; from: number; to: number; seats: string[] }[] = [];
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
        const seats = ids.filter((id) => this.seatFree(id, this.cells(at, to), start, leads, index));
        if (!seats.length && ids.length) return false;
        if (ids.length) needs.push({ need, from: at, to, seats });
        index++;
      }
      at += part.lengthMin;
    }
    return this.lifted.has('never-together') || this.together(needs, 0, []);
  }

  /** What the payer of the search says: the row that names most, a provider before a site, a site before a type. */
  private payer(read: (row: PayerRule) => boolean | null): boolean {
    const { criteria, providerId } = this.c;
    let best: { score: string; value: boolean } | null = null;
    for (const row of this.s.payerRules) {
      const value = read(row);
      if (row.payerId !== criteria.payerId || value === null) continue;
      if (row.providerId && row.providerId !== providerId) continue;
      if (row.siteId && row.siteId !== 'a') continue;
      if (row.visitTypeId && row.visitTypeId !== criteria.visitTypeId) continue;
      const score = [row.providerId, row.siteId, row.visitTypeId].map((id) => (id ? 1 : 0)).join('');
      if (!best || score > best.score) best = { score, value };
    }
    return best?.value ?? false;
  }

  private together(
    needs: { need: Need; from: number; to: number; seats: string[] }[],
    at: number,
    chosen: string[],
  ): boolean {
    if (at === needs.length)
      return chosen.every((id) =>
        this.enough(
          id,
          needs.filter((_, i) => chosen[i] === id),
        ),
      );
    return needs[at].seats.some((seat) => {
      const ok = chosen.every((other, i) => {
        const a = needs[at];
        const b = needs[i];
        if ((a.need.sameAs === b.need.key || b.need.sameAs === a.need.key) && other !== seat) return false;
        if ((a.need.differentFrom === b.need.key || b.need.differentFrom === a.need.key) && other === seat)
          return false;
        return true;
      });
      return ok && this.together(needs, at + 1, [...chosen, seat]);
    });
  }

  /** Whether a resource can take all of these in every minute, beside what it has. One alone was judged before. */
  private enough(id: string, wanted: { from: number; to: number }[]): boolean {
    const minutes = wanted.flatMap(({ from, to }) => Array.from({ length: to - from }, (_, i) => from + i));
    return minutes.every((minute) => {
      const mine = wanted.filter(({ from, to }) => from <= minute && minute < to).length;
      return mine < 2 || this.takenAt(id, minute) + mine <= this.placesAt(id, minute);
    });
  }

  private takenAt(id: string, minute: number): number {
    const mine = this.s.occupied.filter((o) => o.resourceId === id && o.visitId !== this.c.criteria.ignoreVisitId);
    return mine.filter((o) => o.start <= minute && minute < o.end).length;
  }

  private placesAt(id: string, minute: number): number {
    const t = minute - ((minute - this.dayStart) % 5);
    return Math.max(1, this.hoursAt(id, t).pattern?.places ?? this.placesAllDay(id));
  }

  private seatFree(id: string, cells: number[], start: number, leads: boolean, need: number): boolean {
    const { criteria, now } = this.c;
    const lifted = (code: string) => this.lifted.has(`${code}#${need}`);
    return cells.every((t) => {
      const { pattern, inForce, taken } = this.hoursAt(id, t);
      const released = pattern?.release && start - now <= pattern.release.beforeMin ? pattern.release : null;
      const accepts = released?.accepts ?? pattern?.accepts;
      const shown = released?.online ?? pattern?.online ?? true;
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
        ['kind-not-accepted', Boolean(accepts?.kinds && !accepts.kinds.includes(criteria.kind))],
        ['invited-only', criteria.channel === 'online' && Boolean(accepts?.invitedOnly)],
        [
          'desk-only',
          this.patientSide &&
            leads &&
            !(criteria.channel === 'invited' && criteria.deskTimesToo) &&
            (stroke === 'desk-only' || (stroke === 'by-rule' && !shown)),
        ],
        ['busy', [0, 1, 2, 3, 4].some((minute) => this.takenAt(id, t + minute) >= this.placesAt(id, t))],
      ];
      return fails.every(([code, failed]) => !failed || lifted(code));
    });
  }
}

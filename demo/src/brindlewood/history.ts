import { planVisit } from '@zaguan/core/booking';
import { ClinicIndex, type ClinicStore, openStarts } from '@zaguan/core/openings';
import { cellsOf, datesFrom, dayNumber, epochOfCell, type LocalDate, weekdayOf } from '@zaguan/core/time';
import type { Random } from '../random.ts';
import type { DemoVisit } from './demoVisit.ts';
import { outcomeOf } from './outcome.ts';
import type { DemoPatient } from './demoPatient.ts';
import { isHoliday, SITE } from './sites.ts';
import { courseDue, type Courses, startCourses, wantsOf } from './wants.ts';
import { TYPE, type TypeKey } from './visitTypeData.ts';

const DAY_MIN = 1440;
/** Booked so long before, hours kept for new patients are still kept for them. */
const EARLY_DAYS = 7;
const GRID_MIN = 10;

/**
 * Fills the schedule from a year ago to eight weeks from now, day by day, through the same planning as a booking: a
 * visit that the rules refuse is not there. Who wants what comes from each person's courses and some chance.
 */
export class History {
  readonly visits: DemoVisit[] = [];
  private readonly store: ClinicStore;
  private readonly random: Random;
  private readonly today: LocalDate;
  private readonly courses: Courses;
  private readonly performers = new Map<string, readonly string[]>();

  constructor(store: ClinicStore, patients: readonly DemoPatient[], today: LocalDate, from: LocalDate, random: Random) {
    this.store = store;
    this.random = random;
    this.today = today;
    this.courses = startCourses(patients, from, random);
  }

  /** Fills the dates one by one; the work can be left after each, so that what is planned is written meanwhile. */
  *fill(from: LocalDate, until: LocalDate): Generator<LocalDate> {
    for (const date of datesFrom(from, until)) {
      yield date;
      if (weekdayOf(date) === 7 || isHoliday(date)) continue;
      const ahead = dayNumber(date) - dayNumber(this.today);
      for (const want of wantsOf(this.courses, date, ahead, this.random)) {
        const visit = this.place(date, want.patient, want.type);
        if (visit) courseDue(this.courses, want, date, visit.outcome === 'noshow');
      }
    }
  }

  private place(date: LocalDate, patient: DemoPatient, type: TypeKey): DemoVisit | null {
    const siteId = SITE[patient.site];
    const kind = type === 'consult' ? ('new' as const) : ('established' as const);
    const day = this.store.day(siteId, date);
    // Some book late, when hours kept for new patients have been released.
    const leadDays = this.random.chance(0.3) ? 0 : EARLY_DAYS + this.random.int(0, 40);
    const index = new ClinicIndex(this.store, day.start - leadDays * DAY_MIN);
    const criteria = { visitTypeId: TYPE[type], kind, channel: 'desk', patientId: patient.id } as const;
    for (const providerId of this.whoCould(type, siteId, patient)) {
      const starts = cellsOf(openStarts(index, criteria, siteId, providerId, date)).filter(
        (cell) => day.wallOfCell[cell] % GRID_MIN === 0,
      );
      if (!starts.length) continue;
      const start = epochOfCell(day, this.random.pick(starts));
      const planned = planVisit(index, criteria, siteId, providerId, start);
      if (!planned.ok) throw new Error('A start that the search gives can be planned.');
      return this.take({ type, siteId, providerId, patient, kind, plan: planned.plan, leadDays });
    }
    return null;
  }

  private take(visit: Omit<DemoVisit, 'afterMin' | 'outcome' | 'n'>): DemoVisit {
    const { afterMin, beforeMin } = this.store.visitType(TYPE[visit.type]);
    const n = this.visits.length;
    const { plan } = visit;
    const id = String(n);
    this.store.put(
      id,
      {
        id,
        visitTypeId: TYPE[visit.type],
        siteId: visit.siteId,
        providerId: visit.providerId,
        patientId: visit.patient.id,
        kind: visit.kind,
        selfBooked: false,
        start: plan.start,
        end: plan.end,
        providerStart: plan.providerStart,
        providerEnd: plan.providerEnd,
        beforeMin,
        afterMin,
        date: plan.date,
      },
      plan.occupancy.map((row) => ({ ...row, visitId: id })),
    );
    const outcome = outcomeOf(this.courses, visit, this.random);
    const taken = { ...visit, afterMin, outcome, n };
    this.visits.push(taken);
    return taken;
  }

  /** The patient's own provider first, then two others of the site. */
  private whoCould(type: TypeKey, siteId: string, patient: DemoPatient): readonly (string | null)[] {
    const key = `${type}|${siteId}`;
    let all = this.performers.get(key);
    if (!all) {
      const { providerIds } = this.store.visitType(TYPE[type]);
      all = (providerIds ?? []).filter((id) => this.store.lane(id, siteId).everThere);
      this.performers.set(key, all);
    }
    if (!this.store.visitType(TYPE[type]).providerIds) return [null];
    const own = patient.household % Math.max(1, all.length);
    return [0, 1, 2].flatMap((i) => all[(own + i) % all.length] ?? []);
  }
}

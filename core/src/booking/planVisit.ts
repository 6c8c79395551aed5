import { placesIn } from '../availability/index.ts';
import {
  CELL_MIN,
  type EpochMinute,
  epochOfCell,
  epochToWall,
  hasCell,
  type Interval,
  type LocalDate,
} from '../time/index.ts';
import {
  capBucket,
  chooseSeats,
  type ClinicIndex,
  dayOfSeat,
  explainCell,
  type Frame,
  frameOf,
  judgeCell,
  NOTHING_WAIVED,
  type RuleAnswer,
  type Seat,
  SiteSweep,
  type SearchCriteria,
  type Waived,
} from '../openings/index.ts';
import { providerSpan } from '../visits/index.ts';

/**
 * One row to write: this resource is taken once for this stretch. Never includes provider buffers. Which of its places
 * it gets is settled when it is written (`givePlaces`).
 */
export interface OccupancyRow extends Interval {
  readonly resourceId: string;
  /** How many at once the resource's hours allow at most in this stretch. */
  readonly places: number;
  readonly part: number;
  readonly needKey: string;
}

/** A visit as it would be booked. */
export interface VisitPlan {
  readonly start: EpochMinute;
  readonly end: EpochMinute;
  /** Date of the start at the site. */
  readonly date: LocalDate;
  readonly providerStart: EpochMinute;
  readonly providerEnd: EpochMinute;
  readonly occupancy: readonly OccupancyRow[];
}

export type Planned =
  | { readonly ok: true; readonly plan: VisitPlan }
  | { readonly ok: false; readonly refused: readonly RuleAnswer[] };

/**
 * Decides whether a visit can be booked at a start, and with which members of its pools: best fit, that is, the
 * member whose free stretch around the part is the shortest, so that long free stretches stay whole.
 *
 * @param start an instant on a five-minute mark; throws `RangeError` otherwise
 * @param waived rules that are set aside for this visit (see `mayWaive`)
 */
export function planVisit(
  index: ClinicIndex,
  criteria: SearchCriteria,
  siteId: string,
  providerId: string | null,
  start: EpochMinute,
  waived: Waived = NOTHING_WAIVED,
): Planned {
  const { date } = epochToWall(index.site(siteId).zone, start);
  const day = index.day(siteId, date);
  const cell = (start - day.start) / CELL_MIN;
  if (!Number.isInteger(cell)) throw new RangeError('A start lies on a five-minute mark.');
  if (waived.length) return planAgainst(frameOf(index, criteria, siteId, providerId, date), cell, waived);
  const sweep = new SiteSweep(index, criteria, siteId, [providerId], date);
  const frame = frameOf(index, criteria, siteId, providerId, date);
  const [[open]] = sweep.over([day]);
  if (!open || !hasCell(open.starts, cell)) {
    const { answers } = explainCell(frame, cell);
    return { ok: false, refused: answers.filter((answer) => !answer.passed) };
  }
  const left = sweep.seatsAt(day, cell).map((seats, i) => bestFitFirst(frame, cell, frame.needs[i], seats));
  const seats = chooseSeats(frame, frame.needs, cell, left);
  if (!seats) throw new Error('A start that every rule passes has seats for all its needs.');
  return { ok: true, plan: toPlan(frame, cell, seats) };
}

/** A plan for one start with rules set aside: by what *Why not?* says without them. */
function planAgainst(frame: Frame, cell: number, waived: Waived): Planned {
  const { explanation, left } = judgeCell(frame, cell, waived);
  const refused = explanation.answers.filter((answer) => !answer.passed);
  if (refused.length) return { ok: false, refused };
  const seats = chooseSeats(
    frame,
    frame.needs,
    cell,
    left.map((each, i) => bestFitFirst(frame, cell, frame.needs[i], each)),
  );
  // Nobody to be had at all: a pool without members, or parts that can't be served together.
  if (!seats) return { ok: false, refused: [{ code: 'never-together', applies: true, passed: false, facts: [] }] };
  return { ok: true, plan: toPlan(frame, cell, seats) };
}

function toPlan(frame: Frame, cell: number, seats: readonly Seat[]): VisitPlan {
  const start = epochOfCell(frame.day, cell);
  const end = start + frame.lengthCells * CELL_MIN;
  const span = providerSpan(frame.type);
  return {
    start,
    end,
    date: frame.day.date,
    providerStart: span ? start + span.fromMin : start,
    providerEnd: span ? start + span.toMin : end,
    occupancy: frame.needs.map(({ need, part, fromCell, lengthCells }, i) => ({
      resourceId: seats[i].resourceId,
      places: mostPlaces(frame, seats[i], cell + fromCell, lengthCells),
      part,
      needKey: need.key,
      start: start + fromCell * CELL_MIN,
      end: start + (fromCell + lengthCells) * CELL_MIN,
    })),
  };
}

function mostPlaces(frame: Frame, seat: Seat, fromCell: number, lengthCells: number): number {
  const plan = dayOfSeat(frame, seat);
  let most = 1;
  for (let cell = fromCell; cell < fromCell + lengthCells; cell++) most = Math.max(most, placesIn(plan, cell));
  return most;
}

function bestFitFirst(frame: Frame, cell: number, need: Frame['needs'][number], seats: readonly Seat[]): Seat[] {
  /** Cells around the need in which the seat has a place left. */
  const slack = (seat: Seat): number => {
    const full = frame.index.fullCells(dayOfSeat(frame, seat), frame.day, frame.criteria.ignoreVisitId ?? null);
    let from = cell + need.fromCell;
    while (from > 0 && !hasCell(full, from - 1)) from--;
    let to = cell + need.fromCell + need.lengthCells;
    while (to < frame.day.cells && !hasCell(full, to)) to++;
    return to - from;
  };
  const preferred = preferredRooms(frame, cell);
  return seats
    .map((seat) => ({ seat, slack: slack(seat), later: preferred.has(seat.resourceId) ? 0 : 1 }))
    .sort((a, b) => a.later - b.later || a.slack - b.slack || (a.seat.resourceId < b.seat.resourceId ? -1 : 1))
    .map(({ seat }) => seat);
}

/** The rooms that the provider's hours at this start would rather have. */
function preferredRooms({ index, providerId, site, day }: Frame, cell: number): ReadonlySet<string> {
  if (providerId === null) return new Set();
  const { stretches, stretchOfCell } = index.resourceDay(providerId, site.id, day.date);
  const source = stretches[stretchOfCell[cell]]?.sourceId;
  const hours = index.plan.workingHours.find(({ id }) => id === source);
  return new Set(hours?.preferredRoomIds ?? []);
}

/**
 * Names of everything that booking this visit must be alone with: each resource that might serve it, each cap bucket
 * it would count in, and the patient. The server locks them in ascending order before it plans again.
 */
export function lockNames(
  index: ClinicIndex,
  criteria: SearchCriteria,
  siteId: string,
  providerId: string | null,
  date: LocalDate,
): string[] {
  const frame = frameOf(index, criteria, siteId, providerId, date);
  const names = new Set<string>();
  for (const need of frame.needs) for (const seat of need.seats) names.add(`resource:${seat.resourceId}`);
  if (providerId) names.add(`resource:${providerId}`);
  for (const cap of index.plan.caps) {
    const bucket = capBucket(cap, {
      providerId,
      siteId,
      visitTypeId: criteria.visitTypeId,
      selfBooked: criteria.channel !== 'desk',
    });
    if (bucket) names.add(`cap:${bucket}:${date}`);
  }
  if (criteria.patientId) names.add(`patient:${criteria.patientId}`);
  return [...names].sort();
}

import type { PatientKind, ResourceDay, Site } from '../availability/index.ts';
import { CELL_MIN, earlier, erode, type LocalDate, type Mask, type ZoneDay } from '../time/index.ts';
import { lengthOf, type Need, type VisitType } from '../visits/index.ts';
import type { ClinicIndex } from './clinicIndex.ts';
import { type SettledPolicy, settlePolicy } from './policy.ts';

/** Who asks: a patient on the clinic's pages, the desk, or the holder of an invitation. */
export type Channel = 'online' | 'desk' | 'invited';

/** What is asked for, apart from where and when. */
export interface Wish {
  readonly visitTypeId: string;
  readonly kind: PatientKind;
  readonly channel: Channel;
  /** An invitation whose template says "desk times too" ignores the online bit. */
  readonly deskTimesToo?: boolean;
  readonly patientId?: string | null;
  /** From the answers before booking: not before this date. */
  readonly notBefore?: LocalDate | null;
  /** The visit being moved: its own time does not stand in its way. */
  readonly ignoreVisitId?: string | null;
}

/** One place of one resource: what a need can be served by. */
export interface Seat {
  readonly resourceId: string;
  readonly place: number;
}

/** A need of one part, with the cells it takes counted from the visit's start and all that could serve it. */
export interface FramedNeed {
  readonly need: Need;
  readonly part: number;
  readonly fromCell: number;
  readonly lengthCells: number;
  readonly seats: readonly Seat[];
  /** The need whose hours decide what is accepted and shown online: the provider's, else the first one. */
  readonly leads: boolean;
}

/** One visit type asked for at one site with one provider (or none needed) on one date: what every rule judges. */
export interface Frame {
  readonly index: ClinicIndex;
  readonly wish: Wish;
  readonly site: Site;
  readonly type: VisitType;
  readonly providerId: string | null;
  readonly day: ZoneDay;
  readonly policy: SettledPolicy;
  readonly lengthCells: number;
  /** Needs that take a resource. */
  readonly needs: readonly FramedNeed[];
  /** Needs for someone present, who is not taken. */
  readonly presence: readonly FramedNeed[];
  /** Pool kinds the type asks for that this site does not have. */
  readonly missingPools: readonly string[];
}

/** Whether a visit type needs a provider at all. */
export function needsProvider(type: VisitType): boolean {
  return type.parts.some((part) => part.needs.some((need) => need.what === 'provider'));
}

/** Builds the frame. Throws `RangeError` if the snapshot lacks the site, type or provider. */
export function frameOf(
  index: ClinicIndex,
  wish: Wish,
  siteId: string,
  providerId: string | null,
  date: LocalDate,
): Frame {
  const type = index.visitType(wish.visitTypeId);
  const day = index.day(siteId, date);
  const needs: FramedNeed[] = [];
  const presence: FramedNeed[] = [];
  const missingPools: string[] = [];
  const leadKey = leadNeed(type)?.key;
  let at = 0;
  type.parts.forEach((part, partIndex) => {
    const length = part.lengthMin / CELL_MIN;
    for (const need of part.needs) {
      const extra = need.what === 'pool' ? Math.ceil((need.turnaroundMin ?? 0) / CELL_MIN) : 0;
      const framed = { need, part: partIndex, fromCell: at, lengthCells: length + extra };
      if (need.what === 'present') {
        presence.push({ ...framed, seats: [], leads: false });
        continue;
      }
      const members = membersFor(index, need, siteId, providerId);
      if (members === null) missingPools.push(need.what === 'pool' ? need.poolKind : 'provider');
      const seats = (members ?? []).flatMap((id) => seatsOf(index, id, siteId, date));
      needs.push({ ...framed, seats, leads: need.what === 'provider' || need.key === leadKey });
    }
    at += length;
  });
  return {
    index,
    wish,
    type,
    providerId,
    day,
    needs,
    presence,
    missingPools,
    site: index.site(siteId),
    policy: settlePolicy(index.snapshot.policies, type.id, siteId, providerId),
    lengthCells: lengthOf(type) / CELL_MIN,
  };
}

function leadNeed(type: VisitType): Need | undefined {
  const all = type.parts.flatMap((part) => part.needs).filter((need) => need.what !== 'present');
  return all.find((need) => need.what === 'provider') ?? all[0];
}

function membersFor(
  index: ClinicIndex,
  need: Need,
  siteId: string,
  providerId: string | null,
): readonly string[] | null {
  if (need.what === 'provider') return providerId === null ? null : [providerId];
  if (need.what === 'resource') return [need.resourceId];
  if (need.what === 'pool') return index.pool(siteId, need.poolKind)?.memberIds ?? null;
  return [];
}

/** As many seats as the day's hours give places at once, at least one. */
function seatsOf(index: ClinicIndex, resourceId: string, siteId: string, date: LocalDate): Seat[] {
  const stretches = index.resourceDay(resourceId, siteId, date).stretches;
  const places = stretches.reduce((most, stretch) => Math.max(most, stretch.places), 1);
  return Array.from({ length: places }, (_, place) => ({ resourceId, place }));
}

/** The planned day of a seat's resource. */
export function dayOfSeat(frame: Frame, seat: Seat): ResourceDay {
  return frame.index.resourceDay(seat.resourceId, frame.site.id, frame.day.date);
}

/** Starts at which all cells of a need lie in `cells`. */
export function startsInside(need: Pick<FramedNeed, 'fromCell' | 'lengthCells'>, cells: Mask): Mask {
  return earlier(erode(cells, need.lengthCells), need.fromCell);
}

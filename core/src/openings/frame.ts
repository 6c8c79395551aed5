import type { PatientKind, ResourceDay, Site } from '../availability/index.ts';
import { CELL_MIN, earlier, erode, EVERY_CELL, type LocalDate, type Mask, type ZoneDay } from '../time/index.ts';
import { lengthOf, type Need, type Part, type VisitType } from '../visits/index.ts';
import type { ClinicIndex } from './clinicIndex.ts';
import type { ClinicStore } from './clinicStore.ts';
import type { InvitationLimits } from './limits.ts';
import { type PayerTerms, payerTerms } from './payerTerms.ts';
import type { SettledPolicy } from './policy.ts';

/** Who asks: a patient on the clinic's pages, the desk, or the holder of an invitation. */
export type Channel = 'online' | 'desk' | 'invited';

/** What is asked for, apart from where and when. */
export interface SearchCriteria {
  readonly visitTypeId: string;
  /** This visit's own parts, where they are not the type's. */
  readonly parts?: readonly Part[] | null;
  readonly kind: PatientKind;
  readonly channel: Channel;
  /** An invitation whose template says "desk times too" ignores the online bit, and whether the type is offered online at all. */
  readonly deskTimesToo?: boolean;
  /** What the invitation that is used may book; `null` or left out: anything. */
  readonly limits?: InvitationLimits | null;
  readonly patientId?: string | null;
  /** Who pays, if that was asked; `null` or left out: the patient, or nobody asked. */
  readonly payerId?: string | null;
  readonly hasReferral?: boolean;
  readonly hasAuthorization?: boolean;
  /** From the answers before booking: not before this date. */
  readonly notBefore?: LocalDate | null;
  /** The visit being moved: its own time does not stand in its way. */
  readonly ignoreVisitId?: string | null;
}

/** A resource that a need can be served by. */
export interface Seat {
  readonly resourceId: string;
}

/** A need of one part, with the cells it takes counted from the visit's start and who could serve it. */
export interface TimedNeed {
  readonly need: Need;
  readonly part: number;
  readonly fromCell: number;
  readonly lengthCells: number;
  readonly memberIds: readonly string[];
  /** The need whose hours decide what is accepted and shown online: the provider's, else the first one. */
  readonly leads: boolean;
}

/** The same on a date, with all seats that could serve it. */
export interface SeatedNeed extends TimedNeed {
  readonly seats: readonly Seat[];
}

/**
 * One visit type asked for at one site with one provider (or none needed) on one date: what every rule judges. A
 * search moves one frame from date to date, so no rule may keep it.
 */
export class Frame {
  readonly index: ClinicIndex;
  readonly criteria: SearchCriteria;
  readonly site: Site;
  readonly type: VisitType;
  readonly providerId: string | null;
  readonly policy: SettledPolicy;
  /** What the payer of the search comes to here; `null` if none is named. */
  readonly payer: PayerTerms | null;
  readonly lengthCells: number;
  /** Needs for someone present, who is not taken. */
  readonly presence: readonly TimedNeed[];
  /** Pool kinds the type asks for that this site does not have. */
  readonly missingPools: readonly string[];
  /** Whoever could serve a need that is not the provider's. */
  readonly poolMembers: ReadonlySet<string>;
  /** The needs without who the provider is. */
  private readonly unfilled: readonly TimedNeed[];
  private known: readonly TimedNeed[] | null = null;
  private date: ZoneDay;
  private framed: readonly SeatedNeed[] | null = null;
  private left: Map<string, Int16Array> | null = null;

  /**
   * Throws `RangeError` if the snapshot lacks the site, type or provider.
   *
   * @param like a frame of the same criteria and site with another provider, whose other needs are the same
   */
  constructor(
    index: ClinicIndex,
    criteria: SearchCriteria,
    siteId: string,
    providerId: string | null,
    date: LocalDate,
    like?: Frame,
  ) {
    this.index = index;
    this.criteria = criteria;
    this.site = index.site(siteId);
    this.type = like?.type ?? askedType(index.store, criteria);
    this.providerId = providerId;
    this.policy = index.policy(criteria.visitTypeId, siteId, providerId);
    this.payer = criteria.payerId
      ? payerTerms(index.plan.payerRules, criteria.payerId, { visitTypeId: criteria.visitTypeId, siteId, providerId })
      : null;
    this.lengthCells = lengthOf(this.type) / CELL_MIN;
    this.date = like?.day ?? index.day(siteId, date);
    if (like) {
      this.unfilled = like.unfilled;
      this.presence = like.presence;
      this.poolMembers = like.poolMembers;
      this.missingPools = like.missingPools;
      return;
    }
    const { needs, presence, missingPools, poolMembers } = criteria.parts
      ? workOutNeeds(index, this.type, siteId)
      : needsAtSite(index, this.type, siteId);
    this.unfilled = needs;
    this.presence = presence;
    this.poolMembers = poolMembers;
    this.missingPools = providerId === null && needsProvider(this.type) ? [...missingPools, 'provider'] : missingPools;
  }

  /** Needs that take a resource, on any date. */
  get timedNeeds(): readonly TimedNeed[] {
    const memberIds = this.providerId === null ? [] : [this.providerId];
    this.known ??= this.unfilled.map((need) => (need.need.what === 'provider' ? { ...need, memberIds } : need));
    return this.known;
  }

  get day(): ZoneDay {
    return this.date;
  }

  /** The needs with their seats. */
  get needs(): readonly SeatedNeed[] {
    this.framed ??= this.timedNeeds.map((need) => ({
      ...need,
      seats: need.memberIds.map((resourceId) => ({ resourceId })),
    }));
    return this.framed;
  }

  /** How many visits more a seat could take in each cell of the day. */
  placesLeft(seat: Seat): Int16Array {
    this.left ??= new Map();
    let left = this.left.get(seat.resourceId);
    if (!left) {
      left = this.index.placesLeft(dayOfSeat(this, seat), this.day, this.criteria.ignoreVisitId ?? null);
      this.left.set(seat.resourceId, left);
    }
    return left;
  }

  /** Asks about another day, of the same zone. */
  moveTo(day: ZoneDay): void {
    this.date = day;
    this.framed = null;
    this.left = null;
  }
}

/** What is asked for: the visit type, with the visit's own parts where it has some. */
export function askedType(
  store: ClinicStore,
  { visitTypeId, parts }: Pick<SearchCriteria, 'visitTypeId' | 'parts'>,
): VisitType {
  const type = store.visitType(visitTypeId);
  return parts ? { ...type, parts } : type;
}

/** Whether a visit type needs a provider at all. */
export function needsProvider(type: VisitType): boolean {
  return type.parts.some((part) => part.needs.some((need) => need.what === 'provider'));
}

/** Builds the frame. Throws `RangeError` if the snapshot lacks the site, type or provider. */
export function frameOf(
  index: ClinicIndex,
  criteria: SearchCriteria,
  siteId: string,
  providerId: string | null,
  date: LocalDate,
): Frame {
  return new Frame(index, criteria, siteId, providerId, date);
}

interface NeedsAtSite {
  readonly needs: readonly TimedNeed[];
  readonly presence: readonly TimedNeed[];
  readonly missingPools: readonly string[];
  readonly poolMembers: ReadonlySet<string>;
}

/** They change only with the plan, and a store's plan never does. */
const needsByStore = new WeakMap<ClinicStore, Map<string, NeedsAtSite>>();

function needsAtSite(index: ClinicIndex, type: VisitType, siteId: string): NeedsAtSite {
  let ofStore = needsByStore.get(index.store);
  if (!ofStore) {
    ofStore = new Map();
    needsByStore.set(index.store, ofStore);
  }
  const key = `${type.id}|${siteId}`;
  let found = ofStore.get(key);
  if (!found) {
    found = workOutNeeds(index, type, siteId);
    ofStore.set(key, found);
  }
  return found;
}

function workOutNeeds(index: ClinicIndex, type: VisitType, siteId: string): NeedsAtSite {
  const needs: TimedNeed[] = [];
  const presence: TimedNeed[] = [];
  const missingPools: string[] = [];
  const leadKey = leadNeed(type)?.key;
  let at = 0;
  type.parts.forEach((part, partIndex) => {
    const length = part.lengthMin / CELL_MIN;
    for (const need of part.needs) {
      const extra = need.what === 'pool' ? Math.ceil((need.turnaroundMin ?? 0) / CELL_MIN) : 0;
      const framed = { need, part: partIndex, fromCell: at, lengthCells: length + extra };
      if (need.what === 'present') {
        presence.push({ ...framed, memberIds: [], leads: false });
        continue;
      }
      const members = membersFor(index, need, siteId);
      if (members === null && need.what === 'pool') missingPools.push(need.poolKind);
      needs.push({ ...framed, memberIds: members ?? [], leads: need.what === 'provider' || need.key === leadKey });
    }
    at += length;
  });
  return { needs, presence, missingPools, poolMembers: new Set(needs.flatMap((need) => need.memberIds)) };
}

function leadNeed(type: VisitType): Need | undefined {
  const all = type.parts.flatMap((part) => part.needs).filter((need) => need.what !== 'present');
  return all.find((need) => need.what === 'provider') ?? all[0];
}

function membersFor(index: ClinicIndex, need: Need, siteId: string): readonly string[] | null {
  if (need.what === 'resource') return [need.resourceId];
  if (need.what === 'pool') return index.pool(siteId, need.poolKind)?.memberIds ?? null;
  return [];
}

/** The planned day of a seat's resource. */
export function dayOfSeat(frame: Frame, seat: Seat): ResourceDay {
  const { index, site, day } = frame;
  return index.planOn(index.lane(seat.resourceId, site.id), day);
}

/** Whether an invitation passes by what the clinic shows online. */
export function passesByInvitation({ channel, deskTimesToo }: SearchCriteria): boolean {
  return channel === 'invited' && deskTimesToo === true;
}

/** Starts at which all cells of a need lie in `cells`. */
export function startsInside(need: Pick<TimedNeed, 'fromCell' | 'lengthCells'>, cells: Mask): Mask {
  return cells === EVERY_CELL ? EVERY_CELL : earlier(erode(cells, need.lengthCells), need.fromCell);
}

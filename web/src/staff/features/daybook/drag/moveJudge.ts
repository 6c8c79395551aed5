import type { OutputOf } from '@zaguan/contracts';
import type { moveSnapshot } from '@zaguan/contracts/booking';
import { judgeMove, whereItFits } from '@zaguan/core/booking';
import { resizedParts } from '@zaguan/core/findTime';
import { ClinicIndex, type Code, type Facts, type SearchCriteria } from '@zaguan/core/openings';

/** What the server gives of the clinic for moving one visit on one date. */
export type MoveBasis = OutputOf<typeof moveSnapshot>;

/** A place and time that the visit hangs over; instants in epoch minutes. */
export interface Place {
  readonly siteId: string;
  readonly providerId: string | null;
  readonly start: number;
  /** How long it would be; `null`: as it is. */
  readonly lengthMin: number | null;
}

/** Where it fits, by site and provider: the starts in time order. */
export type FitsByPlace = Readonly<Record<string, readonly number[]>>;

/** What stands against a place. */
export interface PlaceJudgment {
  readonly refused: readonly { readonly code: Code; readonly facts: readonly Facts[] }[];
  /** Whether a reason of who moves it would do there. */
  readonly byReason: boolean;
}

/** How a place is called among those where it fits. */
export const placeKey = (siteId: string, providerId: string | null): string => `${siteId} ${providerId ?? ''}`;

/** Judges every place of one date for one visit, by the rules that the server asks when it is dropped. */
export class MoveJudge {
  private readonly index: ClinicIndex;
  private readonly criteria: SearchCriteria;

  constructor(
    visitId: string,
    private readonly basis: MoveBasis,
  ) {
    const { visitTypeId, kind, patientId, parts } = basis.visit;
    this.index = new ClinicIndex(basis.snapshot, Math.floor(Date.parse(basis.now) / 60_000));
    this.criteria = {
      ...{ visitTypeId, kind, patientId, ignoreVisitId: visitId, channel: 'desk' },
      parts: parts as SearchCriteria['parts'],
    };
  }

  fits(): FitsByPlace {
    const { siteIds, date } = this.basis;
    const rows = whereItFits(this.index, this.criteria, siteIds, date as never);
    return Object.fromEntries(rows.map((row) => [placeKey(row.siteId, row.providerId), row.starts]));
  }

  /** The visit as long as that; `null` where its parts can't be. */
  private withLength(lengthMin: number): SearchCriteria | null {
    const { visit, snapshot } = this.basis;
    const type = snapshot.visitTypes.find(({ id }) => id === visit.visitTypeId);
    const parts = type && resizedParts((this.criteria.parts ?? type.parts) as typeof type.parts, lengthMin);
    return parts ? { ...this.criteria, parts } : null;
  }

  /** What stands against a place; `null` where it can't be put by who asks. */
  judge(place: Place): PlaceJudgment | null {
    const { siteIds, waiveAt, snapshot } = this.basis;
    const { siteId, providerId, lengthMin } = place;
    // Sites of others are not theirs to move to.
    if (!siteIds.includes(siteId)) return null;
    if (providerId !== null && !snapshot.resources.some(({ id }) => id === providerId)) return null;
    const criteria = lengthMin === null ? this.criteria : this.withLength(lengthMin);
    if (!criteria) return null;
    const { refused, byReason } = judgeMove(this.index, criteria, place);
    return {
      refused: refused.map(({ code, facts }) => ({ code, facts })),
      byReason: byReason && waiveAt.includes(siteId),
    };
  }
}

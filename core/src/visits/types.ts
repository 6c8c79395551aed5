import type { PatientKind } from '../availability/index.ts';
import type { EpochMinute, LocalDate } from '../time/index.ts';

/** What a part of a visit needs while it lasts. `key` names the need so that another part can be bound to it. */
export type Need = {
  readonly key: string;
  /** Must be the same resource as the one that serves this other need. */
  readonly sameAs?: string | null;
  /** Must be another resource than the one that serves this other need. */
  readonly differentFrom?: string | null;
} & (
  | { readonly what: 'provider' }
  | { readonly what: 'resource'; readonly resourceId: string }
  | { readonly what: 'pool'; readonly poolKind: string; readonly turnaroundMin?: number }
  /** Someone able to do this works at the site to the end of the part; they are not occupied. */
  | { readonly what: 'present'; readonly capability: string }
);

/** A contiguous stretch of a visit, in multiples of five minutes. A part may need nothing but time. */
export interface Part {
  readonly lengthMin: number;
  readonly needs: readonly Need[];
}

/** Least and greatest calendar days between a patient's visits of this type and another. */
export interface Spacing {
  readonly otherTypeId: string;
  readonly minDays: number | null;
  readonly maxDays: number | null;
}

/** What is booked (FHIR HealthcareService): parts in order, buffers, who performs it where. */
export interface VisitType {
  readonly id: string;
  readonly parts: readonly Part[];
  /** Gap kept before and after, between visits of the same provider; in minutes. */
  readonly beforeMin: number;
  readonly afterMin: number;
  /** `null`: any. */
  readonly providerIds: readonly string[] | null;
  readonly siteIds: readonly string[] | null;
  readonly spacing: readonly Spacing[];
  /** Visits that follow this one at fixed times after its start (patch test: read at 48 h and at 96 h). */
  readonly links?: readonly { readonly followTypeId: string; readonly offsetMin: number }[];
}

/** A booked visit or a hold, as the search must know it. */
export interface BookedVisit {
  readonly id: string;
  readonly visitTypeId: string;
  readonly siteId: string;
  readonly providerId: string | null;
  readonly patientId: string | null;
  readonly kind: PatientKind;
  readonly selfBooked: boolean;
  readonly start: EpochMinute;
  readonly end: EpochMinute;
  /** From the provider's first part to the end of the last one; equal to start and end where there is no provider. */
  readonly providerStart: EpochMinute;
  readonly providerEnd: EpochMinute;
  readonly beforeMin: number;
  readonly afterMin: number;
  /** Date of the start at the site. */
  readonly date: LocalDate;
  /** Its own parts, where they are not the type's. */
  readonly parts?: readonly Part[] | null;
  /** The rules it was booked against, by their codes, with a reason. */
  readonly waived?: readonly string[] | null;
}

/** Whole length of a visit type in minutes. */
export function lengthOf(type: Pick<VisitType, 'parts'>): number {
  return type.parts.reduce((sum, part) => sum + part.lengthMin, 0);
}

/** Minutes from a visit's start to the provider's first part and to the end of the last; `null` without provider. */
export function providerSpan(type: Pick<VisitType, 'parts'>): { fromMin: number; toMin: number } | null {
  let at = 0;
  let fromMin: number | null = null;
  let toMin = 0;
  for (const part of type.parts) {
    if (part.needs.some((need) => need.what === 'provider')) {
      fromMin ??= at;
      toMin = at + part.lengthMin;
    }
    at += part.lengthMin;
  }
  return fromMin === null ? null : { fromMin, toMin };
}

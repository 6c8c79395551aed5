import type { LocalDate } from '../time/index.ts';
import { ageOn } from './age.ts';

export const RIGHTS = ['book', 'sign', 'receive', 'see'] as const;
export type Right = (typeof RIGHTS)[number];

/** Somebody who may act for a patient between two dates (FHIR RelatedPerson). A household gives no right by itself. */
export interface Relationship {
  readonly kind: string;
  readonly rights: readonly Right[];
  /** First and last date, both included; `null`: until majority, or for good where the patient is of age. */
  readonly fromDate: LocalDate;
  readonly untilDate: LocalDate | null;
}

/** Years at which childhood ends in a state; 18 where none is named (from memory: AL and NE 19, MS 21). */
const MAJORITY: Readonly<Record<string, number>> = { AL: 19, NE: 19, MS: 21 };

/** Years at which nobody is a child any more, wherever they live. */
export const OF_AGE_ANYWHERE = Math.max(18, ...Object.values(MAJORITY));

/** Age of majority in a state of the United States, by its two letters. */
export function majorityAge(region: string): number {
  return MAJORITY[region] ?? 18;
}

/** Rights that parents and guardians have because the patient is a child: they end with majority. */
const FOR_A_CHILD: readonly string[] = ['parent', 'guardian', 'step-parent', 'foster-parent'];

/**
 * What a relationship allows on a date. Exactly from and exactly until count; on the birthday of majority a parent's
 * rights are over, unless a date was set that goes beyond: somebody then decided so.
 */
export function rightsOn(
  relationship: Relationship,
  date: LocalDate,
  patient: { readonly birthDate: LocalDate; readonly majorityAge: number },
): readonly Right[] {
  const { fromDate, untilDate, kind, rights } = relationship;
  if (date < fromDate || (untilDate !== null && date > untilDate)) return [];
  const ofAge = ageOn(patient.birthDate, date) >= patient.majorityAge;
  return ofAge && untilDate === null && FOR_A_CHILD.includes(kind) ? [] : rights;
}

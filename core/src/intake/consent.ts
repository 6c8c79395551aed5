import type { LocalDate } from '../time/index.ts';
import { ageOn } from '../patients/index.ts';

/** Who signs (FHIR Consent.performer); `self` is the patient. */
export const SIGNERS = ['self', 'parent', 'guardian', 'representative'] as const;
export type Signer = (typeof SIGNERS)[number];

/** Majority in most states; a setting per state comes with set-up. */
export const MAJORITY_AGE = 18;

/** A drawn signature: strokes of points on a field 600 wide and 200 high. */
export type Strokes = readonly (readonly (readonly [number, number])[])[];

/** Fewer points than this are a slip of the finger, not a signature. */
const MIN_POINTS = 8;

export interface ConsentAct {
  readonly agreed: boolean;
  readonly signer: Signer;
  readonly signerName: string;
  readonly signature: { readonly kind: 'typed' } | { readonly kind: 'drawn'; readonly strokes: Strokes };
}

export const CONSENT_FAULTS = ['not-agreed', 'name-empty', 'signature-empty', 'minor-signs'] as const;
export type ConsentFault = (typeof CONSENT_FAULTS)[number];

/** What keeps a consent from counting as signed, in reading order. A minor can't sign for themselves. */
export function consentFaults(act: ConsentAct, birthDate: LocalDate, signedOn: LocalDate): ConsentFault[] {
  const faults: ConsentFault[] = [];
  if (!act.agreed) faults.push('not-agreed');
  if (act.signer === 'self' && ageOn(birthDate, signedOn) < MAJORITY_AGE) faults.push('minor-signs');
  if (!/\p{L}/u.test(act.signerName)) faults.push('name-empty');
  if (
    act.signature.kind === 'drawn' &&
    act.signature.strokes.reduce((sum, stroke) => sum + stroke.length, 0) < MIN_POINTS
  )
    faults.push('signature-empty');
  return faults;
}

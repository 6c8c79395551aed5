import type { PatientKind } from '../availability/index.ts';
import { addMonths, type LocalDate } from '../time/index.ts';

/** A form or consent with the visits it is asked for. `null`: any. */
export interface PacketRule {
  readonly documentId: string;
  readonly visitTypeIds: readonly string[] | null;
  readonly kinds: readonly PatientKind[] | null;
  /** A consent stays valid for so many months after signing; `null`: asked every time. */
  readonly validMonths: number | null;
}

export interface PacketFacts {
  readonly visitTypeId: string;
  readonly kind: PatientKind;
  readonly visitDate: LocalDate;
  /** Earlier signatures of this person, and only if it is known for sure who they are. */
  readonly signed: readonly { readonly documentId: string; readonly on: LocalDate }[];
}

export type PacketReason = 'asked' | 'other-visit-type' | 'other-kind' | 'still-valid';

export interface PacketEntry {
  readonly documentId: string;
  readonly reason: PacketReason;
  /** Last day on which an earlier signature still counts. */
  readonly validUntil: LocalDate | null;
}

/** What one visit asks for, and for every other document why not. What is still valid is never asked again. */
export function packetFor(rules: readonly PacketRule[], facts: PacketFacts): PacketEntry[] {
  return rules.map(({ documentId, visitTypeIds, kinds, validMonths }) => {
    if (visitTypeIds && !visitTypeIds.includes(facts.visitTypeId))
      return { documentId, reason: 'other-visit-type', validUntil: null };
    if (kinds && !kinds.includes(facts.kind)) return { documentId, reason: 'other-kind', validUntil: null };
    const last = facts.signed
      .filter((each) => each.documentId === documentId)
      .map((each) => each.on)
      .sort()
      .at(-1);
    const validUntil = last && validMonths !== null ? addMonths(last, validMonths) : null;
    return validUntil !== null && facts.visitDate <= validUntil
      ? { documentId, reason: 'still-valid', validUntil }
      : { documentId, reason: 'asked', validUntil };
  });
}

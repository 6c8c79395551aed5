import type { Mask } from '../time/index.ts';
import type { Code, Facts } from './codes.ts';
import type { Frame, FramedNeed, Seat } from './frame.ts';

interface Common {
  readonly code: Code;
  /** `online`: a patient is bound by it, the desk is not. */
  readonly binds: 'everyone' | 'online';
}

/** Judges starts as a whole. */
export interface StartRule extends Common {
  readonly scope: 'start';
  /** Starts hidden by this rule (cells of the day). */
  hide(frame: Frame): Mask;
  /** The values that hid the start at this cell; asked only for a start that `hide` hides. */
  facts(frame: Frame, cell: number): Facts[];
}

/** Judges one seat for one need; the need is met while any seat is left (see `chain.ts`). */
export interface MemberRule extends Common {
  readonly scope: 'member';
  /** Starts at which this seat passes. */
  passes(frame: Frame, need: FramedNeed, seat: Seat): Mask;
  facts(frame: Frame, need: FramedNeed, seat: Seat, cell: number): Facts;
}

/** Judges needs together, after each was judged alone. */
export interface JointRule extends Common {
  readonly scope: 'joint';
  /** Whether the needs can hinder each other at all; if not, the rule is skipped. */
  concerns(frame: Frame): boolean;
  /** Whether a choice of seats serves all needs at this start, out of those left by the member rules. */
  served(frame: Frame, cell: number, left: readonly (readonly Seat[])[]): boolean;
  facts(frame: Frame, cell: number): Facts[];
}

export type Rule = StartRule | MemberRule | JointRule;

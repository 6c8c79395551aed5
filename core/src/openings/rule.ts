import type { ResourceDay } from '../availability/index.ts';
import type { Mask } from '../time/index.ts';
import type { Code, Facts } from './codes.ts';
import type { TimedNeed, Frame, SeatedNeed, Seat } from './frame.ts';

interface Common {
  readonly code: Code;
  /** `online`: a patient is bound by it, the desk is not. */
  readonly binds: 'everyone' | 'online';
}

interface StartCommon extends Common {
  readonly scope: 'start';
  /** Starts hidden by this rule (cells of the day); `NO_CELLS` for none. Not to be written to. */
  hide(frame: Frame): Mask;
  /** The values that hid the start at this cell; asked only for a start that `hide` hides. */
  facts(frame: Frame, cell: number): Facts[];
}

/**
 * Judges starts as a whole. `variesBy` says what its answer changes with, so that a search over many days and
 * providers asks no more often than it must: `criteria`: the visit type, site and provider alone; `date`: the date and the
 * online policy too, but not the provider; `provider-date`: all of them. A rule that says too little would be asked
 * too seldom: the search is tested against an oracle over several days and providers.
 */
export type StartRule =
  | (StartCommon & { readonly variesBy: 'criteria' | 'date' })
  | (StartCommon & {
      readonly variesBy: 'provider-date';
      /** Whether it could hide anything of this provider's on any date; asked once, so that most are never asked. */
      mayHide(frame: Frame): boolean;
    });

/** A start rule that is asked for each provider and date. */
export type ProviderDateRule = Extract<StartRule, { variesBy: 'provider-date' }>;

interface MemberCommon extends Common {
  readonly scope: 'member';
  facts(frame: Frame, need: SeatedNeed, seat: Seat, cell: number): Facts;
}

/** A resource on one day: what is planned, and the cells in which it has no place left, worked out when asked. */
export interface SeatDay {
  readonly plan: ResourceDay;
  full(): Mask;
}

/** Judges one seat by its cells alone, whoever asks: such answers are kept from one search to the next. */
export interface StandingRule extends MemberCommon {
  readonly judges: 'cells';
  readonly binds: 'everyone';
  /** Cells in which this seat passes; `EVERY_CELL` for all. Not to be written to. */
  cells(seat: SeatDay): Mask;
}

/** Judges one seat for one need of this search. */
export interface CriteriaRule extends MemberCommon {
  readonly judges: 'starts';
  /** Whether a day planned like this could fail for any search; asked once a plan, so that most are never judged. */
  mayRefuse(plan: ResourceDay): boolean;
  /** Starts at which this seat passes; `EVERY_CELL` for all. Not to be written to. */
  passes(frame: Frame, need: TimedNeed, seat: Seat): Mask;
}

/** Judges one seat; the need is met while any seat is left (see `chain.ts`). */
export type MemberRule = StandingRule | CriteriaRule;

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

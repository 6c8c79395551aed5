import { CELL_MIN, type EpochMinute, epochToWall, hasCell } from '../time/index.ts';
import { binds, evaluateNeed, NOTHING_WAIVED, passes, seatsLeft, type Waived } from './chain.ts';
import type { ClinicIndex } from './clinicIndex.ts';
import { CODES, type Code, type Facts } from './codes.ts';
import { type Frame, frameOf, type SearchCriteria, type Seat } from './frame.ts';
import type { Rule } from './rule.ts';
import { JOINT_RULES, MEMBER_RULES, START_RULES } from './rules/index.ts';

/** One rule's answer about one start. */
export interface RuleAnswer {
  readonly code: Code;
  /** False: the rule does not bind this asker (the desk is not held to online rules). */
  readonly applies: boolean;
  readonly passed: boolean;
  /** What decided, for each thing that failed; empty when passed. */
  readonly facts: readonly Facts[];
}

export interface Explanation {
  readonly offered: boolean;
  /** Every rule in the order of explaining. */
  readonly answers: readonly RuleAnswer[];
}

/**
 * Why a start is or is not offered: reads the same masks as the search at one start, and asks the rules that hide it
 * for their facts.
 *
 * @param start an instant on a five-minute mark; throws `RangeError` otherwise
 */
export function whyNot(
  index: ClinicIndex,
  criteria: SearchCriteria,
  siteId: string,
  providerId: string | null,
  start: EpochMinute,
): Explanation {
  const frame = frameOf(index, criteria, siteId, providerId, epochToWall(index.site(siteId).zone, start).date);
  const cell = (start - frame.day.start) / CELL_MIN;
  if (!Number.isInteger(cell)) throw new RangeError('A start lies on a five-minute mark.');
  return explainCell(frame, cell);
}

/** The same for a cell of a frame, with some rules set aside. */
export function explainCell(frame: Frame, cell: number, waived: Waived = NOTHING_WAIVED): Explanation {
  return judgeCell(frame, cell, waived).explanation;
}

/** The same, with the seats that could serve each need: all that the rules which were not set aside leave. */
export function judgeCell(frame: Frame, cell: number, waived: Waived): { explanation: Explanation; left: Seat[][] } {
  const failed = new Map<Code, Facts[]>();
  const counts = (rule: Rule) => binds(rule, frame) && !waived.includes(rule.code);
  for (const rule of START_RULES) {
    if (counts(rule) && hasCell(rule.hide(frame), cell)) failed.set(rule.code, rule.facts(frame, cell));
  }
  const judged = frame.needs.map((need) => evaluateNeed(frame, need, waived));
  const left = seatsLeft(judged, cell);
  for (const rule of MEMBER_RULES) {
    const facts = judged.flatMap(({ need, hiddenBy }) => {
      const hidden = hiddenBy.get(rule.code);
      if (!hidden || !hasCell(hidden, cell)) return [];
      const refused = need.seats.filter((seat) => !hasCell(passes(rule, frame, need, seat), cell));
      return refused.map((seat) => ({ need: need.need.key, part: need.part, ...rule.facts(frame, need, seat, cell) }));
    });
    if (facts.length) failed.set(rule.code, facts);
  }
  for (const rule of JOINT_RULES) {
    if (rule.concerns(frame) && !rule.served(frame, cell, left)) failed.set(rule.code, rule.facts(frame, cell));
  }
  const applies = (code: Code) =>
    [...START_RULES, ...MEMBER_RULES, ...JOINT_RULES].some((rule) => rule.code === code && counts(rule));
  const answers = CODES.map((code) => ({
    code,
    applies: applies(code),
    passed: !failed.has(code),
    facts: failed.get(code) ?? [],
  }));
  return { explanation: { offered: failed.size === 0, answers }, left };
}

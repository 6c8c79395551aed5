import { CELL_MIN, type EpochMinute, epochToWall, hasCell } from '../time/index.ts';
import { binds, evaluateNeed, passes, seatsLeft } from './chain.ts';
import type { ClinicIndex } from './clinicIndex.ts';
import { CODES, type Code, type Facts } from './codes.ts';
import { type Frame, frameOf, type SearchCriteria } from './frame.ts';
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

/** The same for a cell of a frame. */
export function explainCell(frame: Frame, cell: number): Explanation {
  const failed = new Map<Code, Facts[]>();
  for (const rule of START_RULES) {
    if (binds(rule, frame) && hasCell(rule.hide(frame), cell)) failed.set(rule.code, rule.facts(frame, cell));
  }
  const judged = frame.needs.map((need) => evaluateNeed(frame, need));
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
    if (rule.concerns(frame) && !rule.served(frame, cell, seatsLeft(judged, cell)))
      failed.set(rule.code, rule.facts(frame, cell));
  }
  const applies = (code: Code) =>
    [...START_RULES, ...MEMBER_RULES, ...JOINT_RULES].some((rule) => rule.code === code && binds(rule, frame));
  return {
    offered: failed.size === 0,
    answers: CODES.map((code) => ({
      code,
      applies: applies(code),
      passed: !failed.has(code),
      facts: failed.get(code) ?? [],
    })),
  };
}

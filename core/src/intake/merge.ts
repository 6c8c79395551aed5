import type { Answers, AnswerValue } from './types.ts';

/** An answer as it is kept: `rev` counts the form's savings, so that a device can say which state it knew. */
export interface StoredAnswer {
  readonly value: readonly AnswerValue[];
  readonly rev: number;
}
export type StoredAnswers = Readonly<Record<string, StoredAnswer>>;

/** One answer as a device changed it, with the `rev` it had seen of it (0: never saw one). */
export interface AnswerChange {
  readonly linkId: string;
  readonly value: readonly AnswerValue[];
  readonly base: number;
}

export interface Merged {
  readonly answers: StoredAnswers;
  readonly changed: readonly string[];
  /** Both devices changed the answer: what stands is kept, and the patient chooses. */
  readonly conflicts: readonly { readonly linkId: string; readonly mine: readonly AnswerValue[] }[];
}

const same = (a: readonly AnswerValue[], b: readonly AnswerValue[]) =>
  a.length === b.length && a.every((value, i) => value === b[i]);

/**
 * Joins what a device changed with what stands, answer by answer: different answers of two devices both stay; the same
 * answer sent twice changes nothing; one that another device changed meanwhile is a conflict and stays as it is.
 */
export function mergeChanges(stored: StoredAnswers, changes: readonly AnswerChange[], nextRev: number): Merged {
  const answers: Record<string, StoredAnswer> = { ...stored };
  const changed: string[] = [];
  const conflicts: { linkId: string; mine: readonly AnswerValue[] }[] = [];
  for (const { linkId, value, base } of changes) {
    const now = answers[linkId] ?? { value: [], rev: 0 };
    if (same(now.value, value)) continue;
    if (now.rev > base) conflicts.push({ linkId, mine: value });
    else {
      answers[linkId] = { value, rev: nextRev };
      changed.push(linkId);
    }
  }
  return { answers, changed, conflicts };
}

/** The answers alone. */
export function plainAnswers(stored: StoredAnswers): Answers {
  return Object.fromEntries(Object.entries(stored).map(([linkId, { value }]) => [linkId, value]));
}

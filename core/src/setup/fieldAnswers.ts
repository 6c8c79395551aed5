import { isDate } from '../time/index.ts';

/** Kinds of fields and questions that a clinic adds by itself. */
export const FIELD_KINDS = ['text', 'choice', 'date', 'number', 'yes-no'] as const;
export type FieldKind = (typeof FIELD_KINDS)[number];

export type Answer = string | number | boolean;

export interface CustomQuestion {
  readonly id: string;
  readonly kind: FieldKind;
  readonly required: boolean;
  /** Values that may be chosen. */
  readonly choices: readonly string[];
}

export type AnswerFault = 'needed' | 'not-a-date' | 'not-a-number' | 'not-a-choice' | 'not-yes-or-no' | 'not-text';

/**
 * What is wrong with the answers to a clinic's own fields, by field; empty when all can be kept. Answers to fields that
 * are not asked are for the caller to leave out.
 */
export function answerFaults(
  fields: readonly CustomQuestion[],
  answers: Readonly<Record<string, Answer | undefined>>,
): Record<string, AnswerFault> {
  const faults: Record<string, AnswerFault> = {};
  for (const field of fields) {
    const fault = faultOf(field, answers[field.id]);
    if (fault) faults[field.id] = fault;
  }
  return faults;
}

function faultOf({ kind, required, choices }: CustomQuestion, answer: Answer | undefined): AnswerFault | null {
  if (answer === undefined || answer === '' || (typeof answer === 'string' && !answer.trim()))
    return required ? 'needed' : null;
  switch (kind) {
    case 'text':
      return typeof answer === 'string' ? null : 'not-text';
    case 'choice':
      return typeof answer === 'string' && choices.includes(answer) ? null : 'not-a-choice';
    case 'date':
      return typeof answer === 'string' && isDate(answer) ? null : 'not-a-date';
    case 'number':
      return typeof answer === 'number' && Number.isFinite(answer) ? null : 'not-a-number';
    case 'yes-no':
      return typeof answer === 'boolean' ? null : 'not-yes-or-no';
  }
}

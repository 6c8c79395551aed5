import { isDate } from '../time/index.ts';
import { shownItems } from './shown.ts';
import {
  type Answers,
  type AnswerValue,
  type EnableWhen,
  type FormItem,
  flatten,
  type IntakeForm,
  isBlank,
} from './types.ts';

/** Longest answer to a short and to a long question. */
export const MAX_ANSWER_LENGTH = { string: 120, text: 1000 } as const;

export const ANSWER_FAULTS = [
  'needed',
  'wrong-kind',
  'not-a-date',
  'not-a-whole-number',
  'out-of-range',
  'too-long',
  'not-an-option',
  'only-one',
  'no-such-question',
] as const;
export type AnswerFault = (typeof ANSWER_FAULTS)[number];

/** What is wrong with one value, or `null`. Empty answers are not values. */
function faultOfValue(item: FormItem, value: AnswerValue): AnswerFault | null {
  switch (item.type) {
    case 'group':
      return 'no-such-question';
    case 'boolean':
      return typeof value === 'boolean' ? null : 'wrong-kind';
    case 'integer':
      if (typeof value !== 'number' || !Number.isInteger(value)) return 'not-a-whole-number';
      return value < (item.min ?? -Infinity) || value > (item.max ?? Infinity) ? 'out-of-range' : null;
    case 'date':
      return typeof value === 'string' && isDate(value) ? null : 'not-a-date';
    case 'choice':
      return item.options?.some(({ code }) => code === value) ? null : 'not-an-option';
    case 'string':
    case 'text':
      if (typeof value !== 'string') return 'wrong-kind';
      return value.length > MAX_ANSWER_LENGTH[item.type] ? 'too-long' : null;
  }
}

/** What is wrong with the answer to one question, shown or not; an unfinished form may be saved with gaps. */
export function faultOfAnswer(form: IntakeForm, linkId: string, value: readonly AnswerValue[]): AnswerFault | null {
  const item = flatten(form.items).find((entry) => entry.item.linkId === linkId)?.item;
  if (!item) return 'no-such-question';
  if (value.length > 1 && !item.repeats) return 'only-one';
  for (const each of value) {
    const fault = faultOfValue(item, each);
    if (fault) return fault;
  }
  return null;
}

/** Everything that keeps a form from being handed in, in reading order. Hidden questions ask for nothing. */
export function faultsOf(form: IntakeForm, answers: Answers): { linkId: string; fault: AnswerFault }[] {
  const shown = shownItems(form, answers);
  return flatten(form.items).flatMap(({ item }) => {
    if (!shown.has(item.linkId) || item.type === 'group') return [];
    const value = (answers[item.linkId] ?? []).filter((each) => !isBlank(each));
    const fault = value.length ? faultOfAnswer(form, item.linkId, value) : item.required ? 'needed' : null;
    return fault ? [{ linkId: item.linkId, fault }] : [];
  });
}

/** The answers that count: those of shown questions, without blanks. */
export function answersThatCount(form: IntakeForm, answers: Answers): Answers {
  const shown = shownItems(form, answers);
  return Object.fromEntries(
    Object.entries(answers)
      .map(([linkId, value]) => [linkId, value.filter((each) => !isBlank(each))] as const)
      .filter(([linkId, value]) => shown.has(linkId) && value.length > 0),
  );
}

/** Questions whose answer must not wait for the visit. */
export function raisedFlags(form: IntakeForm, answers: Answers): FormItem[] {
  const counting = answersThatCount(form, answers);
  return flatten(form.items)
    .map(({ item }) => item)
    .filter(({ linkId, redFlag }) => redFlag && counting[linkId]?.includes(redFlag.answer));
}

export type FormFault = {
  readonly linkId: string;
  readonly fault:
    | ('twice' | 'no-options' | 'unknown-question' | 'circle')
    /** A condition that no answer to its question fulfills: the item would never be shown by it. */
    | 'never-holds'
    /** An answer that nobody can give: the flag would never be raised. */
    | 'never-raised';
};

/** Whether some answer that the question takes fulfills the condition (FHIR R4 Questionnaire.item.enableWhen). */
function canHold({ operator, answer }: EnableWhen, question: FormItem): boolean {
  if (operator === 'exists') return typeof answer === 'boolean' && (question.type !== 'group' || !answer);
  if (operator === '!=') return true;
  if (isBlank(answer)) return false;
  if (operator === '=') return faultOfValue(question, answer) === null;
  // What has an order: figures, dates, and texts by their letters.
  if (question.type === 'date') return typeof answer === 'string' && isDate(answer);
  if (question.type === 'string' || question.type === 'text') return typeof answer === 'string';
  if (question.type !== 'integer' || typeof answer !== 'number') return false;
  const { min = -Infinity, max = Infinity } = question;
  switch (operator) {
    case '>':
      return max > answer;
    case '>=':
      return max >= answer;
    case '<':
      return min < answer;
    case '<=':
      return min <= answer;
  }
}

/** What would make a form unusable, before it is ever shown to anyone. */
export function formFaults(form: IntakeForm): FormFault[] {
  const entries = flatten(form.items);
  const byId = new Map(entries.map((entry) => [entry.item.linkId, entry]));
  /** What an item's being shown depends on: its conditions' questions and its groups'. */
  const dependsOn = (linkId: string, seen: ReadonlySet<string> = new Set()): ReadonlySet<string> => {
    const entry = byId.get(linkId);
    if (!entry) return seen;
    let all = seen;
    for (const item of [entry.item, ...entry.parents])
      for (const { question } of item.enableWhen ?? [])
        if (!all.has(question)) all = dependsOn(question, new Set([...all, question]));
    return all;
  };
  return entries.flatMap(({ item }, i): FormFault[] => [
    ...(entries.findIndex((other) => other.item.linkId === item.linkId) < i
      ? [{ linkId: item.linkId, fault: 'twice' as const }]
      : []),
    ...(item.type === 'choice' && !item.options?.length ? [{ linkId: item.linkId, fault: 'no-options' as const }] : []),
    ...(item.enableWhen?.some(({ question }) => !byId.has(question))
      ? [{ linkId: item.linkId, fault: 'unknown-question' as const }]
      : []),
    ...(dependsOn(item.linkId).has(item.linkId) ? [{ linkId: item.linkId, fault: 'circle' as const }] : []),
    ...(item.enableWhen?.some((condition) => {
      const question = byId.get(condition.question)?.item;
      return question && !canHold(condition, question);
    })
      ? [{ linkId: item.linkId, fault: 'never-holds' as const }]
      : []),
    ...(item.redFlag && faultOfValue(item, item.redFlag.answer) !== null
      ? [{ linkId: item.linkId, fault: 'never-raised' as const }]
      : []),
  ]);
}

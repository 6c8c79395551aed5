import {
  type Answers,
  type AnswerValue,
  type EnableWhen,
  type FormItem,
  flatten,
  type IntakeForm,
  isBlank,
} from './types.ts';

/** `null` where the two can't be put in order (a number and a text, or two yes/no). */
function compare(a: AnswerValue, b: AnswerValue): number | null {
  if (typeof a === 'number' && typeof b === 'number') return a - b;
  // Dates are written so that their order is the order of their letters.
  return typeof a === 'string' && typeof b === 'string' ? (a < b ? -1 : a > b ? 1 : 0) : null;
}

const ORDERED = {
  '>': (order: number) => order > 0,
  '<': (order: number) => order < 0,
  '>=': (order: number) => order >= 0,
  '<=': (order: number) => order <= 0,
} as const;

/**
 * Whether one condition holds for the answers given to its question.
 * FHIR R4 4.0.1, value set questionnaire-enable-operator (from memory): `exists` asks whether there is an answer at
 * all; `=` whether one of the answers is equal; `!=` whether none is, which also holds without an answer; an order
 * holds if one of the answers stands in it.
 */
export function conditionHolds({ operator, answer }: EnableWhen, given: readonly AnswerValue[]): boolean {
  switch (operator) {
    case 'exists':
      return given.length > 0 === answer;
    case '=':
      return given.some((each) => each === answer);
    case '!=':
      return given.every((each) => each !== answer);
    case '>':
    case '<':
    case '>=':
    case '<=':
      return given.some((each) => {
        const order = compare(each, answer);
        return order !== null && ORDERED[operator](order);
      });
  }
}

/**
 * The questions and groups that are shown, by linkId. What stands in a hidden group is hidden, and an answer that was
 * given before its question was hidden counts as not given.
 */
export function shownItems(form: IntakeForm, answers: Answers): ReadonlySet<string> {
  const all = new Map(flatten(form.items).map((entry) => [entry.item.linkId, entry]));
  const known = new Map<string, boolean>();
  const isShown = (linkId: string): boolean => {
    const decided = known.get(linkId);
    if (decided !== undefined) return decided;
    const entry = all.get(linkId);
    if (!entry) return false;
    // A circle would never end; `formFaults` refuses such a form, and here it hides itself.
    known.set(linkId, false);
    const shown = entry.parents.every((parent) => isShown(parent.linkId)) && enabled(entry.item);
    known.set(linkId, shown);
    return shown;
  };
  const enabled = (item: FormItem): boolean => {
    if (!item.enableWhen?.length) return true;
    const holds = (condition: EnableWhen) =>
      conditionHolds(
        condition,
        isShown(condition.question) ? (answers[condition.question] ?? []).filter((each) => !isBlank(each)) : [],
      );
    return item.enableBehavior === 'any' ? item.enableWhen.some(holds) : item.enableWhen.every(holds);
  };
  return new Set([...all.keys()].filter(isShown));
}

/** Words in the languages that patients read. */
export interface Words {
  readonly en: string;
  readonly es: string;
}

/** One answer; a choice is its option's code, a date is `YYYY-MM-DD`. */
export type AnswerValue = string | number | boolean;

/** Nothing but white space is no answer. */
export const isBlank = (value: AnswerValue): boolean => typeof value === 'string' && !value.trim();

/** Answers by question (FHIR linkId); several only where the question repeats. No entry or an empty list: unanswered. */
export type Answers = Readonly<Record<string, readonly AnswerValue[]>>;

/** Item types as FHIR R4 Questionnaire names them (value set item-type), as far as they are supported. */
export const ITEM_TYPES = ['group', 'boolean', 'integer', 'date', 'string', 'text', 'choice'] as const;
export type ItemType = (typeof ITEM_TYPES)[number];

/** FHIR R4 questionnaire-enable-operator. */
export const ENABLE_OPERATORS = ['exists', '=', '!=', '>', '<', '>=', '<='] as const;
export type EnableOperator = (typeof ENABLE_OPERATORS)[number];

/** Shows an item only if an earlier answer fits. */
export interface EnableWhen {
  readonly question: string;
  readonly operator: EnableOperator;
  readonly answer: AnswerValue;
}

/** What the record can fill in by itself, once the person is known for sure. */
export const PREFILLS = ['preferred-name', 'phone', 'email'] as const;
export type Prefill = (typeof PREFILLS)[number];

/** How dangerous a red-flag answer is, the worst first: call 911 now, or a clinician must know before the visit. */
export const RED_FLAG_SEVERITIES = ['emergency', 'urgent'] as const;
export type RedFlagSeverity = (typeof RED_FLAG_SEVERITIES)[number];

/** An answer that must not wait for the visit: the patient is told what to do, the clinic is alerted. */
export interface RedFlag {
  readonly answer: AnswerValue;
  readonly advice: Words;
  /** Urgent if not said. */
  readonly severity?: RedFlagSeverity;
}

export interface FormItem {
  readonly linkId: string;
  readonly type: ItemType;
  readonly text: Words;
  readonly hint?: Words;
  readonly required?: boolean;
  /** Several options of a choice may be taken. */
  readonly repeats?: boolean;
  readonly enableWhen?: readonly EnableWhen[];
  /** Whether all conditions must hold or one is enough; all unless said. */
  readonly enableBehavior?: 'all' | 'any';
  readonly options?: readonly { readonly code: string; readonly text: Words }[];
  readonly prefill?: Prefill;
  readonly redFlag?: RedFlag;
  readonly min?: number;
  readonly max?: number;
  readonly items?: readonly FormItem[];
}

/** An intake form in one version, which never changes once it was used (FHIR Questionnaire). */
export interface IntakeForm {
  readonly title: Words;
  readonly items: readonly FormItem[];
}

/** All items in reading order, each with the groups it stands in. */
export function flatten(
  items: readonly FormItem[],
  parents: readonly FormItem[] = [],
): { item: FormItem; parents: readonly FormItem[] }[] {
  return items.flatMap((item) => [{ item, parents }, ...flatten(item.items ?? [], [...parents, item])]);
}

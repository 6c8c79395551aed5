import { faultCode } from '@zaguan/contracts';
import { scheduleEdit, type WireEdit } from '@zaguan/contracts/availability';
import type { FaultKey } from '../../../words.faults.en.ts';

export type Faults = Partial<Record<string, FaultKey>>;

/** What a form reads out of what is typed into it. */
export interface Read {
  readonly edits: WireEdit[];
  /** What can't be read, by field; in the edits something stands in for it, so that all the rest is judged too. */
  readonly unread?: Faults;
}

/** Edits that may be sent, or what is wrong with them, by field. */
export type Checked =
  | { readonly ok: true; readonly edits: WireEdit[] }
  | { readonly ok: false; readonly faults: Faults };

/** The field that something of an edit is typed into, where it is not called the same. */
const TYPED_AS: Readonly<Record<string, string>> = {
  'subject.id': 'resourceId',
  fromMinute: 'times',
  toMinute: 'times',
  'accepts.visitTypeIds': 'typeIds',
  'release.beforeMin': 'releaseHours',
  'release.accepts.visitTypeIds': 'releaseTypeIds',
  effectiveFrom: 'from',
  date: 'from',
  startDate: 'from',
  startMinute: 'fromTime',
  endDate: 'until',
  endMinute: 'untilTime',
};

/**
 * What the contract of an edit says against what was read, by field, as the server would refuse it. Reading itself only
 * refuses what can't be made an edit at all, such as times that are no times.
 */
export function checkEdits({ edits, unread }: Read): Checked {
  const faults: Faults = { ...unread };
  for (const edit of edits) {
    const { error } = scheduleEdit.safeParse(edit, { reportInput: true });
    // A fault without words of its own is said in general ones.
    for (const issue of error?.issues ?? []) faults[fieldOf(issue.path)] ??= faultCode(issue) as FaultKey;
  }
  return Object.keys(faults).length ? { ok: false, faults } : { ok: true, edits };
}

function fieldOf(path: readonly PropertyKey[]): string {
  const within = path.join('.').replace(/^(pattern|hours|rule|to(?=\.[a-z]))\./, '');
  const [, limit] = /^caps\.(\d+)\./.exec(within) ?? [];
  if (limit) return `limits.${limit}`;
  // One of a list belongs to the list.
  return TYPED_AS[within] ?? within.replace(/\.\d+$/, '');
}

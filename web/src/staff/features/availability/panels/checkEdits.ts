import { faultCode } from '@zaguan/contracts';
import { scheduleEdit, type WireEdit } from '@zaguan/contracts/availability';
import type { FaultKey } from '../../../words.faults.en.ts';

/** Edits that were read from what is typed, or what is wrong with it, by field. */
export type Read =
  | { readonly ok: true; readonly edits: WireEdit[] }
  | { readonly ok: false; readonly faults: Partial<Record<string, FaultKey>> };

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
export function checkEdits(read: Read): Read {
  if (!read.ok) return read;
  const faults: Partial<Record<string, FaultKey>> = {};
  for (const edit of read.edits) {
    const { error } = scheduleEdit.safeParse(edit, { reportInput: true });
    // A fault without words of its own is said in general ones.
    for (const issue of error?.issues ?? []) faults[fieldOf(issue.path)] ??= faultCode(issue) as FaultKey;
  }
  return Object.keys(faults).length ? { ok: false, faults } : read;
}

function fieldOf(path: readonly PropertyKey[]): string {
  const within = path.join('.').replace(/^(pattern|hours|rule|to(?=\.[a-z]))\./, '');
  const [, limit] = /^caps\.(\d+)\./.exec(within) ?? [];
  if (limit) return `limits.${limit}`;
  // One of a list belongs to the list.
  return TYPED_AS[within] ?? within.replace(/\.\d+$/, '');
}

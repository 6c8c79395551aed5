import type { PatientRecord } from '@zaguan/contracts/patients';
import type { TFunction } from 'i18next';
import { useTranslation } from 'react-i18next';
import { codeWords } from '../../../shared/i18n/codeWords.ts';
import { formatBirthDate, formatPhone, shortDate } from '../../../shared/time/format.ts';
import { useClinicTime } from '../accounts/index.ts';

type TrailEntry = PatientRecord['trail'][number];
type Change = TrailEntry['changes'][number];

/** Where the words stand for what is written as a code. */
const WORDS_OF = {
  status: 'visit.status',
  reason: 'visit.cancelReason',
  approval: 'patient.approval',
  coverage: 'today.coverage.state',
  waived: 'readiness.item',
  outcome: 'today.outcome',
  'patient-status': 'patient.status',
  'contact-event': 'patient.contactEvent',
  sex: 'edit.sexes',
} as const satisfies Partial<Record<Change['field'], string>>;

/** What was done, in words; a command without words of its own is said to be another one. */
export function commandWords(command: string, t: TFunction): string {
  return t(`patient.command.${command as 'undo.run'}`, { defaultValue: t('patient.otherCommand') });
}

/** Before and after, what can be read of it. */
export function Changes({ changes }: { changes: TrailEntry['changes'] }) {
  const { t } = useTranslation();
  const { write } = useClinicTime();
  const value = ({ field }: Change, of: Change['before']): string => {
    if (of === null || of === '') return t('patient.nothing');
    if (typeof of === 'boolean') return t(of ? 'setup.yes' : 'setup.no');
    const text = String(of);
    if (field === 'start') return write(text);
    if (field === 'opened-until') return write(text);
    if (field === 'until' || field === 'deceased-on') return shortDate(text);
    if (field === 'birth-date') return formatBirthDate(text);
    if (field === 'contact') return formatPhone(text);
    if (field === 'language') return t(`patient.${text as 'en'}`);
    if (field === 'access')
      return text
        .split(', ')
        .map((need) => t(`access.of.${need as 'step-free'}`))
        .join(', ');
    if (field === 'extra-time') return t('edit.extra', { count: Number(text) });
    // What is waived is named by what it is, not by which form.
    const group = field in WORDS_OF ? WORDS_OF[field as keyof typeof WORDS_OF] : null;
    return group ? codeWords(t, group, text.split(':')[0], {}, text) : text;
  };
  return changes.map((change) => (
    <span
      key={`${change.field} ${change.label} ${String(change.after)}`}
      className="block text-muted"
      data-change={change.field}
    >
      {t(change.before === null ? 'patient.changeTo' : 'patient.change', {
        what: change.label ?? t(`patient.changed.${change.field}`),
        before: value(change, change.before),
        after: value(change, change.after),
      })}
    </span>
  ));
}

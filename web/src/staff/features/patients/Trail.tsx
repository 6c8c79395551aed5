import type { PatientRecord } from '@zaguan/contracts/patients';
import type { TFunction } from 'i18next';
import { useTranslation } from 'react-i18next';
import { codeWords } from '../../../shared/i18n/codeWords.ts';
import { shortDate } from '../../../shared/time/format.ts';
import { useClinicTime } from '../accounts/index.ts';

export function Trail({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  const { siteName, write } = useClinicTime();
  return (
    <section aria-label={t('patient.trail')}>
      <h2 className="mb-1 font-bold">{t('patient.trail')}</h2>
      <table className="w-full text-left">
        <thead>
          <tr className="text-muted">
            <th scope="col" className="w-44 font-normal">
              {t('patient.when', { site: siteName })}
            </th>
            <th scope="col" className="w-44 font-normal">
              {t('patient.who')}
            </th>
            <th scope="col" className="font-normal">
              {t('patient.what')}
            </th>
          </tr>
        </thead>
        <tbody>
          {record.trail.map((entry, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: entries have no id of their own and never change order
            <tr key={`${entry.at} ${i}`} className="border-b border-line">
              <td className="py-0.5">{write(entry.at)}</td>
              <td>{entry.by ?? t(entry.actor === 'patient' ? 'patient.byPatient' : 'patient.bySystem')}</td>
              <td>
                {t(`patient.${entry.kind}`)}: {commandWords(entry.command, t)}
                <Changes changes={entry.changes} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

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
} as const satisfies Partial<Record<Change['field'], string>>;

/** What was done, in words; a command without words of its own is said to be another one. */
function commandWords(command: string, t: TFunction): string {
  return t(`patient.command.${command as 'undo.run'}`, { defaultValue: t('patient.otherCommand') });
}

/** Before and after, what can be read of it. */
function Changes({ changes }: { changes: TrailEntry['changes'] }) {
  const { t } = useTranslation();
  const { write } = useClinicTime();
  const value = ({ field }: Change, of: Change['before']): string => {
    if (of === null || of === '') return t('patient.nothing');
    if (typeof of === 'boolean') return t(of ? 'setup.yes' : 'setup.no');
    const text = String(of);
    if (field === 'start') return write(text);
    if (field === 'until') return shortDate(text);
    // What is waived is named by what it is, not by which form.
    const group = field in WORDS_OF ? WORDS_OF[field as keyof typeof WORDS_OF] : null;
    return group ? codeWords(t, group, text.split(':')[0], {}, text) : text;
  };
  return changes.map((change) => (
    <span key={`${change.field} ${change.label}`} className="block text-muted" data-change={change.field}>
      {t(change.before === null ? 'patient.changeTo' : 'patient.change', {
        what: change.label ?? t(`patient.changed.${change.field}`),
        before: value(change, change.before),
        after: value(change, change.after),
      })}
    </span>
  ));
}

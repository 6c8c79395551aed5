import type { PatientRecord } from '@zaguan/contracts/patients';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { formatPhone, shortDate } from '../../../shared/time/format.ts';
import { Changes, commandWords } from './trailWords.tsx';

type Rows<K extends 'visits' | 'messages' | 'forms' | 'consents' | 'trail'> = PatientRecord[K][number];

export function VisitEntry({ visit }: { visit: Rows<'visits'> }) {
  const { t } = useTranslation();
  return (
    <>
      <Link className="font-semibold underline" to={`/daybook/${visit.date}?visit=${visit.id}`}>
        {visit.visitType}
      </Link>
      , {visit.siteName}
      {visit.provider && `, ${visit.provider}`} · {t(`visit.status.${visit.status}`)}
      {visit.reason && ` · “${visit.reason}”`}
    </>
  );
}

/** What was or will be sent. */
export function MessageEntry({ message }: { message: Rows<'messages'> }) {
  const { t } = useTranslation();
  return (
    <span data-sent={message.kind}>
      <span className="font-semibold">
        {t(message.step ? `messages.step.${message.step}` : `messages.kind.${message.kind}`)}
      </span>{' '}
      · {t(`messages.status.${message.status}`)} ·{' '}
      <span className="text-muted">
        {message.contact && formatPhone(message.contact)}{' '}
        {t('patient.forVisit', { date: shortDate(message.visitDate) })}
      </span>
    </span>
  );
}

/** A form as it was filled in, with the answers that count. */
export function FormEntry({ form }: { form: Rows<'forms'> }) {
  const { t } = useTranslation();
  const value = (each: Rows<'forms'>['answers'][number]['value'][number]) =>
    each === true
      ? t('intake.yes')
      : each === false
        ? t('intake.no')
        : typeof each === 'object'
          ? each.en
          : String(each);
  return (
    <details data-form>
      <summary className="cursor-pointer">
        <span className="font-semibold">{form.name}</span> {t('patient.forVisit', { date: shortDate(form.visitDate) })}
        {!form.completed && <span className="font-bold text-warning"> · {t('patient.unfinished')}</span>}
      </summary>
      <dl className="mt-1 mb-2 ml-4 grid grid-cols-[minmax(0,2fr)_minmax(0,1fr)] gap-x-3 gap-y-0.5">
        {form.answers.map((answer) => (
          <div key={answer.question.en} className="contents">
            <dt className="text-muted">{answer.question.en}</dt>
            <dd>{answer.value.map(value).join(', ')}</dd>
          </div>
        ))}
      </dl>
    </details>
  );
}

/** A consent with who signed it, and the page as it was kept. */
export function ConsentEntry({ consent }: { consent: Rows<'consents'> }) {
  const { t } = useTranslation();
  return (
    <span data-consent>
      <span className="font-semibold">{consent.name}</span>{' '}
      {t('patient.forVisit', { date: shortDate(consent.visitDate) })} ·{' '}
      {t('patient.signedBy', {
        name: consent.signerName,
        signer: t(`patient.signer.${consent.signer}`),
        version: consent.version,
      })}{' '}
      <a className="underline" href={`/api/signed-consents/${consent.id}/consent.pdf`} target="_blank" rel="noreferrer">
        {t('patient.pdf')}
      </a>
    </span>
  );
}

/** Who saw or changed what, with before and after. */
export function TrailEntry({ entry }: { entry: Rows<'trail'> }) {
  const { t } = useTranslation();
  return (
    <span data-trail={entry.kind}>
      <span className="font-semibold">
        {entry.by ?? t(entry.actor === 'patient' ? 'patient.byPatient' : 'patient.bySystem')}
      </span>{' '}
      {t(`patient.${entry.kind}`)}: {commandWords(entry.command, t)}
      <Changes changes={entry.changes} />
    </span>
  );
}

import type { PatientRecord } from '@zaguan/contracts/patients';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { formatPhone, shortDate } from '../../../shared/time/format.ts';
import { useClinicTime } from '../accounts/index.ts';

function Part({ title, empty, children }: { title: string; empty: string | null; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h2 className="mb-1 font-bold">{title}</h2>
      {empty ? <p className="text-muted">{empty}</p> : <ul className="flex flex-col">{children}</ul>}
    </section>
  );
}

/** What was filled in and signed, with the answers that count and the page as it was kept. */
export function Forms({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  const { write } = useClinicTime();
  const value = (each: PatientRecord['forms'][number]['answers'][number]['value'][number]) =>
    each === true
      ? t('intake.yes')
      : each === false
        ? t('intake.no')
        : typeof each === 'object'
          ? each.en
          : String(each);
  return (
    <Part title={t('patient.forms')} empty={record.forms.length + record.consents.length ? null : t('patient.noForms')}>
      {record.forms.map((form) => (
        <li key={form.id} data-form className="border-b border-line py-1">
          <details>
            <summary className="cursor-pointer">
              <span className="font-semibold">{form.name}</span>{' '}
              {t('patient.forVisit', { date: shortDate(form.visitDate) })} · {write(form.at)}
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
        </li>
      ))}
      {record.consents.map((consent) => (
        <li key={consent.id} data-consent className="border-b border-line py-1">
          <span className="font-semibold">{consent.name}</span>{' '}
          {t('patient.forVisit', { date: shortDate(consent.visitDate) })} · {write(consent.at)} ·{' '}
          {t('patient.signedBy', {
            name: consent.signerName,
            signer: t(`patient.signer.${consent.signer}`),
            version: consent.version,
          })}{' '}
          <a
            className="underline"
            href={`/api/signed-consents/${consent.id}/consent.pdf`}
            target="_blank"
            rel="noreferrer"
          >
            {t('patient.pdf')}
          </a>
        </li>
      ))}
    </Part>
  );
}

/** What was or will be sent to this patient. */
export function Sent({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  const { write } = useClinicTime();
  return (
    <Part title={t('patient.sent')} empty={record.messages.length ? null : t('patient.noSent')}>
      {record.messages.map((message) => (
        <li key={message.id} data-sent={message.kind} className="flex gap-2 border-b border-line py-1">
          <span className="w-44">{write(message.at)}</span>
          <span className="w-56">
            {t(message.step ? `messages.step.${message.step}` : `messages.kind.${message.kind}`)}
          </span>
          <span className="w-28">{t(`messages.status.${message.status}`)}</span>
          <span className="flex-1 text-muted">
            {message.contact && formatPhone(message.contact)}{' '}
            {t('patient.forVisit', { date: shortDate(message.visitDate) })}
          </span>
        </li>
      ))}
    </Part>
  );
}

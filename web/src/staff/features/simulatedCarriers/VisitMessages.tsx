import { useTranslation } from 'react-i18next';
import { codeWords } from '../../../shared/i18n/codeWords.ts';
import { dateAt, shortDate, timeOf } from '../../../shared/time/format.ts';
import { simulatedCarriersApi } from './simulatedCarriers.api.ts';

/** What was or will be sent about a visit; for what is not sent, the rule that decided. */
export function VisitMessages({ visitId, timeZone }: { visitId: string; timeZone: string }) {
  const { t } = useTranslation();
  const { currentData } = simulatedCarriersApi.useOfVisitQuery({ id: visitId }, { pollingInterval: 4000 });
  if (!currentData?.messages.length) return null;
  return (
    <section aria-label={t('messages.title')}>
      <h3 className="mb-1 font-bold">{t('messages.title')}</h3>
      <ul className="flex flex-col gap-1.5">
        {currentData.messages.map((message) => (
          <li
            key={message.id}
            data-message={message.kind}
            data-step={message.step ?? ''}
            data-message-status={message.status}
            className={`border-l-4 pl-2 ${message.status === 'dropped' || message.status === 'withdrawn' ? 'border-line-strong' : message.status === 'failed' ? 'border-danger' : 'border-accent'}`}
          >
            <p>
              <span className="font-semibold">
                {t(message.step ? `messages.step.${message.step}` : `messages.kind.${message.kind}`)}
              </span>
              , {t(`messages.status.${message.status}`)}
            </p>
            <p className="text-muted">
              {message.droppedCode
                ? t(`messages.code.${message.droppedCode}`)
                : `${shortDate(dateAt(message.sendAt, timeZone))}, ${timeOf(message.sendAt, timeZone)}`}
              {message.heldCode && message.status === 'planned' && ` · ${t(`messages.held.${message.heldCode}`)}`}
              {message.failReason &&
                ` · ${codeWords(t, 'messages.fail', message.failReason, {}, t('messages.failOther'))}`}
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}

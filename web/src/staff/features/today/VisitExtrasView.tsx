import { useTranslation } from 'react-i18next';
import { todayApi } from './today.api.ts';

/** What a patient said when booking beside the reason: who pays, and answers to the clinic's own questions. */
export function VisitExtrasView({ visitId }: { visitId: string }) {
  const { t } = useTranslation();
  const { data } = todayApi.useVisitExtrasQuery({ id: visitId });
  if (!data || (!data.coverage && !data.answers.length)) return null;
  const { coverage, answers } = data;
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1" data-extras>
      {coverage && (
        <>
          <dt className="text-muted">{t('today.coverage.title')}</dt>
          <dd>
            {coverage.payer ?? t('today.coverage.self')}
            {coverage.payer && ` (${t(`today.coverage.state.${coverage.state}`)})`}
            {coverage.referralSaid !== null &&
              `, ${t(coverage.referralSaid ? 'today.referralYes' : 'today.referralNo')}`}
          </dd>
        </>
      )}
      {answers.map(({ label, answer }) => (
        <div key={label} className="contents">
          <dt className="text-muted">{label}</dt>
          <dd>{answer}</dd>
        </div>
      ))}
    </dl>
  );
}

import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { apiError } from '../../../shared/api/contractApi.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { Step } from '../booking/index.ts';
import { visitApi } from './visit.api.ts';

/** The link in an e-mail that ends automated messages. Opening it does nothing; the button does. */
export function StopPage() {
  const { t } = useTranslation();
  const { token = '' } = useParams();
  const [stop, { data, error, isLoading }] = visitApi.useStopMutation();
  const refused = apiError(error);
  return (
    <Step question={t('stop.title')} back={false}>
      <div className="flex flex-col gap-4" aria-live="polite">
        {refused && (
          <Notice tone="danger" live="assertive">
            {t(`error.${refused.tag === 'InvalidInput' ? 'LinkGone' : refused.tag}`, { requestId: refused.requestId })}
          </Notice>
        )}
        {data ? (
          <Notice tone="success">{t(`stop.done.${data.purpose}`)}</Notice>
        ) : (
          <>
            <p>{t('stop.text')}</p>
            <Button look="accent" className="min-h-12" disabled={isLoading} onClick={() => void stop({ token })}>
              {t('stop.go')}
            </Button>
          </>
        )}
      </div>
    </Step>
  );
}

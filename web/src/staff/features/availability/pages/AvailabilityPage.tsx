import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateAt } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { availabilityApi } from '../availability.api.ts';
import { HoursForm } from '../components/HoursForm.tsx';
import { HoursGrid } from '../components/HoursGrid.tsx';

export function AvailabilityPage() {
  const { t } = useTranslation();
  // Set-up's guide leads here with a person, and often a site, whose hours are missing.
  const [asked] = useSearchParams();
  const [adding, setAdding] = useState(asked.has('person'));
  const { data: clinic, error: clinicError } = accountsApi.useClinicQuery({});
  const { data, error, refetch, isFetching } = availabilityApi.useHoursQuery({});
  useEffect(() => {
    document.title = t('hours.title');
  }, [t]);
  const refused = apiError(error ?? clinicError);
  const mayEdit = (resourceId: string) =>
    data?.mayEdit === 'all' || (data?.mayEdit === 'own' && data.ownResourceId === resourceId);
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <header className="flex items-center gap-3 border-b border-line bg-lime px-4 py-2">
        <h1 className="text-[1.3rem] font-bold">{t('hours.week')}</h1>
        <p className="ml-auto flex items-center gap-4 text-muted">
          <span className="flex items-center gap-1.5">
            <span className="h-1.5 w-5 bg-door" />
            {t('hours.shown')}
          </span>
          <span className="flex items-center gap-1.5">
            <span className="h-1.5 w-5 bg-line-strong" />
            {t('hours.desk')}
          </span>
        </p>
        {data && data.mayEdit !== 'none' && (
          <Button look="main" onClick={() => setAdding(true)} disabled={adding || !clinic}>
            {t('hours.add')}
          </Button>
        )}
      </header>
      {data?.mayEdit === 'none' && <p className="px-4 pt-2 text-muted">{t('hours.noRight')}</p>}
      {data?.mayEdit === 'own' && <p className="px-4 pt-2 text-muted">{t('hours.ownOnly')}</p>}
      <div className="flex min-h-0 flex-1">
        <section
          className="min-w-0 flex-1 overflow-auto"
          aria-label={t('hours.week')}
          // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard (WCAG 2.1.1)
          tabIndex={0}
          aria-busy={!data}
        >
          {refused && !isFetching && !data && (
            <div className="p-4">
              <Notice tone="brick" live="assertive">
                {t(`error.${refused.tag}`, { requestId: refused.requestId })}
              </Notice>
              <Button className="mt-3" onClick={() => void refetch()}>
                {t('tryAgain')}
              </Button>
            </div>
          )}
          {!data && !refused && (
            <div role="status" aria-label={t('loading')} className="flex flex-col gap-3 p-4">
              {[0, 1, 2, 3].map((i) => (
                <div key={i} className="h-12 animate-pulse rounded-md bg-band" />
              ))}
            </div>
          )}
          {data && clinic && data.hours.length === 0 && (
            <div className="m-4 max-w-md">
              <Notice tone="ochre">{t('hours.empty')}</Notice>
            </div>
          )}
          {data && clinic && <HoursGrid clinic={clinic} hours={data.hours} mayEdit={mayEdit} />}
        </section>
        {adding && clinic && data && data.mayEdit !== 'none' && (
          <aside
            aria-label={t('hours.add')}
            className="w-[320px] shrink-0 overflow-y-auto border-l border-line bg-lime px-4 py-3"
          >
            <HoursForm
              clinic={clinic}
              today={dateAt(clinic.now, clinic.sites[0]?.timeZone ?? 'UTC')}
              onlyResourceId={data.mayEdit === 'own' ? data.ownResourceId : null}
              asked={{ resourceId: asked.get('person') ?? '', siteId: asked.get('site') ?? '' }}
              onClose={() => setAdding(false)}
            />
          </aside>
        )}
      </div>
    </main>
  );
}

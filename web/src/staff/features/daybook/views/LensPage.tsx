import { scopeOf } from '@zaguan/contracts';
import { type DaybookView, STANDARD_VIEW, type ViewSettings, viewSettings } from '@zaguan/contracts/daybook';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate, useParams } from 'react-router';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';
import { useAddress } from '../../../shell/useAddress.ts';
import { accountsApi } from '../../accounts/index.ts';
import { daybookApi } from '../daybook.api.ts';
import { useOwnSites } from '../hooks/useWhichSite.ts';
import { LensDefaults } from './LensDefaults.tsx';
import { NewLens, OwnLens } from './LensForm.tsx';
import { LensList } from './LensList.tsx';
import { LensSample } from './LensSample.tsx';
import { useDaybookView } from './useDaybookView.ts';
import { useLaneOptions } from './useLaneOptions.ts';

/** The Lenses: all of them at the left, the one that is open in the middle, today drawn by it at the right. */
export function LensPage() {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const { id } = useParams();
  const { asked } = useAddress();
  const query = daybookApi.useViewsQuery({});
  const { data: clinic } = accountsApi.useClinicQuery({});
  const me = accountsApi.useWhoAmIQuery({}).data?.me;
  const sites = useOwnSites(clinic);
  const lanes = useLaneOptions(sites);
  const { choose, settings: desk } = useDaybookView();
  const [settings, setSettings] = useState<ViewSettings>(STANDARD_VIEW);
  // Half-typed numbers draw nothing: the sample stays as it was until they are whole.
  const told = useCallback((typed: unknown) => {
    const read = viewSettings.safeParse(typed);
    if (read.success) setSettings(read.data);
  }, []);
  useEffect(() => {
    document.title = `${t('daybookView.lenses')} · ${t('daybook.title')}`;
  }, [t]);
  const views = query.data?.views;
  const view = views?.find((each) => each.id === id) ?? null;
  const use = (to: DaybookView) => {
    choose(to);
    void navigate('/daybook');
  };
  const shown = useMemo(
    () => ({ ...settings, namesHidden: settings.namesHidden || desk.namesHidden }),
    [settings, desk.namesHidden],
  );
  const shared = { me, sites, lanes, onSettings: told };
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <header className="flex items-center gap-3 border-b border-line px-4 py-2">
        <h1 className="text-xl font-bold">{t('daybookView.lenses')}</h1>
        <span className="text-muted">{t('daybookView.note')}</span>
        <span className="ml-auto flex gap-2">
          {view && (
            <Button look="primary" onClick={() => use(view)}>
              {t('daybookView.use')}
            </Button>
          )}
          <Button onClick={() => void navigate('/daybook')}>{t('daybookView.back')}</Button>
        </span>
      </header>
      {!views || !me ? (
        <QueryFrame query={query} />
      ) : (
        <div className="flex min-h-0 flex-1">
          <LensList unreadable={query.data?.unreadable ?? []} views={views} sites={sites} openId={view?.id ?? null} />
          <div className="w-[400px] shrink-0 overflow-y-auto border-r border-line p-3">
            {id === 'new' ? (
              <NewLens
                key={asked.get('from')}
                of={views.find((each) => each.id === asked.get('from')) ?? null}
                {...{ ...shared, me }}
              />
            ) : view ? (
              <>
                <OwnLens key={view.id} view={view} {...{ ...shared, me }} />
                {view.scope === 'shared' && scopeOf(me.role, 'daybook.share-views') === 'all' && (
                  <LensDefaults view={view} defaults={query.data?.defaults ?? []} />
                )}
              </>
            ) : id ? (
              <Notice tone="warning">{t('daybookView.goneHere')}</Notice>
            ) : (
              <p className="text-muted">{t('daybookView.chooseOne')}</p>
            )}
          </div>
          {/* Where patients look on, a Lens being made shows them no names either. */}
          <LensSample settings={shown} />
        </div>
      )}
    </main>
  );
}

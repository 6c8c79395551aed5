import type { ViewSettings } from '@zaguan/contracts/daybook';
import { useMemo, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { dateAt } from '../../../../shared/time/format.ts';
import { useAppSelector } from '../../../store.ts';
import { accountsApi } from '../../accounts/index.ts';
import { Board } from '../components/Board.tsx';
import { Outside } from '../components/Outside.tsx';
import { useBoardParts } from '../hooks/useBoardParts.ts';
import { useTypeNames } from '../components/useLane.ts';
import { useNow } from '../hooks/useNow.ts';
import { useOwnSites } from '../hooks/useWhichSite.ts';
import { shownOf } from '../layout.ts';
import { ViewContext } from './viewContext.ts';

const nothing = () => undefined;

/** Today, as the Lens being edited draws it: the day itself, at the site that this desk looks at. */
export function LensSample({ settings }: { settings: ViewSettings }) {
  const { t } = useTranslation();
  const clinicQuery = accountsApi.useClinicQuery({});
  const { data: clinic, fulfilledTimeStamp } = clinicQuery;
  const now = useNow(clinic?.now, fulfilledTimeStamp);
  const kept = useAppSelector((state) => state.prefs.siteId);
  const ownSites = useOwnSites(clinic);
  const site = ownSites.find(({ id }) => id === kept) ?? ownSites[0];
  const date = clinic && site ? dateAt(now, site.timeZone) : '';
  const wanted = useMemo(
    () =>
      site && date
        ? [{ siteId: site.id, date, title: site.name, linkOf: () => `/daybook/${date}?site=${site.id}` }]
        : [],
    [site, date],
  );
  const types = useTypeNames();
  const { parts, sites } = useBoardParts(wanted, settings);
  const sections = useMemo(() => parts.flatMap(({ section }) => section ?? []), [parts]);
  const shown = useMemo(() => (sites.length ? shownOf(sites, settings) : undefined), [sites, settings]);
  const board = useRef<HTMLElement>(null);
  return (
    <ViewContext value={settings}>
      <section aria-label={t('daybookView.sample')} data-sample className="flex min-h-0 min-w-0 flex-1 flex-col">
        {shown && <Outside sites={sections.map((each) => each.site)} shown={shown} />}
        <div className="flex min-h-0 flex-1">
          <Board
            {...{ board, parts, sections, shown, now, types }}
            panel={null}
            onOpen={nothing}
            query={parts.find(({ query }) => query?.error)?.query ?? clinicQuery}
          />
        </div>
      </section>
    </ViewContext>
  );
}

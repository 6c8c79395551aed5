import { type OutputOf, scopeOf } from '@zaguan/contracts';
import type { Me } from '@zaguan/contracts/accounts';
import type { staffClinic } from '@zaguan/contracts/clinic';
import type { SiteDay } from '@zaguan/contracts/daybook';
import { useMemo } from 'react';
import { useAppSelector } from '../../../store.ts';
import { accountsApi } from '../../accounts/index.ts';
import { daybookApi } from '../daybook.api.ts';
import { isInUse } from '../layout.ts';
import type { Panel } from './useDaybookAddress.ts';

type Clinic = OutputOf<typeof staffClinic>;

/** The sites whose days the reader may see, in the clinic's order. The server answers for no others. */
export function useOwnSites(clinic: Clinic | undefined): Clinic['sites'] {
  const { data: who } = accountsApi.useWhoAmIQuery({});
  const me = who?.me;
  return useMemo(() => (clinic && me ? clinic.sites.filter(({ id }) => maySee(me, id)) : []), [clinic, me]);
}

function maySee({ role, siteIds }: Me, siteId: string): boolean {
  const scope = scopeOf(role, 'daybook.view');
  return scope === 'all' || (scope === 'own-sites' && (siteIds === null || siteIds.includes(siteId)));
}

/**
 * The site whose lanes are drawn, or "all": what the address asks for, else where the visit is that it names, else what
 * was chosen last at this desk, else where the reader's own hours are that day, else the first site; `null` while that
 * is being found out. And where the visit is that the address names, which may be elsewhere, or is being looked up.
 */
export function useWhichSite(
  sites: Clinic['sites'],
  date: string,
  by: { readonly asked: string | null; readonly panel: Panel | null },
): { siteId: string | null; visitAt: string | null; isLooking: boolean } {
  const { data: who } = accountsApi.useWhoAmIQuery({});
  const keptId = useAppSelector((state) => state.prefs.siteId);
  const known = (id: string | null | undefined) => (id === 'all' ? 'all' : sites.find((site) => site.id === id)?.id);
  const asked = known(by.asked);
  const kept = known(keptId);
  const visitId = by.panel?.kind === 'visit' ? by.panel.visitId : null;
  const drawn = useDrawnAt(sites, date, visitId);
  const asksPlace = visitId !== null && !drawn;
  const place = daybookApi.useVisitInShortQuery({ id: visitId as never }, { skip: !asksPlace });
  const own = who?.me?.resourceId;
  const asksOwn = Boolean(own && date && !asked && !kept && visitId === null);
  const week = daybookApi.useWeekQuery({ resourceId: own as never, from: date }, { skip: !asksOwn });
  const visitAt = drawn ?? known(asksPlace ? place.currentData?.siteId : null) ?? null;
  const siteId = (() => {
    if (!sites.length) return null;
    if (asked) return asked;
    if (kept === 'all') return 'all';
    if (visitAt) return visitAt;
    if (asksPlace && place.isFetching) return null;
    if (kept) return kept;
    if (asksOwn && week.isFetching) return null;
    const ownDay = week.currentData?.days[0]?.sites.find((site) => site.lanes.some(isInUse));
    return known(ownDay?.id) ?? sites[0].id;
  })();
  return { siteId, visitAt, isLooking: asksPlace && place.isFetching };
}

const NONE: readonly SiteDay[] = [];

/** Whether a visit stands on one of these days. */
export function hasVisit(sites: readonly SiteDay[], visitId: string): boolean {
  return sites.some((site) => site.lanes.some(({ plates }) => plates.some(({ id }) => id === visitId)));
}

/** The site on whose day, as it is kept here, a visit stands. */
function useDrawnAt(sites: Clinic['sites'], date: string, visitId: string | null): string | undefined {
  const selectors = useMemo(
    () => sites.map(({ id }) => ({ id, select: daybookApi.endpoints.day.select({ date, siteId: id }) })),
    [sites, date],
  );
  return useAppSelector((state) =>
    visitId === null
      ? undefined
      : selectors.find(({ select }) => hasVisit(select(state).data?.sites ?? NONE, visitId))?.id,
  );
}

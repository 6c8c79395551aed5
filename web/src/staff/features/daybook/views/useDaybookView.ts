import { type DaybookView, STANDARD_VIEW, type ViewSettings } from '@zaguan/contracts/daybook';
import { useMemo } from 'react';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { prefs, STANDARD } from '../../../prefs.slice.ts';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { accountsApi } from '../../accounts/index.ts';
import { daybookApi } from '../daybook.api.ts';

/** What became of the Lens that this desk chose. */
export type ViewState = 'loading' | 'there' | 'gone' | 'failed';

/**
 * The Lens in use: what was chosen at this desk, else what its role begins with, else the standard one; with what was
 * changed here for the moment. While it can't be known, names are hidden: it may stand where patients look on.
 */
export function useDaybookView() {
  const dispatch = useAppDispatch();
  const { data, error, isLoading, refetch } = daybookApi.useViewsQuery({});
  const { data: who } = accountsApi.useWhoAmIQuery({});
  const { id, zoom, namesHidden } = useAppSelector((state) => state.prefs.view);
  const role = who?.me?.role;
  const chosen = useMemo(() => {
    if (!data || id === STANDARD) return null;
    const wanted = id ?? data.defaults.find((each) => each.role === role)?.viewId;
    return data.views.find((view) => view.id === wanted) ?? null;
  }, [data, id, role]);
  const isAsked = id !== null && id !== STANDARD;
  const state: ViewState = isLoading ? 'loading' : !data ? 'failed' : isAsked && !chosen ? 'gone' : 'there';
  const settings: ViewSettings = useMemo(() => {
    const base = chosen?.settings ?? STANDARD_VIEW;
    const isUnknown = state === 'gone' || (state !== 'there' && id !== STANDARD);
    return {
      ...base,
      zoom: zoom ?? base.zoom,
      namesHidden: namesHidden ?? (isUnknown || base.namesHidden),
    };
  }, [chosen, state, id, zoom, namesHidden]);
  return {
    views: data?.views ?? NONE,
    defaults: data?.defaults ?? [],
    /** `null`: the standard one. */
    chosen,
    settings,
    state,
    error: apiError(error),
    refetch,
    /** @param to `null`: the standard one */
    choose: (to: Pick<DaybookView, 'id'> | null) => void dispatch(prefs.actions.choseView(to?.id ?? STANDARD)),
  };
}

const NONE: readonly DaybookView[] = [];

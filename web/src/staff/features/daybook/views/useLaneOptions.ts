import { useMemo } from 'react';
import type { Option } from '../../../forms/fields.tsx';
import { daybookApi } from '../daybook.api.ts';

/** Whoever and whatever has a lane, to be listed by name; with the site where two are called alike. */
export function useLaneOptions(sites: readonly { readonly id: string; readonly name: string }[]): readonly Option[] {
  const { data } = daybookApi.useLanesQuery({});
  return useMemo(() => {
    const lanes = data?.lanes ?? [];
    const siteName = (id: string) => sites.find((site) => site.id === id)?.name ?? '';
    return lanes.map(({ resourceId, name, siteIds }) => {
      const isAlike = lanes.some((other) => other.name === name && other.resourceId !== resourceId);
      return { value: resourceId, label: isAlike ? `${name}, ${siteIds.map(siteName).join(', ')}` : name };
    });
  }, [data, sites]);
}

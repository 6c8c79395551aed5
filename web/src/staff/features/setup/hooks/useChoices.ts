import { useTranslation } from 'react-i18next';
import type { Option } from '../../../forms/index.ts';
import { useRecords } from './useRefs.ts';

/** What can be chosen, with what is chosen and was archived since: it can be taken out. */
export function useChoices(kind: 'visit-type' | 'site', chosen: readonly string[] | null): readonly Option[] {
  const { t } = useTranslation();
  return useRecords(kind)
    .filter(({ id, active }) => active || chosen?.includes(id))
    .map(({ id, active, doc }) => ({
      value: id,
      label: active ? doc.name : `${doc.name} (${t('recalls.archived')})`,
    }));
}

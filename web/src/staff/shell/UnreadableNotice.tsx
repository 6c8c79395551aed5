import { useTranslation } from 'react-i18next';
import { Notice } from '../../shared/ui/Notice.tsx';

/** Rows of a list that can't be shown: said plainly, with their ids for support; the others are not affected. */
export function UnreadableNotice({ ids }: { ids: readonly string[] }) {
  const { t } = useTranslation();
  if (!ids.length) return null;
  return (
    <Notice tone="danger">
      <p>{t('unreadable', { count: ids.length })}</p>
      <p className="text-muted">{ids.join(', ')}</p>
    </Notice>
  );
}

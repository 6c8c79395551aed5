import type { SiteDay } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { outsideOf, type Shown } from '../layout.ts';

/** Where a Lens shows certain hours only: how many visits lie outside of them. None of them is simply not there. */
export function Outside({
  sites,
  shown,
  onShowAll,
}: {
  sites: readonly SiteDay[];
  shown: Shown;
  /** Missing where nothing can be done about it: in a sample. */
  onShowAll?: () => void;
}) {
  const { t } = useTranslation();
  const count = outsideOf([...sites], shown);
  if (!count) return null;
  return (
    <p role="status" data-outside={count} className="flex gap-3 border-b border-line bg-warning-subtle px-4 py-1.5">
      <b>{t('daybookView.outside', { count })}</b>
      {onShowAll && (
        <button type="button" className="font-semibold text-accent underline" onClick={onShowAll}>
          {t('daybookView.showAllHours')}
        </button>
      )}
    </p>
  );
}

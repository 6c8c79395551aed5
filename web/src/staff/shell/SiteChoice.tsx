import { useTranslation } from 'react-i18next';

interface Props {
  readonly sites: readonly { readonly id: string; readonly name: string }[];
  /** A site's id, or "all". */
  readonly value: string;
  readonly onChoose: (siteId: string) => void;
  /** All of them at once is no choice here. */
  readonly one?: boolean;
}

/** One site, or all of them. */
export function SiteChoice({ sites, value, onChoose, one }: Props) {
  const { t } = useTranslation();
  return (
    <select
      aria-label={t('daybook.site')}
      className="rounded-md border border-line-strong bg-panel px-2 py-1.5"
      value={value}
      onChange={(event) => onChoose(event.target.value)}
    >
      {!one && <option value="all">{t('daybook.allSites')}</option>}
      {sites.map((site) => (
        <option key={site.id} value={site.id}>
          {site.name}
        </option>
      ))}
    </select>
  );
}

import { useTranslation } from 'react-i18next';

interface Props {
  readonly sites: readonly { readonly id: string; readonly name: string }[];
  /** A site's id, or "all". */
  readonly value: string;
  readonly onChoose: (siteId: string) => void;
}

/** One site, or all of them. */
export function SiteChoice({ sites, value, onChoose }: Props) {
  const { t } = useTranslation();
  return (
    <select
      aria-label={t('daybook.site')}
      className="rounded-md border border-line-strong bg-panel px-2 py-1.5"
      value={value}
      onChange={(event) => onChoose(event.target.value)}
    >
      <option value="all">{t('daybook.allSites')}</option>
      {sites.map((site) => (
        <option key={site.id} value={site.id}>
          {site.name}
        </option>
      ))}
    </select>
  );
}

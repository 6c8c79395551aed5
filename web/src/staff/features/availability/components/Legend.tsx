import { useTranslation } from 'react-i18next';

const MARKS = [
  ['shown', 'border-t-[3px] border-accent bg-accent-subtle'],
  ['desk', 'border border-line-strong bg-highlight'],
  ['changed', 'border border-dashed border-primary bg-highlight'],
  [
    'away',
    'border border-line-strong bg-[repeating-linear-gradient(135deg,transparent_0_4px,var(--color-line-strong)_4px_5px)]',
  ],
] as const;

/** What the marks of the week mean. */
export function Legend() {
  const { t } = useTranslation();
  return (
    <ul aria-label={t('schedule.legend')} className="ml-auto flex items-center gap-3 text-sm text-muted">
      {MARKS.map(([what, look]) => (
        <li key={what} className="flex items-center gap-1">
          <span aria-hidden="true" className={`inline-block h-3.5 w-5 rounded-sm ${look}`} />
          {t(`schedule.mark.${what}`)}
        </li>
      ))}
    </ul>
  );
}

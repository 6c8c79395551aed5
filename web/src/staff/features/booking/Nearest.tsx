import { useTranslation } from 'react-i18next';
import { dateAt, shortDate, timeOf } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { accountsApi } from '../accounts/index.ts';
import type { ChosenTime } from './flow.ts';

interface Props {
  readonly times: readonly { readonly start: string; readonly providerId: string | null }[];
  readonly siteId: string;
  readonly onChoose: (time: ChosenTime) => void;
}

/** The nearest other times, where somebody else was quicker. */
export function Nearest({ times, siteId, onChoose }: Props) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const zone = clinic?.sites.find(({ id }) => id === siteId)?.timeZone ?? 'UTC';
  if (!times.length) return null;
  return (
    <div className="mt-2 flex flex-wrap items-center gap-1">
      <span>{t('book.instead')}</span>
      {times.map(({ start, providerId }) => (
        <Button
          key={`${start} ${providerId}`}
          look="time"
          className="px-2 py-1"
          data-nearest={start}
          onClick={() => onChoose({ siteId, providerId, start })}
        >
          {shortDate(dateAt(start, zone))}, {timeOf(start, zone)}
        </Button>
      ))}
    </div>
  );
}

import { useTranslation } from 'react-i18next';
import { TextField } from '../../../../shared/ui/inputs.tsx';

interface Props {
  readonly from: string;
  readonly until: string;
  readonly faultOf: (field: string) => string | undefined;
  readonly set: (change: { from?: string; until?: string }) => void;
}

/** From a first day to a last one. */
export function DaySpanFields({ from, until, faultOf, set }: Props) {
  const { t } = useTranslation();
  return (
    <div className="grid grid-cols-2 gap-2">
      <TextField
        label={t('schedule.firstDay')}
        error={faultOf('from')}
        type="date"
        value={from}
        onChange={(event) => set({ from: event.target.value })}
      />
      <TextField
        label={t('schedule.lastDay')}
        error={faultOf('until')}
        type="date"
        value={until}
        onChange={(event) => set({ until: event.target.value })}
      />
    </div>
  );
}

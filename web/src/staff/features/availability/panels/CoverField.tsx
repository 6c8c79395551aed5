import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { SelectField } from '../../../../shared/ui/inputs.tsx';

/** Who takes over the hours of someone who is away. */
export function CoverField({
  week,
  except,
  value,
  fault,
  onChange,
}: {
  week: ScheduleWeek;
  /** Who is away. */
  except: readonly string[];
  value: string;
  fault?: string;
  onChange: (coverId: string) => void;
}) {
  const { t } = useTranslation();
  const lanes = week.lanes.filter(
    ({ kind, resourceId }) => ['provider', 'staff'].includes(kind) && !except.includes(resourceId),
  );
  const people = [...new Map(lanes.map(({ resourceId: id, name }) => [id, { id, name }])).values()];
  return (
    <SelectField
      label={t('schedule.coveredBy')}
      hint={t('schedule.coverHint')}
      error={fault}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      none={t('schedule.nobody')}
      options={people}
    />
  );
}

import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { codeWords } from '../../../../shared/i18n/codeWords.ts';
import { shortDate, timeOf, wallTime } from '../../../../shared/time/format.ts';
import { accountsApi } from '../../accounts/index.ts';
import { useNames } from './useNames.ts';

export interface EditNotice {
  readonly code: string;
  readonly facts: Readonly<Record<string, string | number | boolean | null>>;
}

/** Faults and warnings of edits in words: ids become names, instants and minutes become times of the site's clock. */
export function useNoticeWords(week: ScheduleWeek | null) {
  const { t } = useTranslation();
  const name = useNames(week);
  const { data: clinic } = accountsApi.useClinicQuery({});
  return ({ code, facts }: EditNotice, of: 'fault' | 'warning') => {
    const zone = clinic?.sites.find(({ id }) => id === facts.siteId)?.timeZone;
    const clock = (minute: unknown) =>
      zone && typeof minute === 'number' ? timeOf(new Date(minute * 60_000).toISOString(), zone) : '';
    const day = (date: unknown) => (date ? shortDate(String(date)) : '');
    const more = typeof facts.days === 'number' ? facts.days - 1 : 0;
    const words = codeWords(t, `schedule.${of}`, code, {
      ...facts,
      site: name(String(facts.siteId ?? '')),
      name: name(String(facts.resourceId ?? '')),
      date: day(facts.date),
      startDate: day(facts.startDate),
      endDate: day(facts.endDate),
      from: clock(facts.start),
      until: clock(facts.end),
      time: typeof facts.minute === 'number' ? wallTime(facts.minute) : '',
      becomes: typeof facts.becomes === 'number' ? wallTime(facts.becomes) : '',
    });
    return more > 0 ? `${words} ${t('schedule.moreDays', { count: more })}` : words;
  };
}

import type { OutputOf } from '@zaguan/contracts';
import type { groupOfVisit } from '@zaguan/contracts/booking';
import { useTranslation } from 'react-i18next';
import { shortDate, timeOf } from '../../../../shared/time/format.ts';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { TickField } from '../../../../shared/ui/inputs.tsx';
import { daybookApi } from '../daybook.api.ts';

/** Which of the visits that belong together something is done to. */
export const REACHES = ['this', 'later', 'all'] as const;
export type Reach = (typeof REACHES)[number];

type Other = OutputOf<typeof groupOfVisit>['others'][number];

/** The coming visits that belong together with one, if it belongs to any. */
export function useGroup(visit: { readonly id: string; readonly groupKind: string | null }) {
  const query = daybookApi.useGroupQuery({ id: visit.id as never }, { skip: visit.groupKind === null });
  const others = query.currentData?.others ?? [];
  return {
    others,
    /** How many more there are at sites that the reader may not change. */
    elsewhere: query.currentData?.elsewhere ?? 0,
    error: apiError(query.error),
    /** Nothing is to be done before it is known whom it may be done to. */
    isLoading: visit.groupKind !== null && !query.currentData && !query.error,
    reached: (reach: Reach): readonly Other[] =>
      reach === 'this' ? [] : reach === 'all' ? others : others.filter(({ isLater }) => isLater),
  };
}

/** That none was moved, and whose visit is the reason. */
export function NoneMoved({ visit, others, at }: { visit: { name: string }; others: readonly Other[]; at: unknown }) {
  const { t } = useTranslation();
  const names = [visit.name, ...others.map(({ patient }) => patient)];
  return (
    <b className="block">
      {t('group.none')} {typeof at === 'number' && names[at] && `${names[at]}:`}
    </b>
  );
}

/** Asks whether the others go along: nothing is chosen for anyone but the visit itself. */
export function ReachChoice({
  group: { others, elsewhere, error },
  reach,
  onReach,
}: {
  group: Pick<ReturnType<typeof useGroup>, 'others' | 'elsewhere' | 'error'>;
  reach: Reach;
  onReach: (reach: Reach) => void;
}) {
  const { t } = useTranslation();
  if (error) return <Notice tone="warning">{t('group.unknown')}</Notice>;
  if (!others.length) return elsewhere ? <p>{t('group.elsewhere', { count: elsewhere })}</p> : null;
  const later = others.filter(({ isLater }) => isLater).length;
  const shown = reach === 'all' ? others : reach === 'later' ? others.filter(({ isLater }) => isLater) : [];
  return (
    <fieldset className="flex flex-col gap-1" data-reach>
      <legend className="font-semibold">{t('group.which')}</legend>
      {REACHES.filter((each) => each !== 'later' || (later > 0 && later < others.length)).map((each) => (
        <TickField key={each} type="radio" name="reach" checked={reach === each} onChange={() => onReach(each)}>
          {t(`group.${each}`, { count: (each === 'later' ? later : others.length) + 1 })}
        </TickField>
      ))}
      <ul className="text-muted">
        {shown.map((other) => (
          <li key={other.id}>
            {other.patient}, {shortDate(other.date)}, {timeOf(other.start, other.timeZone)}, {other.visitType}
          </li>
        ))}
      </ul>
      {elsewhere > 0 && <p>{t('group.elsewhere', { count: elsewhere })}</p>}
    </fieldset>
  );
}

import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { SelectField } from '../../../shared/ui/inputs.tsx';
import { QueryFrame } from '../../shell/QueryFrame.tsx';
import { bookingApi } from './booking.api.ts';
import { type Flow, type GroupVisit, groupOf, type People, togetherOf, type Wanted } from './flow.ts';
import { useNames } from './useNames.ts';

interface Props {
  readonly flow: Flow;
  readonly wanted: Wanted;
  readonly context: People;
  /** The date to look from. */
  readonly from: string;
  /** The site that is looked at; `null`: any. */
  readonly siteId: string | null;
  readonly onChoose: (group: readonly GroupVisit[]) => void;
}

const MAX_SHOWN = 5;

/** Times at which everybody can come, or one comes every time: a press chooses them all. */
export function Together({ flow, wanted, context, from, siteId, onChoose }: Props) {
  const { t } = useTranslation();
  const { clinic, whenOf, placeOf, typeOf } = useNames();
  const [where, setWhere] = useState(siteId ?? '');
  const siteIds = where ? [where] : (clinic?.sites ?? []).map(({ id }) => id);
  const query = bookingApi.useTimesTogetherQuery(togetherOf(flow, wanted, { context, siteIds, from }), {
    skip: !siteIds.length,
  });
  const found = query.currentData;
  const nameOf = (patientId: string | null) =>
    flow.others.length ? nameIn(context, patientId ?? context.patient.id) : '';
  return (
    <section aria-label={t('book.when')} className="flex flex-col gap-1.5">
      <SelectField
        label={t('book.whenAt')}
        value={where}
        none={t('find.anySite')}
        options={clinic?.sites ?? []}
        onChange={(event) => setWhere(event.target.value)}
      />
      {!found && <QueryFrame query={query} bars={3} />}
      {found?.together.length === 0 && <p>{t(found.gaveUp ? 'find.gaveUp' : 'book.noneTogether')}</p>}
      <ul className="flex flex-col gap-1.5">
        {found?.together.slice(0, MAX_SHOWN).map((times, i) => {
          const group = groupOf(flow, times);
          const isChosen = isSameGroup(flow.group, group);
          return (
            <li key={times.map(({ start, providerId }) => `${start} ${providerId}`).join()}>
              <button
                type="button"
                data-proposal={i + 1}
                aria-pressed={isChosen}
                className={`flex w-full items-baseline gap-2 rounded-md border px-3 py-2 text-left ${isChosen ? 'border-accent bg-accent-subtle' : 'border-accent bg-panel hover:bg-accent-subtle'}`}
                onClick={() => onChoose(group)}
              >
                <span className="min-w-0 flex-1">
                  {group.map((visit) => (
                    <span key={`${visit.patientId} ${visit.start}`} className="block">
                      <b>{whenOf(visit)}</b>{' '}
                      <span className={isChosen ? 'text-foreground' : 'text-muted'}>
                        {[nameOf(visit.patientId), flow.repeat ? '' : typeOf(visit.visitTypeId), placeOf(visit)]
                          .filter(Boolean)
                          .join(' · ')}
                      </span>
                    </span>
                  ))}
                </span>
                <kbd className="rounded-sm border border-line-strong px-1.5 text-sm">{i + 1}</kbd>
              </button>
            </li>
          );
        })}
      </ul>
      {found?.gaveUp && found.together.length > 0 && <p className="text-warning">{t('find.gaveUpMore')}</p>}
    </section>
  );
}

/** Of somebody of the booking. */
export function nameIn({ patient, household }: People, id: string): string {
  return id === patient.id ? patient.name : (household.find((member) => member.id === id)?.name ?? '');
}

function isSameGroup(a: readonly GroupVisit[] | null, b: readonly GroupVisit[]): boolean {
  return (
    a?.length === b.length &&
    a.every(({ start, providerId }, i) => start === b[i].start && providerId === b[i].providerId)
  );
}

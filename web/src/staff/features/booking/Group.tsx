import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { dateAt } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { TickField } from '../../../shared/ui/inputs.tsx';
import { type Flow, type GroupVisit, type People, groupVisits, type Wanted, wantedIn } from './flow.ts';
import { nameIn } from './Together.tsx';
import { useNames } from './useNames.ts';
import { TimesOfDay } from './When.tsx';

interface Props {
  readonly flow: Flow;
  readonly wanted: Wanted;
  readonly group: readonly GroupVisit[];
  readonly context: People;
  readonly onChange: (group: readonly GroupVisit[]) => void;
}

/** The chosen visits, each to be changed before anything is booked, or put onto the Bench instead. */
export function Group({ flow, wanted, group, context, onChange }: Props) {
  const { t } = useTranslation();
  const { whenOf, placeOf, typeOf, zoneOf } = useNames();
  const [open, setOpen] = useState<number | null>(null);
  return (
    <ol className="flex flex-col gap-1" aria-label={t('book.visits')} data-group>
      {group.map((visit, at) => (
        <li
          // biome-ignore lint/suspicious/noArrayIndexKey: a visit is known by its place alone
          key={at}
          className="flex flex-col gap-1 rounded-md border border-line bg-panel px-2 py-1.5"
          data-group-visit={at}
        >
          <div className="flex items-baseline gap-2">
            <span className={`min-w-0 flex-1 ${visit.toBench ? 'text-muted' : ''}`}>
              <b>{visit.toBench ? t('book.later') : whenOf(visit)}</b>
              <span className="block text-muted">
                {[
                  flow.others.length ? nameIn(context, visit.patientId ?? context.patient.id) : '',
                  typeOf(visit.visitTypeId),
                  placeOf(visit),
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </span>
            </span>
            <Button
              look="plain"
              className="px-1 py-0 underline"
              aria-expanded={open === at}
              onClick={() => setOpen(open === at ? null : at)}
            >
              {t('book.otherTime')}
            </Button>
          </div>
          {open === at && (
            <>
              <TickField
                name={`bench-${at}`}
                checked={visit.toBench}
                onChange={(event) => onChange(group.with(at, { ...visit, toBench: event.target.checked }))}
              >
                {t('book.toBench')}
              </TickField>
              <TimesOfDay
                flowId={flow.flowId}
                time={visit}
                wanted={wantedIn(wanted, visit.patientId, visit.visitTypeId)}
                beside={groupVisits(group.toSpliced(at, 1), wanted)}
                from={dateAt(visit.start, zoneOf(visit.siteId))}
                onChoose={(time) => {
                  onChange(group.with(at, { ...visit, ...time, toBench: false }));
                  setOpen(null);
                }}
              />
            </>
          )}
        </li>
      ))}
    </ol>
  );
}

import type { OutputOf } from '@zaguan/contracts';
import type { contextOfPatient } from '@zaguan/contracts/desk';
import type { Part } from '@zaguan/core/visits';
import { useEffect, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { dateAt, formatBirthDate, shortDate, timeOf } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { QueryFrame } from '../../shell/QueryFrame.tsx';
import { useClinicTime } from '../accounts/index.ts';
import { PatientPicker } from '../finder/index.ts';
import { bookingApi } from './booking.api.ts';
import type { Flow } from './flow.ts';

type Context = OutputOf<typeof contextOfPatient>['context'];

interface Props {
  readonly flow: Flow;
  readonly set: (change: Partial<Flow>) => void;
  /** What is to be booked by itself. */
  readonly use: string | null;
}

/** Who comes; with them, what matters when somebody is booked. */
export function Who({ flow, set, use }: Props) {
  const { t } = useTranslation();
  const query = bookingApi.useContextQuery({ id: flow.patientId as never }, { skip: flow.patientId === null });
  if (flow.patientId === null)
    return <PatientPicker label={t('book.who')} onPick={(patient) => set({ patientId: patient?.id ?? null })} />;
  const context = query.currentData?.context;
  return (
    <section aria-label={t('book.who')} className="flex flex-col gap-1">
      <h3 className="font-semibold">{t('book.who')}</h3>
      {context ? <Chosen context={context} flow={flow} set={set} use={use} /> : <QueryFrame query={query} bars={2} />}
    </section>
  );
}

function Chosen({ context, flow, set, use }: Props & { context: Context }) {
  const { t } = useTranslation();
  const { patient } = context;
  return (
    <>
      <div className="rounded-md border border-line-strong bg-panel px-3 py-2" data-who={patient.id}>
        <p className="flex flex-wrap items-baseline gap-x-2">
          <Link to={`/patients/${patient.id}`} className="text-lg font-bold underline">
            {patient.name}
          </Link>
          <Button
            look="plain"
            className="ml-auto px-1 py-0 underline"
            onClick={() => set({ patientId: null, askedBy: '', requestId: null, unplacedId: null })}
          >
            {t('pick.change')}
          </Button>
        </p>
        <p className="text-muted">
          {[
            t('finder.born', { date: formatBirthDate(patient.birthDate), count: patient.age }),
            patient.phoneEnd && t('finder.phone', { digits: patient.phoneEnd }),
            patient.recordNumber,
          ]
            .filter(Boolean)
            .join(' · ')}
        </p>
      </div>
      <What context={context} flow={flow} set={set} use={use} />
    </>
  );
}

/** One line each, the most pressing first; what has no data is not there. */
function What({ context, flow, set, use }: Props & { context: Context }) {
  const { t } = useTranslation();
  useTaken(context, flow.visitTypeId === '' ? use : null, set);
  const { write } = useClinicTime();
  const { patient, requests, bench, coming, past, missed, household, mayBook } = context;
  const line = 'flex items-baseline gap-2 rounded-sm px-2 py-1';
  return (
    <ul className="flex flex-col gap-1" aria-label={t('book.context')}>
      {patient.alert && <li className={`${line} bg-warning-subtle font-bold text-warning`}>{patient.alert}</li>}
      {patient.staffNotes && <li className={`${line} bg-surface-deep`}>{patient.staffNotes}</li>}
      {requests.map((request) => (
        <li key={request.id} className={`${line} bg-warning-subtle`}>
          <span className="min-w-0 flex-1">
            {t('book.request', { by: request.askedBy, type: request.visitType, due: shortDate(request.dueDate) })}
            {request.overdue && <b className="text-danger"> {t('book.overdue')}</b>}
            {request.reason && ` “${request.reason}”`}
          </span>
          <Use
            isUsed={flow.requestId === request.id}
            onUse={(used) => set(used ? wantedBy.request(request) : { requestId: null })}
          />
        </li>
      ))}
      {bench.map((row) => (
        <li key={row.id} className={`${line} bg-warning-subtle`}>
          <span className="min-w-0 flex-1">
            {t(row.keeps ? 'book.waitsToMove' : 'book.waits', { type: row.visitType, since: write(row.since) })}
          </span>
          <Use
            isUsed={flow.unplacedId === row.id}
            onUse={(used) => set(used ? wantedBy.unplaced(row) : { unplacedId: null })}
          />
        </li>
      ))}
      <Recalls recalls={context.recalls} flow={flow} set={set} className={line} />
      {coming.slice(0, 3).map((visit) => (
        <li key={visit.id} className={`${line} bg-surface-deep`}>
          <Link to={`/daybook/${visit.date}?visit=${visit.id}`} className="underline">
            {shortDate(visit.date)}, {timeOf(visit.start, visit.timeZone)}
          </Link>
          <span className="min-w-0 flex-1">
            {visit.visitType}, {visit.siteName}
          </span>
        </li>
      ))}
      {household.flatMap(({ id, name, age, next }) =>
        next
          ? [
              <li key={id} className={`${line} bg-surface-deep`}>
                {t('book.member', {
                  name,
                  count: age,
                  date: shortDate(dateAt(next.start, next.timeZone)),
                  site: next.siteName,
                })}
              </li>,
            ]
          : [],
      )}
      {(past.length > 0 || missed > 0) && (
        <li className={`${line} text-muted`}>
          {[
            past[0] && t('book.last', { date: shortDate(past[0].date), type: past[0].visitType }),
            missed > 0 && t('book.missed', { count: missed }),
          ]
            .filter(Boolean)
            .join(' · ')}
        </li>
      )}
      {patient.isMinor && mayBook.length > 0 && (
        <li>
          <label className="flex items-center gap-2">
            {t('book.askedBy')}
            <select
              className="min-w-0 flex-1 rounded-md border border-line-strong bg-panel px-2 py-1"
              value={flow.askedBy || mayBook[0].id}
              onChange={(event) => set({ askedBy: event.target.value })}
            >
              {mayBook.map((each) => (
                <option key={each.id} value={each.id}>
                  {each.name}
                  {each.limits && ` (${each.limits})`}
                </option>
              ))}
            </select>
          </label>
        </li>
      )}
    </ul>
  );
}

/** What a request, or something on the Bench, asks for. */
/** What they are due for, by the clinic's recall plans; with the visit type where the plan goes by one. */
function Recalls({
  recalls,
  flow,
  set,
  className,
}: Pick<Props, 'flow' | 'set'> & { recalls: Context['recalls']; className: string }) {
  const { t } = useTranslation();
  return recalls.map(({ planId, plan, dueOn, overdue, visitTypeId }) => (
    <li key={planId} data-recall={planId} className={`${className} bg-surface-deep`}>
      <span className="min-w-0 flex-1">
        {t('book.recall', { plan, due: shortDate(dueOn) })}
        {overdue && <b className="text-warning"> {t('recalls.overdueNow')}</b>}
      </span>
      {visitTypeId && (
        <Use
          isUsed={flow.visitTypeId === visitTypeId}
          onUse={(used) => set({ visitTypeId: used ? visitTypeId : '' })}
        />
      )}
    </li>
  ));
}

const wantedBy = {
  request: ({ id, visitTypeId, reason }: Context['requests'][number]) => ({ requestId: id, visitTypeId, reason }),
  unplaced: ({ id, visitTypeId, reason, parts }: Context['bench'][number]) => ({
    ...{ unplacedId: id, visitTypeId, reason },
    parts: parts as readonly Part[] | null,
  }),
};

/** Takes up, once, what the address says is to be booked: not again over what was chosen since. */
function useTaken({ requests, bench }: Context, use: string | null, set: Props['set']): void {
  const isTaken = useRef(false);
  useEffect(() => {
    const request = requests.find(({ id }) => id === use);
    const unplaced = bench.find(({ id }) => id === use);
    if (isTaken.current || (!request && !unplaced)) return;
    isTaken.current = true;
    if (request) set(wantedBy.request(request));
    else if (unplaced) set(wantedBy.unplaced(unplaced));
  }, [requests, bench, use, set]);
}

function Use({ isUsed, onUse }: { isUsed: boolean; onUse: (used: boolean) => void }) {
  const { t } = useTranslation();
  return (
    <Button
      look={isUsed ? 'accent' : 'plain'}
      className="px-2 py-0"
      aria-pressed={isUsed}
      onClick={() => onUse(!isUsed)}
    >
      {t(isUsed ? 'book.used' : 'book.use')}
    </Button>
  );
}

import { requestTimeOff, type ScheduleWeek, type TimeOffRequest } from '@zaguan/contracts/availability';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { codeWords } from '../../../../shared/i18n/codeWords.ts';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateAt, shortDate, timeOf, wallTime } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import {
  ContractForm,
  FormActions,
  DateField,
  TextField,
  useContractForm,
  useKeptState,
} from '../../../forms/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import { availabilityApi } from '../availability.api.ts';
import { CoverField } from './CoverField.tsx';

const spanOf = (row: TimeOffRequest, allDay: string) => {
  const isWhole = row.startMinute === 0 && row.endMinute === 1440;
  if (row.startDate !== row.endDate) return `${shortDate(row.startDate)} – ${shortDate(row.endDate)}`;
  const times = isWhole ? allDay : `${wallTime(row.startMinute)} – ${wallTime(row.endMinute)}`;
  return `${shortDate(row.startDate)}, ${times}`;
};

/** Time off that was asked for: to decide, or one's own to ask and follow. */
export function RequestsPanel({ week, onClose }: { week: ScheduleWeek; onClose: () => void }) {
  const { t } = useTranslation();
  const { data, error, isLoading } = availabilityApi.useTimeOffRequestsQuery({});
  const failed = apiError(error);
  const decides = week.mayEdit === 'all';
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-xl font-bold">{t('requests.heading')}</h2>
      {failed && <Notice tone="danger">{t(`error.${failed.tag}`, { requestId: failed.requestId })}</Notice>}
      {isLoading && <div className="h-16 animate-pulse rounded-md bg-highlight" />}
      {data && !data.requests.length && <p className="text-muted">{t('requests.none')}</p>}
      <ul>
        {data?.requests.map((row) => (
          <li key={row.id} data-request={row.id} className="border-t border-line py-2">
            <p className="font-bold">{decides ? row.name : t(`requests.status.${row.status}`)}</p>
            <p>{spanOf(row, t('schedule.allDay'))}</p>
            {row.reason && <p className="text-muted">{row.reason}</p>}
            {row.answer && <p>{t('requests.answered', { answer: row.answer })}</p>}
            {decides && <Decision week={week} row={row} />}
          </li>
        ))}
      </ul>
      {week.ownResourceId && !decides && <Ask week={week} />}
      <Button className="self-start" onClick={onClose}>
        {t('close')}
      </Button>
    </div>
  );
}

function Decision({ week, row }: { week: ScheduleWeek; row: TimeOffRequest }) {
  const { t } = useTranslation();
  const [decide, { isLoading }] = availabilityApi.useDecideTimeOffMutation();
  const undoable = useUndoToast();
  const [answer, setAnswer] = useKeptState(`answer.${row.id}`, '');
  const [coverId, setCoverId] = useKeptState(`cover.${row.id}`, row.coverId ?? '');
  const [agreed, setAgreed] = useState(false);
  const run = async (approve: boolean) => {
    const result = await decide({
      id: row.id,
      approve,
      answer,
      coverId: coverId || null,
      agreed: agreed || row.visitsToMove.length > 0,
    });
    if (result.data) return undoable(t(approve ? 'requests.approved' : 'requests.declined'), result.data.undo.id);
    const refused = apiError(result.error);
    if (refused?.tag === 'AgreementNeeded') {
      // Another cover than the one that was suggested leaves other visits; the next press agrees to that.
      setAgreed(true);
      return toast.error(t('requests.visitsToMove', { count: Number(refused.facts.visits) }));
    }
    toast.error(
      refused?.tag === 'ScheduleRefused'
        ? codeWords(t, 'requests.coverCannot', refused.codes?.[0] ?? '', {}, t('requests.coverCannot.other'))
        : t(`error.${refused?.tag ?? 'Unexpected'}`, { requestId: refused?.requestId }),
    );
  };
  return (
    <div className="mt-1 flex flex-col gap-2">
      {row.visitsToMove.length > 0 && (
        <div className="rounded-md border border-warning bg-warning-subtle px-3 py-2">
          <p className="font-bold">{t('schedule.visitsToMove', { count: row.visitsToMove.length })}</p>
          <ul className="max-h-[110px] overflow-y-auto">
            {row.visitsToMove.map((visit) => {
              const zone = week.sites.find(({ id }) => id === visit.siteId)?.timeZone ?? 'UTC';
              return (
                <li key={visit.appointmentId}>
                  {shortDate(dateAt(visit.start, zone))}, {timeOf(visit.start, zone)} {visit.patientName}
                </li>
              );
            })}
          </ul>
        </div>
      )}
      <CoverField
        week={week}
        except={[row.resourceId]}
        value={coverId}
        onChange={(id) => {
          setCoverId(id);
          setAgreed(false);
        }}
      />
      <input
        aria-label={t('requests.words', { name: row.name })}
        placeholder={t('requests.wordsShort')}
        className="rounded-md border border-line-strong bg-panel px-2 py-1.5"
        value={answer}
        onChange={(event) => setAnswer(event.target.value)}
      />
      <span className="flex gap-2">
        <Button look="primary" disabled={isLoading} onClick={() => void run(true)}>
          {t('requests.approve')}
        </Button>
        <Button look="danger" disabled={isLoading} onClick={() => void run(false)}>
          {t('requests.decline')}
        </Button>
      </span>
    </div>
  );
}

function Ask({ week }: { week: ScheduleWeek }) {
  const { t } = useTranslation();
  const [ask] = availabilityApi.useRequestTimeOffMutation();
  const undoable = useUndoToast();
  const form = useContractForm(requestTimeOff, {
    values: { startDate: week.today, endDate: week.today, reason: '', coverId: null },
    // Whole days.
    fixed: { siteId: null, startMinute: 0, endMinute: 1440 },
    send: ask,
    onDone: (answer) => {
      undoable(t('requests.asked'), answer.undo.id);
      form.giveUp();
    },
    keepAs: 'time-off-request',
  });
  return (
    <ContractForm
      of={form}
      className="flex flex-col gap-2 border-t border-line pt-3"
      actions={<FormActions of={form} send={t('requests.send')} />}
    >
      <h3 className="font-bold">{t('requests.ask')}</h3>
      <div className="grid grid-cols-2 gap-2">
        <DateField name="startDate" required={false} label={t('schedule.firstDay')} />
        <DateField name="endDate" required={false} label={t('schedule.lastDay')} />
      </div>
      <CoverField
        week={week}
        except={week.ownResourceId ? [week.ownResourceId] : []}
        value={form.form.watch('coverId') ?? ''}
        onChange={(coverId) => form.form.setValue('coverId', (coverId || null) as never)}
      />
      <TextField name="reason" label={t('schedule.reason')} />
    </ContractForm>
  );
}

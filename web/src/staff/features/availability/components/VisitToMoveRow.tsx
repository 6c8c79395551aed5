import { CALL_OUTCOMES, keepTime, type VisitToMove } from '@zaguan/contracts/availability';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateAt, formatPhone, shortDate, timeOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { ContractForm, FormActions, TextField, useContractForm } from '../../../forms/index.ts';
import { accountsApi } from '../../accounts/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import { availabilityApi } from '../availability.api.ts';
import { needsCall, NONE, textOf } from './otherTime.ts';

/** One visit of the list: why it can't stay, whether its patient knows, and what to do. */
export function VisitToMoveRow({
  visit,
  value,
  busy,
  onChoose,
  onMove,
}: {
  visit: VisitToMove;
  value: string;
  busy: boolean;
  onChoose: (value: string) => void;
  onMove: () => void;
}) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const [keeping, setKeeping] = useState(false);
  const siteOf = (id: string) => clinic?.sites.find((each) => each.id === id);
  const site = siteOf(visit.siteId);
  const nameOf = (id: string | null) => clinic?.people.find((person) => person.id === id)?.name ?? '';
  const when = (start: string, siteId: string) => {
    const zone = siteOf(siteId)?.timeZone ?? 'UTC';
    return `${shortDate(dateAt(start, zone))}, ${timeOf(start, zone)}`;
  };
  const options = [visit.proposed, ...visit.alternatives].filter((time) => time !== null);
  const times = [...new Map(options.map((time) => [textOf(time), time])).values()];
  const type = clinic?.visitTypes.find(({ id }) => id === visit.visitTypeId)?.name;
  const who = visit.patientName || t('schedule.nobodyKnown');
  return (
    <tr className="border-b border-line align-top" data-visit={visit.appointmentId}>
      <td className="px-2 py-2">
        <span className="block font-bold">{who}</span>
        {type} · <span className="whitespace-nowrap">{when(visit.start, visit.siteId)}</span>
        <span className="block text-muted">{[nameOf(visit.providerId), site?.name].filter(Boolean).join(' · ')}</span>
      </td>
      <td className="max-w-[190px] px-2 py-2">
        {visit.codes.map((code) => (
          <span key={code} className="block">
            {t(`whyNot.code.${code}`)}
          </span>
        ))}
        {visit.otherSeat && <span className="block text-muted">{t('schedule.otherSeat')}</span>}
      </td>
      <td className="px-2 py-2">
        <PatientWasTold visit={visit} who={who} />
      </td>
      <td className="w-[290px] px-2 py-2">
        <select
          aria-label={t('schedule.insteadFor', { name: who })}
          className="w-full rounded-md border border-line-strong bg-panel px-2 py-1.5"
          value={value}
          onChange={(event) => onChoose(event.target.value)}
        >
          <option value={NONE}>{t(times.length ? 'schedule.notNow' : 'schedule.nothingFound')}</option>
          {times.map((time) => (
            <option key={textOf(time)} value={textOf(time)}>
              {when(time.start, time.siteId)}
              {textOf(time) === textOf(visit) ? `, ${t('schedule.sameTime')}` : ''}
              {time.providerId !== visit.providerId ? `, ${nameOf(time.providerId)}` : ''}
              {time.siteId !== visit.siteId ? `, ${siteOf(time.siteId)?.name ?? ''}` : ''}
            </option>
          ))}
        </select>
      </td>
      <td className="px-2 py-2">
        {!keeping ? (
          <span className="flex gap-2 whitespace-nowrap">
            <Button
              disabled={busy || value === NONE}
              onClick={onMove}
              aria-label={t('schedule.moveOne', { name: who })}
            >
              {t('schedule.move')}
            </Button>
            <Button look="plain" onClick={() => setKeeping(true)}>
              {t('schedule.leave')}
            </Button>
          </span>
        ) : (
          <KeepTime visit={visit} />
        )}
      </td>
    </tr>
  );
}

/** The visit stays at its time, with a reason. */
function KeepTime({ visit }: { visit: VisitToMove }) {
  const { t } = useTranslation();
  const undoable = useUndoToast();
  const [keep] = availabilityApi.useKeepTimeMutation();
  const form = useContractForm(keepTime, {
    values: { reason: '' },
    fixed: { appointmentId: visit.appointmentId as never },
    send: keep,
    onDone: (answer) => undoable(t('schedule.done.kept'), answer.undo.id),
    keepAs: `keep.${visit.appointmentId}`,
  });
  return (
    <ContractForm
      of={form}
      className="flex flex-col items-start gap-2"
      actions={<FormActions of={form} look="quiet" send={t('schedule.leave')} />}
    >
      <TextField name="reason" required={false} label={t('schedule.leaveWhy')} />
    </ContractForm>
  );
}

/** Whether the patient knows: told by message, or to be called, with how the last call ended. */
function PatientWasTold({ visit, who }: { visit: VisitToMove; who: string }) {
  const { t } = useTranslation();
  const [note, { isLoading }] = availabilityApi.useRecordCallMutation();
  const undoable = useUndoToast();
  const { told, call, phone, appointmentId } = visit;
  const ended = async (outcome: (typeof CALL_OUTCOMES)[number]) => {
    const { data, error } = await note({ appointmentId, outcome });
    if (data) undoable(t('schedule.done.call'), data.undo.id);
    else toast.error(t(`error.${apiError(error)?.tag ?? 'Unexpected'}`));
  };
  if (told) return <span>{t('schedule.toldByMessage')}</span>;
  return (
    <span className="flex flex-col items-start gap-1">
      {needsCall(visit) && (
        <span className="font-bold whitespace-nowrap">
          {phone ? (
            <>
              {t('schedule.callAt')}{' '}
              <a href={`tel:${phone}`} className="text-accent underline">
                {formatPhone(phone)}
              </a>
            </>
          ) : (
            t('schedule.noPhone')
          )}
        </span>
      )}
      {call && (
        <span className="text-muted">
          {t(`schedule.call.${call.outcome}`)}, {call.by}
        </span>
      )}
      <select
        aria-label={t('schedule.callEnded', { name: who })}
        className="rounded-md border border-line-strong bg-panel px-2 py-1"
        value=""
        disabled={isLoading}
        onChange={(event) => {
          const outcome = CALL_OUTCOMES.find((each) => each === event.target.value);
          if (outcome) void ended(outcome);
        }}
      >
        <option value="">{t(call ? 'schedule.calledAgain' : 'schedule.called')}</option>
        {CALL_OUTCOMES.map((outcome) => (
          <option key={outcome} value={outcome}>
            {t(`schedule.call.${outcome}`)}
          </option>
        ))}
      </select>
    </span>
  );
}

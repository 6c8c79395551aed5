import { CALL_OUTCOMES, type VisitToMove } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { formatPhone } from '../../../../shared/time/format.ts';
import { ActionMenu } from '../../../shell/ActionMenu.tsx';
import { useUndoToast } from '../../undo/index.ts';
import { availabilityApi } from '../availability.api.ts';
import { needsCall } from './otherTime.ts';

/** Whether the patient knows: told by message, or to be called, with how the last call ended. */
export function PatientWasTold({ visit }: { visit: VisitToMove }) {
  const { t } = useTranslation();
  const who = visit.patientName || t('schedule.nobodyKnown');
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
      <ActionMenu
        words={t(call ? 'schedule.calledAgain' : 'schedule.called')}
        label={t('schedule.callEnded', { name: who })}
        options={CALL_OUTCOMES.map((value) => ({ value, label: t(`schedule.call.${value}`) }))}
        disabled={isLoading}
        onChoose={(outcome) => void ended(outcome)}
      />
    </span>
  );
}

import { keepTime, type VisitToMove } from '@zaguan/contracts/availability';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { ContractForm, FormActions, TextField, useContractForm } from '../../../forms/index.ts';
import { InviteLink, useMayInvite } from '../../invitations/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import { availabilityApi } from '../availability.api.ts';
import { useVisitWords } from '../hooks/useVisitWords.ts';
import { NONE, textOf } from './otherTime.ts';

/** Who, what, when, with whom and where it is booked. */
export function VisitCell({ visit }: { visit: VisitToMove }) {
  const { t } = useTranslation();
  const words = useVisitWords();
  return (
    <>
      <span className="block font-bold">{visit.patientName || t('schedule.nobodyKnown')}</span>
      {words.type(visit.visitTypeId)} · <span className="whitespace-nowrap">{words.when(visit)}</span>
      <span className="block text-muted">
        {[words.person(visit.providerId), words.site(visit.siteId)].filter(Boolean).join(' · ')}
      </span>
    </>
  );
}

export function WhyCell({ visit }: { visit: VisitToMove }) {
  const { t } = useTranslation();
  return (
    <>
      {visit.codes.map((code) => (
        <span key={code} className="block">
          {t(`whyNot.code.${code}`)}
        </span>
      ))}
      {visit.otherSeat && <span className="block text-muted">{t('schedule.otherSeat')}</span>}
    </>
  );
}

export function OtherTimeChoice({
  visit,
  value,
  onChoose,
}: {
  visit: VisitToMove;
  value: string;
  onChoose: (value: string) => void;
}) {
  const { t } = useTranslation();
  const words = useVisitWords();
  const options = [visit.proposed, ...visit.alternatives].filter((time) => time !== null);
  const times = [...new Map(options.map((time) => [textOf(time), time])).values()];
  return (
    <select
      aria-label={t('schedule.insteadFor', { name: visit.patientName || t('schedule.nobodyKnown') })}
      className="w-full rounded-md border border-line-strong bg-panel px-2 py-1.5"
      value={value}
      onChange={(event) => onChoose(event.target.value)}
    >
      <option value={NONE}>{t(times.length ? 'schedule.notNow' : 'schedule.nothingFound')}</option>
      {times.map((time) => (
        <option key={textOf(time)} value={textOf(time)}>
          {words.time(time, visit)}
          {textOf(time) === textOf(visit) ? `, ${t('schedule.sameTime')}` : ''}
        </option>
      ))}
    </select>
  );
}

export function MoveOrKeep({
  visit,
  value,
  busy,
  onMove,
}: {
  visit: VisitToMove;
  value: string;
  busy: boolean;
  onMove: () => void;
}) {
  const { t } = useTranslation();
  const [keeping, setKeeping] = useState(false);
  const mayInvite = useMayInvite();
  if (keeping) return <KeepTime visit={visit} />;
  return (
    <span className="flex gap-2 whitespace-nowrap">
      <Button
        disabled={busy || value === NONE}
        onClick={onMove}
        aria-label={t('schedule.moveOne', { name: visit.patientName || t('schedule.nobodyKnown') })}
      >
        {t('schedule.move')}
      </Button>
      <Button look="plain" onClick={() => setKeeping(true)}>
        {t('schedule.leave')}
      </Button>
      {mayInvite && visit.patientId !== null && (
        <InviteLink
          patientId={visit.patientId}
          name={visit.patientName}
          about={{ move: visit.appointmentId, type: visit.visitTypeId }}
        />
      )}
    </span>
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

import type { DaybookDay } from '@zaguan/contracts/daybook';
import { mayCancel } from '@zaguan/core/visits';
import { type Role, scopeOf } from '@zaguan/contracts';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { ArchMark } from '../../../../shared/arch/ArchMark.tsx';
import { archFor } from '../../../../shared/arch/archFor.ts';
import { timeOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { CheckInPanel } from '../../intake/index.ts';
import { VisitMessages } from '../../simulatedCarriers/index.ts';
import { VisitExtrasView } from '../../today/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import { CancelForm } from './CancelForm.tsx';
import { HoldPanel } from './HoldPanel.tsx';
import { MoveForm } from './MoveForm.tsx';
import { StatusActions } from './StatusActions.tsx';
import type { TypeNames } from './LaneView.tsx';
import { formatStatus } from './PlateView.tsx';

/** One visit in full, with what may be done to it now. */
export function VisitPanel({
  day,
  visitId,
  types,
  role,
  onClose,
}: {
  day: DaybookDay;
  visitId: string;
  types: TypeNames;
  role: Role;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const toast = useUndoToast();
  const [cancelling, setCancelling] = useState(false);
  const [moving, setMoving] = useState(false);
  const lanes = day.sites
    .flatMap((site) => site.lanes.map((lane) => ({ site, lane, plate: lane.plates.find((row) => row.id === visitId) })))
    .filter((row) => row.plate);
  const shown = lanes[0];
  if (!shown?.plate) return <p>{t('visit.gone')}</p>;
  const { site, plate } = shown;
  const range = (run: { start: string; end: string }) =>
    t('daybook.range', { from: timeOf(run.start, site.timeZone), until: timeOf(run.end, site.timeZone) });
  const mayMove = scopeOf(role, 'appointment.status') !== 'no';
  const mayMoveTime =
    scopeOf(role, 'appointment.move') !== 'no' && (plate.status === 'booked' || plate.status === 'pending');
  if (plate.kind === 'hold') return <HoldPanel plate={plate} site={site} role={role} onClose={onClose} />;
  return (
    <div className="flex flex-col gap-3">
      <div>
        <h2 className="text-xl leading-tight font-bold">
          {plate.patientId ? (
            <Link className="underline decoration-line-strong underline-offset-4" to={`/patients/${plate.patientId}`}>
              {plate.name}
            </Link>
          ) : (
            plate.name
          )}
        </h2>
        <p className="flex items-center gap-1.5">
          <ArchMark shape={archFor(plate)} label="" size={18} />
          <span data-testid="status-words">{formatStatus(plate, t)}</span>
        </p>
      </div>
      {plate.identity === 'unknown' && (
        <Notice tone="warning">
          {t('visit.unknownNote')}
          {scopeOf(role, 'identityReview.decide') !== 'no' && (
            <Link className="ml-1 underline" to={`/identity-review?booking=${plate.id}`}>
              {t('identityReview.title')}
            </Link>
          )}
        </Notice>
      )}
      {plate.status === 'pending' && (
        <Notice tone="warning">
          {t('visit.pendingNote')}
          {scopeOf(role, 'identityReview.decide') !== 'no' && (
            <Link className="ml-1 underline" to={`/identity-review?tab=approve&booking=${plate.id}`}>
              {t('identityReview.toApprove')}
            </Link>
          )}
        </Notice>
      )}
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
        <dt className="text-muted">{site.name}</dt>
        <dd>{range(plate)}</dd>
        <dt className="text-muted">{types[plate.visitTypeId]?.name}</dt>
        <dd>{t(`visit.kind.${plate.patientKind}`)}</dd>
        {lanes.map(({ lane, plate: row }) => (
          <div key={lane.id} className="contents">
            <dt className="text-muted">{lane.name}</dt>
            <dd>{row?.present.map(range).join(', ')}</dd>
          </div>
        ))}
        <dt className="text-muted">{t('visit.reason')}</dt>
        <dd data-testid="reason">{plate.reason || t('visit.noReason')}</dd>
      </dl>
      {plate.origin === 'self' && <VisitExtrasView visitId={plate.id} />}
      {plate.origin && <p className="text-muted">{t(`visit.origin.${plate.origin}`)}</p>}
      {mayMove ? (
        <StatusActions plate={plate} now={day.now} />
      ) : (
        <p className="text-muted">{t('visit.noStatusRight')}</p>
      )}
      {scopeOf(role, 'appointment.cancel') !== 'no' && mayCancel(plate.status) && !cancelling && (
        <div className="flex gap-2">
          {mayMoveTime && !moving && <Button onClick={() => setMoving(true)}>{t('visit.move')}</Button>}
          <Button
            look="danger"
            onClick={() => {
              setMoving(false);
              setCancelling(true);
            }}
          >
            {t('visit.cancel')}
          </Button>
        </div>
      )}
      {moving && (
        <MoveForm
          visit={plate}
          siteId={site.id}
          timeZone={site.timeZone}
          onMoved={(when, undoId) => {
            toast(t('visit.movedTo', { name: plate.name, when }), undoId);
            onClose();
          }}
          onKeep={() => setMoving(false)}
        />
      )}
      {cancelling && (
        <CancelForm
          visit={plate}
          onDone={(undoId) => {
            toast(t('visit.cancelled'), undoId);
            onClose();
          }}
          onKeep={() => setCancelling(false)}
        />
      )}
      {plate.readiness && scopeOf(role, 'intake.view') !== 'no' && (
        <CheckInPanel key={plate.id} visitId={plate.id} name={plate.name} role={role} />
      )}
      {plate.origin === 'self' && scopeOf(role, 'messages.view') !== 'no' && (
        <VisitMessages visitId={plate.id} timeZone={site.timeZone} />
      )}
    </div>
  );
}

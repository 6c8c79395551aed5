import type { DaybookDay, Plate } from '@zaguan/contracts/daybook';
import { type Role, scopeOf } from '@zaguan/contracts';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { ArchMark } from '../../../../shared/arch/ArchMark.tsx';
import { archFor } from '../../../../shared/arch/archFor.ts';
import { dateAt, timeOf } from '../../../../shared/time/format.ts';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { SoonerOfVisit, TakeHome } from '../../booking/index.ts';
import { CheckInPanel } from '../../intake/index.ts';
import { VisitMessages } from '../../simulatedCarriers/index.ts';
import { VisitExtrasView } from '../../today/index.ts';
import { AlsoOpen } from './AlsoOpen.tsx';
import { ChangeVisit } from './ChangeVisit.tsx';
import { HoldPanel } from './HoldPanel.tsx';
import { LateNotice } from './LateNotice.tsx';
import { StatusActions } from './StatusActions.tsx';
import { VisitSteps } from './VisitSteps.tsx';
import type { TypeNames } from './useLane.ts';
import { formatStatus } from '../plateFace.ts';

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
  const places = placesOf(day, visitId);
  if (!places.length) return <p>{t('visit.gone')}</p>;
  const [{ site, plate }] = places;
  if (plate.kind === 'hold') return <HoldPanel plate={plate} site={site} role={role} onClose={onClose} />;
  const mayChangeStatus = scopeOf(role, 'appointment.status') !== 'no';
  return (
    <div className="flex flex-col gap-3">
      <Who plate={plate} />
      <AlsoOpen visitId={plate.id} />
      <LateNotice plate={plate} site={site} />
      <ToReview plate={plate} role={role} />
      <Facts places={places} types={types} />
      {plate.origin === 'self' && <VisitExtrasView visitId={plate.id} />}
      {plate.origin && <p className="text-muted">{t(`visit.origin.${plate.origin}`)}</p>}
      {plate.patientId && scopeOf(role, 'appointment.book') !== 'no' && plate.status === 'booked' && (
        <>
          <SoonerOfVisit visitId={plate.id} />
          <TakeHome ids={[plate.id]} />
        </>
      )}
      {mayChangeStatus ? (
        <StatusActions plate={plate} now={day.now} />
      ) : (
        <p className="text-muted">{t('visit.noStatusRight')}</p>
      )}
      <VisitSteps visitId={plate.id} date={dateAt(plate.start, site.timeZone)} timeZone={site.timeZone} />
      <ChangeVisit visit={plate} site={site} role={role} onClose={onClose} />
      {plate.readiness && scopeOf(role, 'intake.view') !== 'no' && (
        <CheckInPanel key={plate.id} visitId={plate.id} name={plate.name} role={role} />
      )}
      {plate.origin === 'self' && scopeOf(role, 'messages.view') !== 'no' && (
        <VisitMessages visitId={plate.id} timeZone={site.timeZone} />
      )}
    </div>
  );
}

/** Where a visit stands on the day: once for everybody and everything it takes. */
function placesOf({ sites }: DaybookDay, visitId: string) {
  return sites.flatMap((site) =>
    site.lanes.flatMap((lane) => {
      const plate = lane.plates.find(({ id }) => id === visitId);
      return plate ? [{ site, lane, plate }] : [];
    }),
  );
}

function Who({ plate }: { plate: Plate }) {
  const { t } = useTranslation();
  return (
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
      {plate.waived.length > 0 && (
        <p className="text-warning" data-waived>
          <b>{t('visit.against')}</b> {plate.waived.map((code) => t(`whyNot.code.${code}`)).join('; ')}
        </p>
      )}
      {plate.groupKind && <p className="text-muted">{t(`group.kind.${plate.groupKind}`)}</p>}
      {plate.alert && (
        <Notice tone="warning">
          <b>{t('visit.alert')}</b> {plate.alert}
        </Notice>
      )}
    </div>
  );
}

/** What the desk has to decide about a self-booking first. */
function ToReview({ plate, role }: { plate: Plate; role: Role }) {
  const { t } = useTranslation();
  const mayDecide = scopeOf(role, 'identityReview.decide') !== 'no';
  return (
    <>
      {plate.identity === 'unknown' && (
        <Notice tone="warning">
          {t('visit.unknownNote')}
          {mayDecide && (
            <Link className="ml-1 underline" to={`/identity-review?booking=${plate.id}`}>
              {t('identityReview.title')}
            </Link>
          )}
        </Notice>
      )}
      {plate.status === 'pending' && (
        <Notice tone="warning">
          {t('visit.pendingNote')}
          {mayDecide && (
            <Link className="ml-1 underline" to={`/identity-review?tab=approve&booking=${plate.id}`}>
              {t('identityReview.toApprove')}
            </Link>
          )}
        </Notice>
      )}
    </>
  );
}

function Facts({ places, types }: { places: ReturnType<typeof placesOf>; types: TypeNames }) {
  const { t } = useTranslation();
  const [{ site, plate }] = places;
  const range = (run: { start: string; end: string }) =>
    t('daybook.range', { from: timeOf(run.start, site.timeZone), until: timeOf(run.end, site.timeZone) });
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
      <dt className="text-muted">{site.name}</dt>
      <dd>{range(plate)}</dd>
      <dt className="text-muted">{types[plate.visitTypeId]?.name}</dt>
      <dd>{t(`visit.kind.${plate.patientKind}`)}</dd>
      {places.map((place) => (
        <div key={place.lane.id} className="contents">
          <dt className="text-muted">{place.lane.name}</dt>
          <dd>{place.plate.present.map(range).join(', ')}</dd>
        </div>
      ))}
      <dt className="text-muted">{t('visit.reason')}</dt>
      <dd data-testid="reason">{plate.reason || t('visit.noReason')}</dd>
    </dl>
  );
}

import { useTranslation } from 'react-i18next';
import { Navigate, useNavigate } from 'react-router';
import { ArchMark } from '../../../../shared/arch/ArchMark.tsx';
import { dateAt, formatDate, timeOf, formatZone } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { bookingApi } from '../booking.api.ts';
import { Step } from '../components/Step.tsx';
import { useHold } from '../hooks/useHold.ts';
import { useLanguage } from '../hooks/useLanguage.ts';
import { choices } from '../choices.slice.ts';

export function DonePage() {
  const { t } = useTranslation();
  const language = useLanguage();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { reset } = useHold();
  const [, booking] = bookingApi.useBookMutation({ fixedCacheKey: 'book' });
  const { data: clinic } = bookingApi.useClinicQuery({ language });
  const { kind, siteId, booked: visit } = useAppSelector((state) => state.choices);
  const { data: types } = bookingApi.useVisitTypesQuery(
    { siteId: siteId ?? '', kind: kind ?? 'new', language },
    { skip: !siteId || !kind },
  );
  const type = types?.visitTypes.find((row) => row.id === visit?.visitTypeId);
  const { data: people } = bookingApi.useProvidersQuery(
    { siteId: siteId ?? '', visitTypeId: visit?.visitTypeId ?? '', kind: kind ?? 'new', language },
    { skip: !siteId || !kind || !visit },
  );
  const provider = people?.providers.find(({ id }) => id === visit?.providerId)?.name;
  if (!visit) return <Navigate to="/" replace />;
  const site = clinic?.sites.find((row) => row.id === visit.siteId);
  return (
    <Step question={t(visit.waiting ? 'done.requested' : 'done.title')} back={false}>
      {visit.waiting && <p className="mb-4">{t('done.waiting')}</p>}
      <div className="flex gap-3 rounded-md border border-accent bg-panel px-4 py-4 text-accent">
        <ArchMark shape={visit.waiting ? 'dotted' : 'threshold'} label="" size={36} />
        <div className="text-foreground">
          <p className="text-lg font-bold" data-testid="booked-time">
            {formatDate(dateAt(visit.start, visit.timeZone), language)}, {timeOf(visit.start, visit.timeZone, language)}
          </p>
          <p className="text-muted">{formatZone(visit.timeZone, language)}</p>
          <p className="mt-1" data-testid="booked-what">
            {[type?.name, provider].filter(Boolean).join(', ')}
          </p>
        </div>
      </div>
      {site && (
        <div className="mt-4">
          <h2 className="font-bold">{t('done.where')}</h2>
          <p>
            {site.name}
            <br />
            {site.address}, {site.city}
          </p>
          <p className="text-muted">{site.directions}</p>
        </div>
      )}
      {type?.preparation && (
        <p className="mt-4 whitespace-pre-line">
          <b>{t('done.prepare')}</b> {type.preparation}
        </p>
      )}
      <div className="mt-5 flex flex-col gap-3">
        <a
          className="inline-flex min-h-12 items-center justify-center rounded-md bg-accent px-3 text-center font-semibold text-on-fill"
          href={visit.link}
        >
          {t('done.visitPage')}
        </a>
        <p className="-mt-1 text-muted">{t('done.visitPageHint')}</p>
        {!visit.waiting && (
          <a
            className="inline-flex min-h-12 items-center justify-center rounded-md border border-accent font-semibold text-accent"
            href={`/api/public/bookings/${visit.id}/visit.ics?language=${language}`}
            download="visit.ics"
          >
            {t('done.calendar')}
          </a>
        )}
        <Button
          className="min-h-12"
          onClick={() => {
            dispatch(choices.actions.forgot());
            booking.reset();
            reset();
            void navigate('/', { replace: true });
          }}
        >
          {t('done.another')}
        </Button>
      </div>
      {!visit.waiting && <p className="mt-4">{t('done.next')}</p>}
    </Step>
  );
}

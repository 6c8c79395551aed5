import { scopeOf } from '@zaguan/contracts';
import type { PatientRecord } from '@zaguan/contracts/patients';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { apiError } from '../../../shared/api/contractApi.ts';
import { ArchMark } from '../../../shared/arch/ArchMark.tsx';
import { archFor } from '../../../shared/arch/archFor.ts';
import { dateAt, shortDate, timeOf } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { Page } from '../../shell/Page.tsx';
import { useAddress } from '../../shell/useAddress.ts';
import { accountsApi } from '../accounts/index.ts';
import { AskRequest } from '../booking/index.ts';
import { InvitePanel, PatientInvitations, useMayInvite } from '../invitations/index.ts';
import { History } from './History.tsx';
import { OpenWithReason } from './OpenWithReason.tsx';
import { OwnFields } from './OwnFields.tsx';
import { Conditions } from './parts/Conditions.tsx';
import { Address, Home, Needs, Notes } from './parts/Details.tsx';
import { HouseholdPart } from './parts/HouseholdPart.tsx';
import { Identity } from './parts/Identity.tsx';
import { Reach } from './parts/Reach.tsx';
import { Restriction, Status } from './parts/Standing.tsx';
import { WhoMayAct } from './WhoMayAct.tsx';
import { patientsApi } from './patients.api.ts';

/** Everything about one patient, newest first, with who saw and changed what. */
export function PatientPage() {
  const { t } = useTranslation();
  const { id = '' } = useParams();
  const query = patientsApi.useRecordQuery({ id }, { refetchOnMountOrArgChange: true });
  const record = query.currentData?.record;
  const isRefused = apiError(query.error)?.tag === 'NotAllowed' && !record;
  const { asked, set } = useAddress();
  const mayInvite = useMayInvite();
  return (
    <div className="flex min-h-0 min-w-0 flex-1">
      <Page
        title={record?.name ?? t(isRefused ? 'patient.restricted' : 'loading')}
        tabTitle={record?.recordNumber ?? t(isRefused ? 'patient.restricted' : 'loading')}
        whenRefused={<OpenWithReason key={id} id={id} />}
        note={record && <Heading record={record} />}
        query={query}
        explain={({ tag }) => (tag === 'NotAllowed' ? t('patient.notAllowed') : null)}
      >
        {({ record: shown }) => (
          <div className="grid grid-cols-[340px_1fr] gap-8 max-lg:grid-cols-1">
            <div className="flex flex-col gap-4" key={shown.id}>
              <Identity record={shown} />
              <Reach record={shown} />
              <Needs record={shown} />
              <Notes record={shown} />
              <Address record={shown} />
              <Home record={shown} />
              <Conditions record={shown} />
              <OwnFields key={shown.version} record={shown} />
              <Status record={shown} />
              <Restriction record={shown} />
            </div>
            <div className="flex flex-col gap-6">
              <div className="flex flex-wrap gap-2">
                <FindTime record={shown} />
                {mayInvite && shown.status !== 'deceased' && (
                  <Button className="self-start" onClick={() => set({ invite: 'yes' }, true)}>
                    {t('invite.open')}
                  </Button>
                )}
              </div>
              {shown.status !== 'deceased' && <AskRequest patientId={shown.id} />}
              <PatientInvitations patientId={shown.id} />
              <Visits title={t('patient.upcoming')} visits={shown.visits.filter((visit) => visit.upcoming).reverse()} />
              <HouseholdPart record={shown} />
              <WhoMayAct record={shown} />
              <History record={shown} />
            </div>
          </div>
        )}
      </Page>
      {record && mayInvite && asked.get('invite') !== null && (
        <InvitePanel
          about={{
            ...{ planId: asked.get('plan'), requestId: asked.get('request') },
            ...{ moveId: asked.get('move'), typeId: asked.get('type') },
          }}
          patientIds={[record.id]}
          onClose={() => set({ invite: null, plan: null, request: null, move: null, type: null }, true)}
        />
      )}
    </div>
  );
}

function Heading({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  return (
    <>
      <span className="text-muted">
        {t('patient.record')} {record.recordNumber} · {t(`patient.status.${record.status}`)}
        {record.preferredName && ` · “${record.preferredName}”`}
      </span>
      {record.alert && (
        <b className="rounded-sm bg-warning-subtle px-1.5 text-warning">
          {t('visit.alert')} {record.alert}
        </b>
      )}
      {record.restricted && <span className="font-bold text-danger">{t('patient.restricted')}</span>}
    </>
  );
}

/** The ways to a visit for this patient: book it beside the Daybook, or look for a time with more wishes. */
function FindTime({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  const { data } = accountsApi.useWhoAmIQuery({});
  if (record.status === 'deceased' || !data?.me || scopeOf(data.me.role, 'openings.search') === 'no') return null;
  const kind = record.status === 'new' ? 'new' : 'established';
  return (
    <span className="flex gap-2 self-start">
      {scopeOf(data.me.role, 'appointment.book') !== 'no' && (
        <Link
          className="rounded-md border border-primary bg-primary px-3 py-1.5 font-semibold text-on-fill hover:bg-primary-strong"
          to={`/daybook?book=new&for=${record.id}`}
        >
          {t('book.open')}
        </Link>
      )}
      <Link
        className="rounded-md border border-line-strong bg-panel px-3 py-1.5 font-semibold hover:bg-surface-deep"
        to={`/find?who=${kind}::${record.id}`}
      >
        {t('finder.act.findTime')}
      </Link>
    </span>
  );
}

function Visits({ title, visits }: { title: string; visits: PatientRecord['visits'] }) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  return (
    <section aria-label={title}>
      <h2 className="mb-1 font-bold">{title}</h2>
      {visits.length === 0 && <p className="text-muted">{t('patient.noVisits')}</p>}
      <ul className="flex flex-col">
        {visits.map((visit) => (
          <li key={visit.id} className="flex items-center gap-2 border-b border-line py-1">
            <ArchMark
              shape={archFor({
                status: visit.status,
                confirmed: false,
                identity: 'sure',
                kind: 'visit',
                approval: 'not-needed',
              })}
              label=""
              size={17}
            />
            <Link className="w-52 underline" to={`/daybook/${visit.date}?visit=${visit.id}`}>
              {shortDate(visit.date, 'en', clinic && dateAt(clinic.now, visit.timeZone))},{' '}
              {timeOf(visit.start, visit.timeZone)}
            </Link>
            <span className="w-28">{t(`visit.status.${visit.status}`)}</span>
            <span className="flex-1">
              {visit.visitType}, {visit.siteName}
              {visit.provider && `, ${visit.provider}`}
              {visit.reason && ` · “${visit.reason}”`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

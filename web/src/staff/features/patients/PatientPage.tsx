import type { PatientRecord } from '@zaguan/contracts/patients';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { ArchMark } from '../../../shared/arch/ArchMark.tsx';
import { archFor } from '../../../shared/arch/archFor.ts';
import { formatBirthDate, dateAt, formatPhone, shortDate, timeOf } from '../../../shared/time/format.ts';
import { Page } from '../../shell/Page.tsx';
import { accountsApi } from '../accounts/index.ts';
import { OwnFields } from './OwnFields.tsx';
import { Forms, Sent } from './RecordParts.tsx';
import { Trail } from './Trail.tsx';
import { WhoMayAct } from './WhoMayAct.tsx';
import { patientsApi } from './patients.api.ts';

/** Everything about one patient, newest first, with who saw and changed what. */
export function PatientPage() {
  const { t } = useTranslation();
  const { id = '' } = useParams();
  const query = patientsApi.useRecordQuery({ id }, { refetchOnMountOrArgChange: true });
  const record = query.currentData?.record;
  return (
    <Page
      title={record?.name ?? t('loading')}
      tabTitle={record?.recordNumber ?? t('loading')}
      note={record && <Heading record={record} />}
      query={query}
      explain={({ tag }) => (tag === 'NotAllowed' ? t('patient.notAllowed') : null)}
    >
      {({ record: shown }) => (
        <div className="grid grid-cols-[300px_1fr] gap-8 max-lg:grid-cols-1">
          <div>
            <Details record={shown} />
            <OwnFields key={shown.version} record={shown} />
          </div>
          <div className="flex flex-col gap-6">
            <Visits title={t('patient.upcoming')} visits={shown.visits.filter((visit) => visit.upcoming).reverse()} />
            <Visits title={t('patient.past')} visits={shown.visits.filter((visit) => !visit.upcoming)} />
            <WhoMayAct record={shown} />
            <Forms record={shown} />
            <Sent record={shown} />
            <Trail record={shown} />
          </div>
        </div>
      )}
    </Page>
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
      {record.restricted && <span className="font-bold text-danger">{t('patient.restricted')}</span>}
    </>
  );
}

function Details({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  return (
    <dl className="grid grid-cols-[auto_1fr] content-start gap-x-3 gap-y-1">
      <dt className="text-muted">{t('patient.born')}</dt>
      <dd>{formatBirthDate(record.birthDate)}</dd>
      <dt className="text-muted">{t('patient.language')}</dt>
      <dd>{t(`patient.${record.language}`)}</dd>
      <dt className="text-muted">{t('patient.reach')}</dt>
      <dd>
        {record.contacts.length === 0 && t('patient.noReach')}
        {record.contacts.map((contact) => (
          <p key={contact.value}>
            {formatPhone(contact.value)}
            {contact.optedOut && <span className="block font-semibold text-warning">{t('patient.optedOut')}</span>}
          </p>
        ))}
      </dd>
    </dl>
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

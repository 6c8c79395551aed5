import type { LikePatient } from '@zaguan/contracts/patients';
import { MATCH_FIELDS } from '@zaguan/core/matching';
import { fullName } from '@zaguan/core/patients';
import { isDate } from '@zaguan/core/time';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { formatBirthDate, formatPhone } from '../../../../shared/time/format.ts';
import { useDebounced } from '../../../../shared/time/useDebounced.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { useValue } from '../../../forms/index.ts';
import { MATCH_WORDS } from '../../../words.patients.en.ts';
import { patientsApi } from '../patients.api.ts';
import type { TypedPerson } from './typedPerson.ts';

const AFTER_MS = 250;

/** Beside the form: records that may be one of the people, before anything is saved. */
export function LikePatients() {
  const { t } = useTranslation();
  const people = useValue<readonly TypedPerson[]>('people');
  return (
    <aside
      aria-label={t('register.like')}
      className="sticky top-0 flex flex-col gap-3 max-lg:static max-lg:order-first"
    >
      <h2 className="font-bold">{t('register.like')}</h2>
      {people.map((person, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: people of the form are known by their place
        <LikeOne key={at} person={person} number={people.length > 1 ? at + 1 : null} />
      ))}
    </aside>
  );
}

function LikeOne({ person, number }: { person: TypedPerson; number: number | null }) {
  const { t } = useTranslation();
  const shared = useValue<string>('contact');
  const typed = JSON.stringify({
    givenName: person.givenName.trim(),
    familyName: person.familyName.trim(),
    birthDate: isDate(person.birthDate) ? person.birthDate : null,
    contact: person.contact || shared,
  });
  const asked = JSON.parse(useDebounced(typed, AFTER_MS)) as {
    givenName: string;
    familyName: string;
    birthDate: string | null;
    contact: string;
  };
  const known = [asked.givenName || asked.familyName, asked.birthDate, asked.contact].filter(Boolean).length;
  const skip = known < 2 && !(asked.givenName && asked.familyName);
  const { currentData, isFetching } = patientsApi.useLikeQuery(asked, { skip });
  const name = fullName(person.givenName, person.familyName);
  return (
    <section className="flex flex-col gap-2" aria-busy={isFetching} data-like={number ?? 1}>
      {number && <h3 className="font-semibold">{name || t('register.person', { number })}</h3>}
      <p role="status" className="text-muted empty:hidden">
        {skip ? t('register.likeWaiting') : currentData?.patients.length === 0 ? t('register.likeNone') : ''}
      </p>
      {!skip && currentData?.patients.map((patient, i) => <Like key={patient.patientId ?? i} patient={patient} />)}
    </section>
  );
}

const TONE: Record<LikePatient['verdict'], string> = {
  likely: 'border-danger bg-danger-subtle',
  relative: 'border-warning bg-warning-subtle',
  possible: 'border-line-strong bg-panel',
};

/** A record that is alike: what agrees, what differs, and the two ways on. */
function Like({ patient }: { patient: LikePatient }) {
  const { t } = useTranslation();
  const { setValue } = useFormContext();
  const notThese = useValue<readonly string[]>('notThese');
  const { patientId } = patient;
  const isAnother = patientId !== null && notThese.includes(patientId);
  return (
    <div
      data-verdict={patient.verdict}
      className={`rounded-md border p-3 ${TONE[isAnother ? 'possible' : patient.verdict]}`}
    >
      <p className="font-semibold">{isAnother ? t('register.isAnother') : t(`register.${patient.verdict}`)}</p>
      <p>
        <b>{patient.name}</b>
        {patient.recordNumber && <span className="text-muted"> · {patient.recordNumber}</span>}
        {patient.birthDate && ` · ${formatBirthDate(patient.birthDate)}`}
        {patient.contact && ` · ${formatPhone(patient.contact)}`}
        {patient.status !== 'active' && ` · ${t(`patient.status.${patient.status}`)}`}
      </p>
      <ul className="my-1 flex flex-wrap gap-x-4 empty:hidden">
        {(patientId === null ? [] : MATCH_FIELDS).map((field) => (
          <li key={field} className={patient.fields[field] === 'differs' ? 'font-semibold text-danger' : ''}>
            {t(MATCH_WORDS[field])} {t(`identityReview.likeness.${patient.fields[field]}`)}
          </li>
        ))}
      </ul>
      {patientId === null ? (
        <p className="font-semibold">{t('register.restrictedLike')}</p>
      ) : (
        <div className="flex flex-wrap items-center gap-3">
          <Link className="font-semibold underline" to={`/patients/${patientId}`}>
            {t('register.open')}
          </Link>
          {patient.verdict === 'likely' && !isAnother && (
            <Button onClick={() => setValue('notThese', [...notThese, patientId])}>{t('register.another')}</Button>
          )}
        </div>
      )}
    </div>
  );
}

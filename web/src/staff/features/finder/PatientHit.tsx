import type { FoundPatient } from '@zaguan/contracts/patients';
import { useTranslation } from 'react-i18next';
import { formatBirthDate, shortDate } from '../../../shared/time/format.ts';

/** A patient who was found, with what tells two of one name apart. */
export function PatientHit({ patient }: { patient: FoundPatient }) {
  const { t } = useTranslation();
  const also = [
    patient.preferredName && `“${patient.preferredName}”`,
    ...patient.formerNames.map((name) => t('finder.former', { name })),
  ];
  const visits = [
    patient.lastVisit && t('finder.last', { date: shortDate(patient.lastVisit) }),
    patient.nextVisit && t('finder.next', { date: shortDate(patient.nextVisit.date) }),
    patient.siteName,
  ].filter(Boolean);
  const marks = [
    patient.status !== 'active' && patient.status !== 'new' && t(`patient.status.${patient.status}`),
    patient.restricted && t('patient.restricted'),
  ].filter(Boolean);
  return (
    <span className="flex min-w-0 flex-1 flex-col">
      <span className="flex flex-wrap items-baseline gap-x-2">
        <span className="font-bold">{patient.name}</span>
        {also.filter(Boolean).map((name) => (
          <span key={name} className="text-muted">
            {name}
          </span>
        ))}
        {marks.map((mark) => (
          <span key={String(mark)} className="rounded-sm bg-warning-subtle px-1 text-sm font-bold text-warning">
            {mark}
          </span>
        ))}
      </span>
      <span className="text-sm text-muted">
        {[
          t('finder.born', { date: formatBirthDate(patient.birthDate), count: patient.age }),
          patient.phoneEnd && t('finder.phone', { digits: patient.phoneEnd }),
          patient.recordNumber,
          ...visits,
        ]
          .filter(Boolean)
          .join(' · ')}
      </span>
    </span>
  );
}

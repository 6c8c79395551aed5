import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { Button } from '../../../../shared/ui/Button.tsx';
import { PatientPicker } from '../../finder/index.ts';
import { languageName, patientsApi } from '../../patients/index.ts';

interface Props {
  readonly patientId: string | null;
  readonly onChange: (patientId: string | null) => void;
}

/** For whom on record the time is, if for somebody: what they need with every visit is honored, and said. */
export function MemberPatient({ patientId, onChange }: Props) {
  const { t } = useTranslation();
  if (patientId) return <Chosen patientId={patientId} onDrop={() => onChange(null)} />;
  return (
    <details>
      <summary className="cursor-pointer text-muted">{t('find.forPatient')}</summary>
      <PatientPicker label={t('find.whichPatient')} onPick={(patient) => onChange(patient?.id ?? null)} />
    </details>
  );
}

function Chosen({ patientId, onDrop }: { patientId: string; onDrop: () => void }) {
  const { t } = useTranslation();
  const { currentData } = patientsApi.useRecordQuery({ id: patientId });
  const record = currentData?.record;
  const needs = record
    ? [
        ...record.access.map((need) => t(`access.of.${need}`)),
        ...(record.extraMin ? [t('edit.extra', { count: record.extraMin })] : []),
      ]
    : [];
  return (
    <div data-for={patientId} className="flex flex-wrap items-baseline gap-x-2 rounded-md bg-accent-subtle px-2 py-1">
      <Link className="font-semibold underline" to={`/patients/${patientId}`}>
        {record?.name ?? t('find.onRecord')}
      </Link>
      {needs.length > 0 && <span>{t('find.needs', { needs: needs.join(', ') })}</span>}
      {record?.interpreter && <span>{t('find.interpreter', { language: languageName(record.interpreter) })}</span>}
      <Button look="plain" className="px-1 py-0 underline" onClick={onDrop}>
        {t('find.withoutPatient')}
      </Button>
    </div>
  );
}

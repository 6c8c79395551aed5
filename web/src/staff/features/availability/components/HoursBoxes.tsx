import type { OutputOf } from '@zaguan/contracts';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { useTranslation } from 'react-i18next';
import { TickField } from '../../../../shared/ui/inputs.tsx';

/** Any visit type, or only some. */
export function TypeBoxes({
  clinic,
  chosen,
  fault,
  onChange,
}: {
  clinic: OutputOf<typeof staffClinic>;
  chosen: string[] | null;
  fault?: string;
  onChange: (ids: string[] | null) => void;
}) {
  const { t } = useTranslation();
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="sr-only">{t('hours.someTypes')}</legend>
      <TickField type="radio" checked={chosen === null} onChange={() => onChange(null)}>
        {t('hours.anyType')}
      </TickField>
      <TickField type="radio" checked={chosen !== null} onChange={() => onChange([])}>
        {t('hours.someTypes')}
      </TickField>
      {chosen !== null &&
        clinic.visitTypes.map((type) => (
          <TickField
            key={type.id}
            className="pl-6"
            checked={chosen.includes(type.id)}
            onChange={(event) =>
              onChange(event.target.checked ? [...chosen, type.id] : chosen.filter((id) => id !== type.id))
            }
          >
            {type.name}
          </TickField>
        ))}
      {fault && (
        <p role="alert" className="font-semibold text-danger">
          {fault}
        </p>
      )}
    </fieldset>
  );
}

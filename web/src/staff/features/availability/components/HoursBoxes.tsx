import type { OutputOf } from '@zaguan/contracts';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { useTranslation } from 'react-i18next';
import { weekdayNames } from '../../../../shared/time/format.ts';

/** Days of the week as seven boxes. */
export function DayBoxes({
  chosen,
  fault,
  onChange,
}: {
  chosen: number[];
  fault?: string;
  onChange: (days: number[]) => void;
}) {
  const { t } = useTranslation();
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">{t('hours.days')}</legend>
      <div className="flex gap-1">
        {weekdayNames('en', 'short').map((name, i) => (
          <label
            key={name}
            className={`flex-1 cursor-pointer rounded-md border px-1 py-1.5 text-center text-[0.85rem] has-focus-visible:outline-3 has-focus-visible:outline-door ${chosen.includes(i + 1) ? 'border-door bg-door font-bold text-on-fill' : 'border-line-strong bg-panel'}`}
          >
            <input
              type="checkbox"
              className="sr-only"
              name={`weekday-${i + 1}`}
              checked={chosen.includes(i + 1)}
              onChange={(event) =>
                onChange(event.target.checked ? [...chosen, i + 1] : chosen.filter((day) => day !== i + 1))
              }
            />
            {name}
          </label>
        ))}
      </div>
      {fault && (
        <p role="alert" className="mt-1 font-semibold text-brick">
          {fault}
        </p>
      )}
    </fieldset>
  );
}

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
      <label className="flex items-center gap-2">
        <input type="radio" className="size-4 accent-door" checked={chosen === null} onChange={() => onChange(null)} />
        {t('hours.anyType')}
      </label>
      <label className="flex items-center gap-2">
        <input type="radio" className="size-4 accent-door" checked={chosen !== null} onChange={() => onChange([])} />
        {t('hours.someTypes')}
      </label>
      {chosen !== null &&
        clinic.visitTypes.map((type) => (
          <label key={type.id} className="flex items-center gap-2 pl-6">
            <input
              type="checkbox"
              className="size-4 accent-door"
              checked={chosen.includes(type.id)}
              onChange={(event) =>
                onChange(event.target.checked ? [...chosen, type.id] : chosen.filter((id) => id !== type.id))
              }
            />
            {type.name}
          </label>
        ))}
      {fault && (
        <p role="alert" className="font-semibold text-brick">
          {fault}
        </p>
      )}
    </fieldset>
  );
}

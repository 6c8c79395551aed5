import { INTERVAL_UNITS } from '@zaguan/core/recalls';
import { useTranslation } from 'react-i18next';
import { NumberField, SelectField } from '../../../forms/index.ts';

/** A number and its unit: "6 months". */
export function IntervalField({ name, label }: { name: string; label: string }) {
  const { t } = useTranslation();
  return (
    <div className="grid grid-cols-[7rem_10rem] items-end gap-2">
      <NumberField name={`${name}.n`} label={label} step={1} />
      <SelectField
        name={`${name}.unit`}
        label={t('recalls.editor.every')}
        options={INTERVAL_UNITS.map((value) => ({ value, label: t(`recalls.unitName.${value}`) }))}
      />
    </div>
  );
}

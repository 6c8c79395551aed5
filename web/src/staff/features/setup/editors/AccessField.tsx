import { ACCESS } from '@zaguan/core/availability';
import { useTranslation } from 'react-i18next';
import { ManyField } from '../../../forms/index.ts';

/** What a site or a room has for people who could not come otherwise. */
export function AccessField({ hint }: { hint: string }) {
  const { t } = useTranslation();
  return (
    <ManyField
      name="access"
      label={t('access.label')}
      hint={hint}
      options={ACCESS.map((value) => ({ value, label: t(`access.of.${value}`) }))}
    />
  );
}

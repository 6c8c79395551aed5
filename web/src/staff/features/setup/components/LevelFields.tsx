import { useTranslation } from 'react-i18next';
import type { Refs } from '../hooks/useRefs.ts';
import { SelectField } from '../../../forms/index.ts';

/** At which level a line counts: a site, a provider, both or – nothing chosen – everywhere. */
export function LevelFields({ at, refs, withType }: { at: string; refs: Refs; withType?: boolean }) {
  const { t } = useTranslation();
  return (
    <>
      <SelectField
        name={`${at}.siteId`}
        label={t('setup.level.site')}
        options={refs.sites}
        none={t('setup.allSites')}
      />
      <SelectField
        name={`${at}.providerId`}
        label={t('setup.level.provider')}
        options={refs.providers}
        none={t('setup.everybody')}
      />
      {withType && (
        <SelectField
          name={`${at}.visitTypeId`}
          label={t('setup.level.type')}
          options={refs.types}
          none={t('setup.everyType')}
        />
      )}
    </>
  );
}

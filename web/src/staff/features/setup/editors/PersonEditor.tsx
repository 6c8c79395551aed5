import { COLORS, type PersonDoc, SPOKEN } from '@zaguan/contracts/setup';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { CheckField, ManyField, PairField, Section, SelectField, TextField, useValue } from '../../../forms/index.ts';
import type { FieldOf } from '../fieldWords.ts';
import { useRefs } from '../hooks/useRefs.ts';
import { ListRows } from './ListRows.tsx';

/** What the presence rules may ask for beside what people already have. */
const DEFAULT_CAPABILITIES = ['treats-anaphylaxis'];

export function PersonEditor({ id }: { id: string | null }) {
  const { t } = useTranslation();
  const refs = useRefs();
  const form = useFormContext<PersonDoc>();
  const kind = useValue<PersonDoc['kind']>('kind');
  const w = (field: FieldOf<'person'>) => t(`setup.person.${field}`);
  const capabilities = [...new Set([...DEFAULT_CAPABILITIES, ...refs.capabilities])].map((value) => ({
    value,
    label: t(`setup.capability.${value}`, { defaultValue: value.replaceAll('-', ' ') }),
  }));
  return (
    <>
      {id === null && (
        <SelectField
          name="kind"
          label={w('kind')}
          options={(['provider', 'staff'] as const).map((value) => ({ value, label: t(`setup.personKind.${value}`) }))}
        />
      )}
      <div className="grid grid-cols-2 gap-3">
        <TextField
          name="name"
          label={w('name')}
          required
          onLeave={(name) => {
            if (!form.getValues('shortName')) form.setValue('shortName', name.slice(0, 40), { shouldDirty: true });
          }}
        />
        <TextField name="shortName" label={w('shortName')} required />
        {kind === 'provider' && (
          <TextField name="publicNameEs" label={w('publicNameEs')} hint={t('setup.hint.publicNameEs')} />
        )}
        <TextField name="credentials" label={w('credentials')} />
        <TextField name="specialty" label={w('specialty')} />
      </div>
      <ManyField name="siteIds" label={w('siteIds')} options={refs.sites} />
      <div className="grid grid-cols-2 gap-3">
        <SelectField
          name="color"
          label={w('color')}
          none={t('setup.noColor')}
          options={COLORS.map((value) => ({ value, label: t(`setup.color.${value}`) }))}
        />
      </div>
      <ManyField
        name="capabilities"
        label={w('capabilities')}
        options={capabilities}
        hint={t('setup.hint.capabilities')}
      />
      <CheckField name="bookableOnline" label={w('bookableOnline')} hint={t('setup.hint.personOnline')} />
      <CheckField name="acceptsNew" label={w('acceptsNew')} />
      <CheckField name="mayEditOwnHours" label={w('mayEditOwnHours')} hint={t('setup.hint.ownHours')} />
      <CheckField name="shownInDaybook" label={w('shownInDaybook')} />
      {kind === 'provider' && (
        <Section title={t('setup.section.identifiers')}>
          <TextField name="npi" label={w('npi')} hint={t('setup.hint.npi')} orNull />
          <ListRows name="licenses" add={t('setup.add.license')} blank={() => ({ region: '', number: '' })}>
            {(at) => (
              <div className="grid grid-cols-[90px_1fr] gap-3">
                <TextField name={`${at}.region`} label={t('setup.state')} />
                <TextField name={`${at}.number`} label={t('setup.licenseNumber')} />
              </div>
            )}
          </ListRows>
        </Section>
      )}
      <Section title={t('setup.section.profile')} note={t('setup.hint.profile')}>
        <ManyField
          name="languages"
          label={w('languages')}
          options={SPOKEN.map((value) => ({
            value,
            label: new Intl.DisplayNames('en', { type: 'language' }).of(value) ?? value,
          }))}
        />
        <PairField name="bio" label={t('setup.person.bio')} rows={2} />
      </Section>
    </>
  );
}

import { type AccountDoc, FIELD_KINDS, type FieldDoc, TEXT_COUNTRIES } from '@zaguan/contracts/setup';
import { ROLES } from '@zaguan/contracts';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { LevelFields } from '../components/LevelFields.tsx';
import {
  CheckField,
  ManyField,
  NumberField,
  PairField,
  Section,
  SelectField,
  TextField,
  useValue,
} from '../../../forms/index.ts';
import { NameInTextsField } from '../components/NameInTextsField.tsx';
import type { FieldOf } from '../fieldWords.ts';
import { useRefs } from '../hooks/useRefs.ts';
import { ListRows } from './ListRows.tsx';

/** Yes, no, or what a wider level says; kept as `true`, `false`, `null`. */
export function YesNoField({ name, label }: { name: string; label: string }) {
  const { t } = useTranslation();
  const form = useFormContext();
  const value = useValue<boolean | null>(name);
  return (
    <label className="flex flex-col gap-1">
      <span className="font-semibold">{label}</span>
      <select
        name={name}
        className="w-full rounded-md border border-line-strong bg-panel px-2 py-2"
        value={value === null ? '' : value ? 'yes' : 'no'}
        onChange={(event) =>
          form.setValue(name, event.target.value === '' ? null : event.target.value === 'yes', { shouldDirty: true })
        }
      >
        <option value="">{t('setup.asWider')}</option>
        <option value="yes">{t('setup.yes')}</option>
        <option value="no">{t('setup.no')}</option>
      </select>
    </label>
  );
}

export function PayerEditor(_props: { id: string | null }) {
  const { t } = useTranslation();
  const refs = useRefs();
  return (
    <>
      <TextField name="name" label={t('setup.payer.name')} required />
      <Section title={t('setup.payer.rules')} note={t('setup.hint.payerRules')}>
        <ListRows
          name="rules"
          add={t('setup.add.rule')}
          empty={t('setup.noPayerRules')}
          blank={() => ({
            visitTypeId: null,
            siteId: null,
            providerId: null,
            accepted: null,
            referral: null,
            authorization: null,
          })}
        >
          {(at) => (
            <div className="grid grid-cols-3 gap-2 rounded-md border border-line bg-panel p-2">
              <LevelFields at={at} refs={refs} withType />
              <YesNoField name={`${at}.accepted`} label={t('setup.payer.accepted')} />
              <YesNoField name={`${at}.referral`} label={t('setup.payer.referral')} />
              <YesNoField name={`${at}.authorization`} label={t('setup.payer.authorization')} />
            </div>
          )}
        </ListRows>
      </Section>
      <NumberField name="sortOrder" label={t('setup.sortOrder')} />
    </>
  );
}

export function FieldEditor(_props: { id: string | null }) {
  const { t } = useTranslation();
  const refs = useRefs();
  const form = useFormContext<FieldDoc>();
  const of = useValue<FieldDoc['of']>('of');
  const kind = useValue<FieldDoc['kind']>('kind');
  const w = (field: FieldOf<'field'>) => t(`setup.field.${field}`);
  return (
    <>
      <SelectField
        name="of"
        label={w('of')}
        options={(['patient', 'booking'] as const).map((value) => ({ value, label: t(`setup.fieldOf.${value}`) }))}
      />
      <PairField name="label" label={t('setup.field.label')} required />
      <SelectField
        name="kind"
        label={w('kind')}
        options={FIELD_KINDS.map((value) => ({ value, label: t(`setup.fieldKind.${value}`) }))}
        onChosen={(chosen) => {
          if (chosen !== 'choice') form.setValue('choices', [], { shouldDirty: true });
        }}
      />
      {kind === 'choice' && (
        <ListRows name="choices" add={t('setup.add.choice')} blank={() => ({ en: '', es: '' })}>
          {(at) => (
            <div className="grid grid-cols-2 gap-3">
              <TextField name={`${at}.en`} label={t('setup.english')} />
              <TextField name={`${at}.es`} label={t('setup.spanish')} />
            </div>
          )}
        </ListRows>
      )}
      <CheckField name="required" label={w('required')} />
      {of === 'booking' && (
        <ManyField name="visitTypeIds" label={w('visitTypeIds')} options={refs.types} all={t('setup.everyType')} />
      )}
      <NumberField name="sortOrder" label={t('setup.sortOrder')} />
    </>
  );
}

export function AccountEditor({ id }: { id: string | null }) {
  const { t } = useTranslation();
  const refs = useRefs();
  const role = useValue<AccountDoc['role']>('role');
  const w = (field: FieldOf<'account'>) => t(`setup.account.${field}`);
  return (
    <>
      <TextField name="name" label={w('name')} required />
      <TextField name="email" label={w('email')} hint={id === null ? t('setup.hint.email') : undefined} required />
      <SelectField
        name="role"
        label={w('role')}
        hint={t(`setup.roleNote.${role}`)}
        options={ROLES.map((value) => ({ value, label: t(`role.${value}`) }))}
      />
      {role === 'provider' && (
        <SelectField
          name="resourceId"
          label={w('resourceId')}
          options={refs.people}
          none={t('setup.nobody')}
          required
        />
      )}
      <ManyField name="siteIds" label={w('siteIds')} options={refs.sites} all={t('setup.allSites')} />
    </>
  );
}

export function ClinicEditor() {
  const { t } = useTranslation();
  const w = (field: FieldOf<'clinic'>) => t(`setup.clinic.${field}`);
  return (
    <>
      <NameInTextsField name="name" label={w('name')} />
      <TextField name="phone" label={w('phone')} hint={t('setup.hint.clinicPhone')} required />
      <SelectField
        name="baseUnitMin"
        label={w('baseUnitMin')}
        hint={t('setup.hint.baseUnit')}
        options={[5, 10, 15].map((n) => ({ value: String(n), label: t('setup.nMinutes', { count: n }) }))}
      />
      <SelectField
        name="density"
        label={w('density')}
        options={(['roomy', 'dense'] as const).map((value) => ({ value, label: t(`setup.density.${value}`) }))}
      />
      <CheckField name="asksPayerOnline" label={w('asksPayerOnline')} hint={t('setup.hint.asksPayer')} />
      <SelectField
        name="urgentAtNight"
        label={w('urgentAtNight')}
        hint={t('setup.hint.urgentAtNight')}
        options={(['send', 'call'] as const).map((value) => ({ value, label: t(`setup.urgentAtNight.${value}`) }))}
      />
      <ManyField
        name="textCountries"
        label={w('textCountries')}
        options={TEXT_COUNTRIES.map((value) => ({ value, label: t(`setup.country.${value}`) }))}
      />
      <NumberField name="codesPerDay" label={w('codesPerDay')} hint={t('setup.hint.codesPerDay')} required />
      <NumberField name="lateAfterMin" label={w('lateAfterMin')} hint={t('setup.hint.lateAfterMin')} orNull />
      <TextField name="lateRule" label={w('lateRule')} hint={t('setup.hint.lateRule')} rows={2} maxLength={300} />
    </>
  );
}

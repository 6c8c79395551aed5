import { type PatientRecord, saveIdentity, SEXES } from '@zaguan/contracts/patients';
import { judgeIdentityChange } from '@zaguan/core/patients';
import { useController } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { formatBirthDate, shortDate } from '../../../../shared/time/format.ts';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { ContractForm, FormActions, SelectField, TextField, useFault, useValue } from '../../../forms/index.ts';
import { useClinicTime } from '../../accounts/index.ts';
import { BirthDateField } from '../BirthDateField.tsx';
import { patientsApi } from '../patients.api.ts';
import { Facts, Part } from './Part.tsx';
import { usePartForm } from './usePartForm.tsx';

/** Who somebody is: names, date of birth, sex. */
export function Identity({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  const rows = [
    [t('patient.born'), `${formatBirthDate(record.birthDate)}, ${t('household.age', { count: record.age })}`],
    [t('edit.preferred'), record.preferredName],
    [t('edit.sex'), record.sex && t(`edit.sexes.${record.sex}`)],
  ] as const;
  return (
    <Part name="identity" record={record} form={(close) => <IdentityForm record={record} close={close} />}>
      <Facts rows={rows} />
      {record.formerNames.map(({ name, until }) => (
        <p key={until} className="text-muted">
          {t('edit.formerly', { name, date: shortDate(until.slice(0, 10)) })}
        </p>
      ))}
    </Part>
  );
}

function IdentityForm({ record, close }: { record: PatientRecord; close: () => void }) {
  const { t } = useTranslation();
  const { today } = useClinicTime();
  const [save] = patientsApi.useSaveIdentityMutation();
  const { givenName, familyName, preferredName, birthDate, sex } = record;
  const { form, notice } = usePartForm(saveIdentity, {
    record,
    name: 'identity',
    values: { givenName, familyName, preferredName: preferredName ?? '', birthDate, sex, reason: null },
    send: save,
    close,
  });
  return (
    <ContractForm
      of={form}
      label={t('edit.part.identity')}
      className="flex flex-col gap-3"
      actions={<FormActions of={form} send={t('edit.save')} leave={t('setup.giveUp')} onLeave={close} forgets />}
    >
      {notice}
      <TextField name="givenName" label={t('register.given')} autoComplete="off" />
      <TextField name="familyName" label={t('register.family')} autoComplete="off" />
      <TextField name="preferredName" label={t('edit.preferred')} autoComplete="off" required={false} />
      <BirthDateField name="birthDate" label={t('register.birthDate')} today={today} />
      <SelectField
        name="sex"
        label={t('edit.sex')}
        none={t('edit.notSaid')}
        required={false}
        options={SEXES.map((value) => ({ value, label: t(`edit.sexes.${value}`) }))}
      />
      <Why record={record} />
    </ContractForm>
  );
}

/** A changed name or birth date asks why; that it is somebody else leads to a record of their own. */
function Why({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  const { field } = useController({ name: 'reason' });
  const fault = useFault('reason');
  const [givenName, familyName, birthDate] = [
    useValue<string>('givenName').trim(),
    useValue<string>('familyName').trim(),
    useValue<string>('birthDate'),
  ];
  const verdict = judgeIdentityChange(record, { givenName, familyName, birthDate });
  if (verdict === 'none') return null;
  const reasons = [
    { value: 'mistake', label: t('edit.mistake'), hint: null },
    { value: 'new-name', label: t('edit.newName'), hint: t('edit.newNameHint') },
  ];
  return (
    <fieldset className="flex flex-col gap-1.5 rounded-md border border-warning bg-warning-subtle p-3">
      <legend className="sr-only">{t('edit.whyChanged')}</legend>
      <p className="font-bold" aria-hidden="true">
        {t('edit.whyChanged')}
      </p>
      {verdict === 'ask' &&
        reasons.map(({ value, label, hint }, i) => (
          <label key={value} className="flex items-start gap-2">
            <input
              type="radio"
              name="reason"
              ref={i === 0 ? field.ref : undefined}
              value={value}
              checked={field.value === value}
              onChange={() => field.onChange(value)}
              className="mt-0.5 size-4 accent-accent"
            />
            <span>
              {label}
              {hint && <span className="block text-muted">{hint}</span>}
            </span>
          </label>
        ))}
      <p>
        <Link className="font-semibold underline" to="/patients/new">
          {t('edit.someoneElse')}
        </Link>
        <span className="block text-muted">{t('edit.someoneElseHint')}</span>
      </p>
      {verdict === 'someone-else' && (
        <Notice tone="danger" live="polite">
          {t('error.SomeoneElse')}
        </Notice>
      )}
      {fault && (
        <p role="alert" className="font-semibold text-danger">
          {fault}
        </p>
      )}
    </fieldset>
  );
}

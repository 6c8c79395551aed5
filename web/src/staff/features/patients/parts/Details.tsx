import { type PatientRecord, saveDetails } from '@zaguan/contracts/patients';
import { ACCESS } from '@zaguan/core/availability';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { ContractForm, FormActions, ManyField, NumberField, SelectField, TextField } from '../../../forms/index.ts';
import { accountsApi } from '../../accounts/index.ts';
import { patientsApi } from '../patients.api.ts';
import { Facts, Part, type PartName } from './Part.tsx';
import { usePartForm } from './usePartForm.tsx';

type Details = Pick<
  PatientRecord,
  | ('street' | 'city' | 'region' | 'postalCode')
  | ('language' | 'interpreter' | 'access' | 'extraMin' | 'companion')
  | ('homeSiteId' | 'homeProviderId' | 'referralSource' | 'staffNotes' | 'alert')
>;

/** A form over some of the details; only those are sent. */
function DetailsForm({
  record,
  name,
  of,
  close,
  children,
}: {
  record: PatientRecord;
  name: PartName;
  of: readonly (keyof Details)[];
  close: () => void;
  children: ReactNode;
}) {
  const { t } = useTranslation();
  const [save] = patientsApi.useSaveDetailsMutation();
  const { form, notice } = usePartForm(saveDetails, {
    record,
    name,
    values: Object.fromEntries(of.map((field) => [field, record[field]])),
    send: save,
    close,
  });
  return (
    <ContractForm
      of={form}
      label={t(`edit.part.${name}`)}
      className="flex flex-col gap-3"
      actions={<FormActions of={form} send={t('edit.save')} leave={t('setup.giveUp')} onLeave={close} forgets />}
    >
      {notice}
      {children}
    </ContractForm>
  );
}

/** The fields of an address, in the order of a letter. */
export function AddressFields({ within = '' }: { within?: string }) {
  const { t } = useTranslation();
  return (
    <>
      <TextField name={`${within}street`} label={t('edit.street')} required={false} autoComplete="off" />
      <div className="grid grid-cols-[2fr_1fr_1fr] gap-2">
        <TextField name={`${within}city`} label={t('edit.city')} required={false} autoComplete="off" />
        <TextField name={`${within}region`} label={t('edit.region')} required={false} autoComplete="off" />
        <TextField name={`${within}postalCode`} label={t('edit.postalCode')} required={false} autoComplete="off" />
      </div>
    </>
  );
}

export function Address({ record }: { record: PatientRecord }) {
  const { street, city, region, postalCode } = record;
  const place = [city, [region, postalCode].filter(Boolean).join(' ')].filter(Boolean).join(', ');
  return (
    <Part
      name="address"
      record={record}
      form={(close) => (
        <DetailsForm record={record} name="address" of={['street', 'city', 'region', 'postalCode']} close={close}>
          <AddressFields />
        </DetailsForm>
      )}
    >
      <p className="whitespace-pre-line empty:hidden">{[street, place].filter(Boolean).join('\n')}</p>
    </Part>
  );
}

/** The language in its own words for the reader, such as "Vietnamese"; a code that the browser has no name for stays. */
export function languageName(code: string): string {
  try {
    return new Intl.DisplayNames('en', { type: 'language' }).of(code) ?? code;
  } catch {
    return code;
  }
}

/**
 * Languages that interpreters are asked for most in US clinics (common practice; `ase` is American Sign Language), by BCP 47
 * tag.
 */
const INTERPRETED =
  'es zh yue vi ar ase tl ru ko ht pt fr de hi ur bn pa fa ps so am sw uk pl ja it hy km hmn my ne'.split(' ');

/** By their names; one that came from elsewhere stays. */
function interpretersFor({ interpreter }: PatientRecord) {
  const codes = interpreter && !INTERPRETED.includes(interpreter) ? [...INTERPRETED, interpreter] : INTERPRETED;
  return codes.map((value) => ({ value, label: languageName(value) })).sort((a, b) => a.label.localeCompare(b.label));
}

/** What every visit of this patient needs; searches and moves honor it by themselves. */
export function Needs({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  return (
    <Part
      name="needs"
      record={record}
      form={(close) => (
        <DetailsForm
          record={record}
          name="needs"
          of={['language', 'interpreter', 'access', 'extraMin', 'companion']}
          close={close}
        >
          <SelectField
            name="language"
            label={t('edit.language')}
            required={false}
            options={(['en', 'es'] as const).map((value) => ({ value, label: t(`patient.${value}`) }))}
          />
          <SelectField
            name="interpreter"
            label={t('edit.interpreter')}
            none={t('edit.noInterpreter')}
            options={interpretersFor(record)}
          />
          <ManyField
            name="access"
            label={t('edit.access')}
            hint={t('edit.accessHint')}
            options={ACCESS.map((value) => ({ value, label: t(`access.of.${value}`) }))}
          />
          <NumberField name="extraMin" label={t('edit.extraMin')} hint={t('edit.extraHint')} step={5} />
          <TextField name="companion" label={t('edit.companion')} required={false} />
        </DetailsForm>
      )}
    >
      <Facts
        rows={[
          [t('patient.language'), t(`patient.${record.language}`)],
          [t('edit.interpreter'), record.interpreter && languageName(record.interpreter)],
          [t('edit.access'), record.access.map((need) => t(`access.of.${need}`)).join(', ')],
          [t('edit.extraMin'), record.extraMin > 0 && t('edit.extra', { count: record.extraMin })],
          [t('edit.companion'), record.companion],
        ]}
      />
    </Part>
  );
}

export function Home({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const named = (rows: readonly { id: string; name: string }[] = []) =>
    rows.map(({ id, name }) => ({ value: id, label: name }));
  return (
    <Part
      name="home"
      record={record}
      form={(close) => (
        <DetailsForm record={record} name="home" of={['homeSiteId', 'homeProviderId', 'referralSource']} close={close}>
          <SelectField
            name="homeSiteId"
            label={t('edit.homeSite')}
            none={t('edit.none')}
            options={named(clinic?.sites)}
          />
          <SelectField
            name="homeProviderId"
            label={t('edit.homeProvider')}
            none={t('edit.none')}
            options={named(clinic?.people)}
          />
          <TextField name="referralSource" label={t('edit.referralSource')} required={false} />
        </DetailsForm>
      )}
    >
      <Facts
        rows={[
          [t('edit.homeSite'), record.homeSiteName],
          [t('edit.homeProvider'), record.homeProviderName],
          [t('edit.referralSource'), record.referralSource],
        ]}
      />
    </Part>
  );
}

export function Notes({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  return (
    <Part
      name="notes"
      record={record}
      form={(close) => (
        <DetailsForm record={record} name="notes" of={['staffNotes', 'alert']} close={close}>
          <TextField
            name="staffNotes"
            label={t('edit.staffNotes')}
            hint={t('edit.notesHint')}
            rows={4}
            required={false}
          />
          <TextField name="alert" label={t('edit.alert')} hint={t('edit.alertHint')} required={false} />
        </DetailsForm>
      )}
    >
      <Facts
        rows={[
          [t('edit.alert'), record.alert && <b className="text-warning">{record.alert}</b>],
          [t('edit.staffNotes'), record.staffNotes],
        ]}
      />
    </Part>
  );
}

import { type PatientRecord, restrict, savePatientStatus, SET_STATUSES } from '@zaguan/contracts/patients';
import { useTranslation } from 'react-i18next';
import { formatBirthDate } from '../../../../shared/time/format.ts';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { ContractForm, DateField, FormActions, RadioField, TextField, useValue } from '../../../forms/index.ts';
import { patientsApi } from '../patients.api.ts';
import { Facts, Part } from './Part.tsx';
import { usePartForm } from './usePartForm.tsx';

/** Whether somebody still comes. */
export function Status({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  return (
    <Part name="status" record={record} form={(close) => <StatusForm record={record} close={close} />}>
      <Facts
        rows={[
          [t('edit.part.status'), t(`patient.status.${record.status}`)],
          [t('edit.deceasedOn'), record.deceasedOn && formatBirthDate(record.deceasedOn)],
        ]}
      />
    </Part>
  );
}

const settable = (status: PatientRecord['status']) => SET_STATUSES.find((each) => each === status) ?? 'active';

function StatusForm({ record, close }: { record: PatientRecord; close: () => void }) {
  const { t } = useTranslation();
  const [save] = patientsApi.useSaveStatusMutation();
  const { form, notice } = usePartForm(savePatientStatus, {
    record,
    name: 'status',
    values: { status: settable(record.status), deceasedOn: record.deceasedOn },
    send: save,
    close,
    said: ({ canceled }) => t('edit.statusSaved', { count: canceled }),
  });
  return (
    <ContractForm
      of={form}
      label={t('edit.part.status')}
      className="flex flex-col gap-3"
      actions={<FormActions of={form} send={t('edit.save')} leave={t('setup.giveUp')} onLeave={close} forgets />}
    >
      {notice}
      <RadioField
        name="status"
        label={t('edit.part.status')}
        options={SET_STATUSES.map((value) => ({ value, label: t(`edit.status.${value}`) }))}
      />
      <DateOfDeath />
    </ContractForm>
  );
}

function DateOfDeath() {
  const { t } = useTranslation();
  if (useValue<string>('status') !== 'deceased') return null;
  return (
    <>
      <Notice tone="warning">{t('edit.deceasedWarning')}</Notice>
      <DateField name="deceasedOn" orNull label={t('edit.deceasedOn')} hint={t('edit.deceasedHint')} />
    </>
  );
}

/** Whether everybody of the staff may open the record. */
export function Restriction({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  if (!record.restricted && !record.mayRestrict) return null;
  return (
    <Part
      name="restricted"
      record={record}
      mayChange={record.mayRestrict}
      form={(close) => <RestrictForm record={record} close={close} />}
    >
      {record.restricted && (
        <p>
          <b className="text-danger">{t('patient.restricted')}</b>
          {record.restrictedBecause && (
            <span className="block">{t('edit.because', { reason: record.restrictedBecause })}</span>
          )}
        </p>
      )}
    </Part>
  );
}

function RestrictForm({ record, close }: { record: PatientRecord; close: () => void }) {
  const { t } = useTranslation();
  const [save] = patientsApi.useRestrictMutation();
  const { form, notice } = usePartForm(restrict, {
    record,
    name: 'restricted',
    values: { restricted: !record.restricted, reason: '' },
    send: save,
    close,
    said: () => t(record.restricted ? 'edit.lifted' : 'edit.restrictedNow'),
  });
  const words = t(record.restricted ? 'edit.lift' : 'edit.restrict');
  return (
    <ContractForm
      of={form}
      label={words}
      className="flex flex-col gap-3"
      actions={<FormActions of={form} send={words} leave={t('setup.giveUp')} onLeave={close} forgets />}
    >
      {notice}
      {!record.restricted && <p className="text-muted">{t('edit.restrictNote')}</p>}
      <TextField name="reason" label={t('edit.reason')} rows={2} />
    </ContractForm>
  );
}

import { type PatientRecord, saveCodes } from '@zaguan/contracts/patients';
import { X } from 'lucide-react';
import { useFieldArray } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { ContractForm, FormActions, TextField } from '../../../forms/index.ts';
import { patientsApi } from '../patients.api.ts';
import { Part } from './Part.tsx';
import { usePartForm } from './usePartForm.tsx';

/** Conditions by ICD-10-CM codes: for lists and registers. */
export function Conditions({ record }: { record: PatientRecord }) {
  return (
    <Part name="codes" record={record} form={(close) => <CodesForm record={record} close={close} />}>
      <ul>
        {record.codes.map(({ code, words }) => (
          <li key={code}>
            <span className="font-semibold tabular-nums">{code}</span> {words}
          </li>
        ))}
      </ul>
    </Part>
  );
}

function CodesForm({ record, close }: { record: PatientRecord; close: () => void }) {
  const { t } = useTranslation();
  const [save] = patientsApi.useSaveCodesMutation();
  const { form, notice } = usePartForm(saveCodes, {
    record,
    name: 'codes',
    values: { codes: record.codes.length ? [...record.codes] : [{ code: '', words: '' }] },
    send: save,
    close,
  });
  return (
    <ContractForm
      of={form}
      label={t('edit.part.codes')}
      className="flex flex-col gap-3"
      actions={<FormActions of={form} send={t('edit.save')} leave={t('setup.giveUp')} onLeave={close} forgets />}
    >
      {notice}
      <p className="text-muted">{t('edit.codesNote')}</p>
      <CodeRows />
    </ContractForm>
  );
}

function CodeRows() {
  const { t } = useTranslation();
  const { fields, append, remove } = useFieldArray<{ codes: { code: string; words: string }[] }>({ name: 'codes' });
  return (
    <>
      {fields.map(({ id, code }, at) => (
        <div key={id} className="grid grid-cols-[7rem_1fr_auto] items-end gap-2">
          <TextField name={`codes.${at}.code`} label={t('edit.code')} required />
          <TextField name={`codes.${at}.words`} label={t('edit.words')} required={false} />
          <Button look="plain" aria-label={t('edit.removeCode', { code })} onClick={() => remove(at)}>
            <X size={16} aria-hidden="true" />
          </Button>
        </div>
      ))}
      <Button className="self-start" onClick={() => append({ code: '', words: '' })}>
        {t('edit.addCode')}
      </Button>
    </>
  );
}

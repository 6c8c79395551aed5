import type { TFunction } from 'i18next';
import { type PatientRecord, saveFields } from '@zaguan/contracts/patients';
import { useState } from 'react';
import { useController } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../shared/ui/Button.tsx';
import { AnswerControl } from '../../../shared/ui/AnswerControl.tsx';
import { Field } from '../../../shared/ui/Field.tsx';
import { ContractForm, FormActions, useContractForm, useFault } from '../../forms/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { patientsApi } from './patients.api.ts';

type OwnField = PatientRecord['fields'][number];

/** The clinic's own fields: read here, changed in place. */
export function OwnFields({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  const [isChanging, setChanging] = useState(false);
  if (!record.fields.length) return null;
  return (
    <section aria-label={t('patient.fields')} className="mt-4">
      <h2 className="mb-1 font-bold">{t('patient.fields')}</h2>
      {isChanging ? (
        <ChangeFields record={record} onDone={() => setChanging(false)} />
      ) : (
        <>
          <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
            {record.fields.map((field) => (
              <div key={field.id} className="contents">
                <dt className="text-muted">{field.label}</dt>
                <dd>{words(field, t)}</dd>
              </div>
            ))}
          </dl>
          {record.mayEdit && (
            <Button className="mt-2" onClick={() => setChanging(true)}>
              {t('patient.changeFields')}
            </Button>
          )}
        </>
      )}
    </section>
  );
}

function ChangeFields({ record, onDone }: { record: PatientRecord; onDone: () => void }) {
  const { t } = useTranslation();
  const [save] = patientsApi.useSaveFieldsMutation();
  const undo = useUndoToast();
  const form = useContractForm(saveFields, {
    values: {
      answers: Object.fromEntries(record.fields.flatMap(({ id, value }) => (value === null ? [] : [[id, value]]))),
    },
    fixed: { id: record.id, version: record.version },
    send: save,
    onDone: (answer) => {
      undo(t('patient.fieldsSaved'), answer.undo.id);
      onDone();
    },
    // All fields are saved together: typed over an older record, they would undo what somebody else changed.
    keepAs: `fields.${record.id}.${record.version}`,
  });
  return (
    <ContractForm
      of={form}
      className="flex flex-col gap-3"
      actions={<FormActions of={form} send={t('save')} leave={t('setup.giveUp')} onLeave={onDone} forgets />}
    >
      {record.fields.map((field) => (
        <OwnFieldInput key={field.id} field={field} />
      ))}
    </ContractForm>
  );
}

function OwnFieldInput({ field }: { field: OwnField }) {
  const { t } = useTranslation();
  const name = `answers.${field.id}`;
  const { field: bound } = useController({ name });
  return (
    <Field label={field.label} required={field.required ? t('setup.required') : undefined} error={useFault(name)}>
      {(controlProps) => (
        <AnswerControl
          controlProps={controlProps}
          kind={field.kind}
          choices={field.choices.map((value) => ({ value, label: value }))}
          words={{ yes: t('setup.yes'), no: t('setup.no') }}
          value={bound.value}
          onChange={bound.onChange}
        />
      )}
    </Field>
  );
}

function words({ value }: OwnField, t: TFunction): string {
  if (value === null) return '–';
  return typeof value === 'boolean' ? t(value ? 'setup.yes' : 'setup.no') : String(value);
}

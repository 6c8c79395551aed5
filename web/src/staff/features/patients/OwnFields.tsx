import type { PatientRecord } from '@zaguan/contracts/patients';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../shared/api/contractApi.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { AnswerControl } from '../../../shared/ui/AnswerControl.tsx';
import { Field } from '../../../shared/ui/Field.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { useUndoToast } from '../undo/index.ts';
import { patientsApi } from './patients.api.ts';

type OwnField = PatientRecord['fields'][number];
type Value = string | number | boolean;

/** The clinic's own fields: read here, changed in place. */
export function OwnFields({ record }: { record: PatientRecord }) {
  const { t } = useTranslation();
  const [typed, setTyped] = useState<Record<string, Value> | null>(null);
  const [save, { error, isLoading, reset }] = patientsApi.useSaveFieldsMutation();
  const undo = useUndoToast();
  const refused = apiError(error);
  if (!record.fields.length) return null;
  const begin = () =>
    setTyped(Object.fromEntries(record.fields.flatMap(({ id, value }) => (value === null ? [] : [[id, value]]))));
  const faultOf = (id: string) => {
    const code = refused?.issues?.find(({ path }) => path === `answers.${id}`)?.code;
    return code && t(`patient.fieldFault.${code}`);
  };
  const submit = async () => {
    const result = await save({ id: record.id, version: record.version, answers: typed ?? {} });
    if (!('data' in result) || !result.data) return;
    undo(t('patient.fieldsSaved'), result.data.undo.id);
    setTyped(null);
  };
  return (
    <section aria-label={t('patient.fields')} className="mt-4">
      <h2 className="mb-1 font-bold">{t('patient.fields')}</h2>
      {typed === null ? (
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
            <Button className="mt-2" onClick={begin}>
              {t('patient.changeFields')}
            </Button>
          )}
        </>
      ) : (
        <form
          noValidate
          className="flex flex-col gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            void submit();
          }}
        >
          {record.fields.map((field) => (
            <Field
              key={field.id}
              label={field.label}
              required={field.required ? t('setup.required') : undefined}
              error={faultOf(field.id)}
            >
              {(controlProps) => (
                <AnswerControl
                  controlProps={controlProps}
                  kind={field.kind}
                  choices={field.choices.map((value) => ({ value, label: value }))}
                  words={{ yes: t('setup.yes'), no: t('setup.no') }}
                  value={typed[field.id]}
                  onChange={(value) => setTyped({ ...typed, [field.id]: value })}
                />
              )}
            </Field>
          ))}
          {refused && refused.tag !== 'InvalidInput' && (
            <Notice tone="danger" live="assertive">
              {t(`error.${refused.tag}`, { requestId: refused.requestId })}
            </Notice>
          )}
          <div className="flex gap-2">
            <Button type="submit" look="primary" disabled={isLoading}>
              {t('save')}
            </Button>
            <Button
              onClick={() => {
                reset();
                setTyped(null);
              }}
            >
              {t('setup.giveUp')}
            </Button>
          </div>
        </form>
      )}
    </section>
  );
}

function words({ value }: OwnField, t: (key: string) => string): string {
  if (value === null) return '–';
  return typeof value === 'boolean' ? t(value ? 'setup.yes' : 'setup.no') : String(value);
}

import type { FieldDoc } from '@zaguan/contracts/setup';
import { useController } from 'react-hook-form';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Field, CONTROL } from '../../../../shared/ui/Field.tsx';
import { ManyField, NumberField, useFault, useValue } from '../../../forms/index.ts';
import { useRecords, useChoices } from '../../setup/index.ts';

/** Whom a plan or a register asks for. Everything that is filled in must be true. */
export function WhoFields({ name, registers = true }: { name: string; registers?: boolean }) {
  const { t } = useTranslation();
  const sites = useChoices('site', useValue<string[] | null>(`${name}.homeSiteIds`));
  const kept = useRecords('register').filter(({ active }) => active);
  return (
    <>
      <div className="grid grid-cols-[7rem_7rem] gap-3">
        <NumberField name={`${name}.ageFrom`} label={t('recalls.editor.ageFrom')} orNull step={1} />
        <NumberField name={`${name}.ageTo`} label={t('recalls.editor.ageTo')} orNull step={1} />
      </div>
      <p className="-mt-2 text-muted">{t('recalls.editor.years')}</p>
      <CodesField name={`${name}.codes`} />
      {registers && kept.length > 0 && (
        <ManyField
          name={`${name}.registerIds`}
          label={t('recalls.editor.registersField')}
          all={t('recalls.editor.anyRegister')}
          options={kept.map(({ id, doc }) => ({ value: id, label: doc.name }))}
        />
      )}
      <ManyField
        name={`${name}.sexes`}
        label={t('recalls.editor.sexes')}
        all={t('recalls.editor.anySex')}
        options={(['female', 'male', 'other', 'unknown'] as const).map((value) => ({
          value,
          label: t(`recalls.editor.sex.${value}`),
        }))}
      />
      <ManyField
        name={`${name}.languages`}
        label={t('recalls.editor.languages')}
        all={t('recalls.editor.anyLanguage')}
        options={(['en', 'es'] as const).map((value) => ({ value, label: t(`recalls.list.${value}`) }))}
      />
      <ManyField
        name={`${name}.homeSiteIds`}
        label={t('recalls.editor.homeSites')}
        all={t('recalls.editor.anySite')}
        options={sites}
      />
      <OwnFields name={`${name}.fields`} />
    </>
  );
}

/** Codes as one line with commas; `null` while it is empty. */
function CodesField({ name }: { name: string }) {
  const { t } = useTranslation();
  const { field } = useController({ name });
  const [typed, setTyped] = useState(((field.value as string[] | null) ?? []).join(', '));
  // A fault of one code is the line's.
  const faults = [useFault(name), useFault(`${name}.0`), useFault(`${name}.1`), useFault(`${name}.2`)];
  return (
    <Field
      label={t('recalls.editor.codes')}
      hint={t('recalls.editor.codesHint')}
      error={faults.find((fault) => fault !== undefined)}
    >
      {(controlProps) => (
        <input
          {...controlProps}
          ref={field.ref}
          className={CONTROL}
          value={typed}
          onChange={(event) => {
            setTyped(event.target.value);
            const codes = event.target.value
              .split(',')
              .map((code) => code.trim().toUpperCase())
              .filter(Boolean);
            field.onChange(codes.length ? codes : null);
          }}
          onBlur={field.onBlur}
        />
      )}
    </Field>
  );
}

type Asked = { fieldId: string; values: (string | number | boolean)[] };

/** The clinic's own fields that are answered by one of a few things. */
function OwnFields({ name }: { name: string }) {
  const { t } = useTranslation();
  const { field } = useController({ name });
  const asked = field.value as Asked[];
  const own = useRecords('field').filter(
    ({ active, doc }) => active && doc.of === 'patient' && (doc.kind === 'choice' || doc.kind === 'yes-no'),
  );
  const set = (fieldId: string, values: Asked['values']) =>
    field.onChange([
      ...asked.filter((each) => each.fieldId !== fieldId),
      ...(values.length ? [{ fieldId, values }] : []),
    ]);
  return own.map(({ id, doc }) => (
    <Field key={id} label={t('recalls.editor.ownField', { field: doc.labelEn })}>
      {(controlProps) => (
        <select
          {...controlProps}
          className={CONTROL}
          value={String(asked.find(({ fieldId }) => fieldId === id)?.values[0] ?? '')}
          onChange={(event) =>
            set(
              id,
              event.target.value === ''
                ? []
                : [doc.kind === 'yes-no' ? event.target.value === 'true' : event.target.value],
            )
          }
        >
          <option value="">{t('recalls.editor.anyAnswer')}</option>
          {answersOf(doc, t('recalls.editor.yes'), t('recalls.editor.no')).map(({ value, label }) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </select>
      )}
    </Field>
  ));
}

const answersOf = (doc: FieldDoc, yes: string, no: string) =>
  doc.kind === 'yes-no'
    ? [
        { value: 'true', label: yes },
        { value: 'false', label: no },
      ]
    : doc.choices.map(({ en }) => ({ value: en, label: en }));

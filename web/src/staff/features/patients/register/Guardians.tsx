import { RELATIONSHIP_KINDS } from '@zaguan/contracts/patients';
import { ageOn, fullName, RIGHTS } from '@zaguan/core/patients';
import { isDate } from '@zaguan/core/time';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { ManyField, SelectField, TextField, useFault, useValue } from '../../../forms/index.ts';
import { useClinicTime } from '../../accounts/index.ts';
import type { TypedGuardian, TypedPerson } from './typedPerson.ts';

/** Everybody's majority where this is asked; the state's own decides when the right ends. */
const GROWN = 18;

const NEW: TypedGuardian = { person: null, name: '', kind: 'parent', rights: ['book', 'sign', 'receive', 'see'] };

/** Who may act for the children of the form: one of those in it, or somebody who is no patient. */
export function Guardians() {
  const { t } = useTranslation();
  const { today } = useClinicTime();
  const people = useValue<readonly TypedPerson[]>('people');
  const { fields, append, remove } = useFieldArray<{ guardians: TypedGuardian[] }>({ name: 'guardians' });
  const isChild = ({ birthDate }: TypedPerson) => isDate(birthDate) && ageOn(birthDate, today) < GROWN;
  const grown = people.findIndex((person) => isDate(person.birthDate) && !isChild(person));
  if (!people.some(isChild) && !fields.length) return null;
  return (
    <section aria-label={t('register.guardians')} className="flex flex-col gap-3">
      <h2 className="font-bold">{t('register.guardians')}</h2>
      <p className="text-muted">{t('register.guardiansNote')}</p>
      {fields.map(({ id }, at) => (
        <GuardianFields key={id} at={at} people={people} onRemove={() => remove(at)} />
      ))}
      <Button className="self-start" onClick={() => append({ ...NEW, person: grown < 0 ? null : grown })}>
        {t('register.addGuardian')}
      </Button>
    </section>
  );
}

function GuardianFields({
  at,
  people,
  onRemove,
}: {
  at: number;
  people: readonly TypedPerson[];
  onRemove: () => void;
}) {
  const { t } = useTranslation();
  const name = `guardians.${at}`;
  const { setValue } = useFormContext();
  const person = useValue<number | null>(`${name}.person`);
  const fault = useFault(`${name}.person`);
  return (
    <div data-guardian={at} className="flex flex-col gap-3 rounded-md border border-line-strong bg-panel p-3">
      <div className="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
        <Field label={t('register.guardian')} error={fault}>
          {(controlProps) => (
            <select
              {...controlProps}
              className={CONTROL}
              value={person ?? ''}
              onChange={(event) =>
                setValue(`${name}.person`, event.target.value === '' ? null : Number(event.target.value))
              }
            >
              <option value="">{t('register.notAPatient')}</option>
              {people.map(({ givenName, familyName }, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: people of the form are known by their place
                <option key={i} value={i}>
                  {fullName(givenName, familyName) || t('register.person', { number: i + 1 })}
                </option>
              ))}
            </select>
          )}
        </Field>
        <SelectField
          name={`${name}.kind`}
          label={t('patient.kinship')}
          required={false}
          options={RELATIONSHIP_KINDS.map((kind) => ({ value: kind, label: t(`patient.kin.${kind}`) }))}
        />
      </div>
      {person === null && <TextField name={`${name}.name`} label={t('register.guardianName')} autoComplete="off" />}
      <ManyField
        name={`${name}.rights`}
        label={t('patient.may')}
        options={RIGHTS.map((right) => ({ value: right, label: t(`patient.right.${right}`) }))}
      />
      <Button className="self-start" onClick={onRemove}>
        {t('register.removeGuardian')}
      </Button>
    </div>
  );
}

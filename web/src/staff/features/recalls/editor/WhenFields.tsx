import type { RecallPlanDoc } from '@zaguan/contracts/recalls';
import type { Interval } from '@zaguan/core/recalls';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { ManyField, NumberField, SelectField, useFault, useValue } from '../../../forms/index.ts';
import { useRecords, useChoices } from '../../setup/index.ts';
import { sayMonthDay } from '../say.ts';
import { IntervalField } from './IntervalField.tsx';

type When = RecallPlanDoc['when'];
const KINDS = ['after-visit', 'build-up', 'season', 'never-seen', 'on-register'] as const;

const weeks = (n: number): Interval => ({ n, unit: 'weeks' });
const months = (n: number): Interval => ({ n, unit: 'months' });

/** What each way of counting begins with. */
function firstOf(kind: When['kind'], typeIds: string[], registerId: string): When {
  switch (kind) {
    case 'after-visit':
      return { kind, typeIds, every: months(6) };
    case 'build-up':
      return {
        ...{ kind, typeIds, steps: [{ visits: 16, every: weeks(1) }] },
        ...{ afterwards: weeks(4), restartAfter: null },
      };
    case 'season':
      return { kind, typeIds, from: '10-01', until: '12-31' };
    case 'never-seen':
      return { kind, after: months(1) };
    case 'on-register':
      return { kind, registerId, typeIds, after: months(1), every: months(12) };
  }
}

/** When somebody is due. */
export function WhenFields() {
  const { t } = useTranslation();
  const { setValue, getValues } = useFormContext();
  const when = useValue<When>('when');
  const registers = useRecords('register').filter(({ active }) => active);
  return (
    <>
      <Field label={t('recalls.editor.kind')}>
        {(controlProps) => (
          <select
            {...controlProps}
            className={CONTROL}
            value={when.kind}
            onChange={(event) => {
              const before = getValues('when') as When;
              const next = firstOf(
                event.target.value as When['kind'],
                'typeIds' in before ? before.typeIds : [],
                registers[0]?.id ?? '',
              );
              setValue('when', next, { shouldDirty: true });
            }}
          >
            {KINDS.map((kind) => (
              <option key={kind} value={kind}>
                {t(`recalls.editor.kinds.${kind}`)}
              </option>
            ))}
          </select>
        )}
      </Field>
      {/* Another way of counting has other fields: none may keep the last one's. */}
      <Fields
        key={when.kind}
        when={when}
        registers={registers.map(({ id, doc }) => ({ value: id, label: doc.name }))}
      />
    </>
  );
}

function Fields({ when, registers }: { when: When; registers: readonly { value: string; label: string }[] }) {
  const { t } = useTranslation();
  const types = <TypesField />;
  switch (when.kind) {
    case 'after-visit':
      return (
        <>
          <IntervalField name="when.every" label={t('recalls.editor.after')} />
          {types}
        </>
      );
    case 'build-up':
      return (
        <>
          <Course />
          {types}
        </>
      );
    case 'season':
      return (
        <>
          <div className="grid grid-cols-2 gap-3">
            <MonthDayField name="when.from" label={t('recalls.editor.from')} />
            <MonthDayField name="when.until" label={t('recalls.editor.until')} />
          </div>
          {types}
        </>
      );
    case 'never-seen':
      return <IntervalField name="when.after" label={t('recalls.editor.after')} />;
    case 'on-register':
      return (
        <>
          <SelectField name="when.registerId" label={t('recalls.editor.register')} options={registers} />
          <IntervalField name="when.after" label={t('recalls.editor.after')} />
          <OrNull
            name="when.every"
            label={t('recalls.editor.onlyOnce')}
            isOff={when.every === null}
            first={months(12)}
            whenOn={false}
          />
          {when.every !== null && <IntervalField name="when.every" label={t('recalls.editor.again')} />}
          {types}
        </>
      );
  }
}

function TypesField() {
  const { t } = useTranslation();
  const options = useChoices('visit-type', useValue<string[]>('when.typeIds'));
  return <ManyField name="when.typeIds" label={t('recalls.editor.types')} options={options} />;
}

/** A tick that decides whether there is an interval at all. */
function OrNull({
  name,
  label,
  isOff,
  first,
  whenOn,
}: {
  name: string;
  label: string;
  isOff: boolean;
  first: Interval;
  whenOn: boolean;
}) {
  const { setValue } = useFormContext();
  return (
    <label className="flex items-center gap-2">
      <input
        type="checkbox"
        className="size-4 accent-accent"
        checked={whenOn ? !isOff : isOff}
        onChange={(event) => setValue(name, event.target.checked === whenOn ? first : null, { shouldDirty: true })}
      />
      {label}
    </label>
  );
}

/** The steps of a course, and what follows them for good. */
function Course() {
  const { t } = useTranslation();
  const { fields, append, remove } = useFieldArray({ name: 'when.steps' });
  const restart = useValue<Interval | null>('when.restartAfter');
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="mb-1 font-semibold">{t('recalls.editor.steps')}</legend>
      {fields.map(({ id }, i) => (
        <div key={id} className="flex items-end gap-2">
          <div className="w-24">
            <NumberField name={`when.steps.${i}.visits`} label={t('recalls.editor.stepVisits')} step={1} />
          </div>
          <IntervalField name={`when.steps.${i}.every`} label={t('recalls.editor.stepEvery')} />
          {fields.length > 1 && (
            <Button aria-label={t('recalls.editor.removeStep', { n: i + 1 })} onClick={() => remove(i)}>
              ✕
            </Button>
          )}
        </div>
      ))}
      <div>
        <Button onClick={() => append({ visits: 4, every: weeks(2) })}>{t('recalls.editor.addStep')}</Button>
      </div>
      <IntervalField name="when.afterwards" label={t('recalls.editor.afterwards')} />
      <OrNull
        name="when.restartAfter"
        label={t('recalls.editor.restart')}
        isOff={restart === null}
        first={weeks(12)}
        whenOn
      />
      {restart !== null && <IntervalField name="when.restartAfter" label={t('recalls.editor.gap')} />}
    </fieldset>
  );
}

const MONTHS = Array.from({ length: 12 }, (_, i) => String(i + 1).padStart(2, '0'));
const DAYS = Array.from({ length: 31 }, (_, i) => String(i + 1).padStart(2, '0'));

/** A day of any year. */
function MonthDayField({ name, label }: { name: string; label: string }) {
  const { t } = useTranslation();
  const { setValue } = useFormContext();
  const value = useValue<string>(name);
  const fault = useFault(name);
  const [month, day] = value.split('-');
  const set = (to: string) => setValue(name, to, { shouldDirty: true, shouldValidate: true });
  return (
    <fieldset aria-label={label}>
      <legend className="mb-1 font-semibold">{label}</legend>
      <div className="flex gap-2">
        <select
          aria-label={`${label}, ${t('recalls.editor.month')}`}
          className={CONTROL}
          value={month}
          onChange={(event) => set(`${event.target.value}-${day}`)}
        >
          {MONTHS.map((each) => (
            <option key={each} value={each}>
              {sayMonthDay(`${each}-01`).split(' ')[0]}
            </option>
          ))}
        </select>
        <select
          aria-label={`${label}, ${t('recalls.editor.day')}`}
          className={CONTROL}
          value={day}
          onChange={(event) => set(`${month}-${event.target.value}`)}
        >
          {DAYS.map((each) => (
            <option key={each} value={each}>
              {Number(each)}
            </option>
          ))}
        </select>
      </div>
      {fault && (
        <p role="alert" className="mt-1 font-semibold text-danger">
          {fault}
        </p>
      )}
    </fieldset>
  );
}

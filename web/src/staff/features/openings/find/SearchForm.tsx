import { ACCESS } from '@zaguan/core/availability';
import type { OutputOf } from '@zaguan/contracts';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { useTranslation } from 'react-i18next';
import { DayBoxes } from '../../../../shared/ui/DayBoxes.tsx';
import { Field } from '../../../../shared/ui/Field.tsx';
import { SelectField, TextField, TickField, WholeNumberInput } from '../../../../shared/ui/inputs.tsx';
import { MembersFields } from './MembersFields.tsx';
import { HOURS, type HoursName, type TypedSearch, type Typing } from './typed.ts';

type Clinic = OutputOf<typeof staffClinic>;
const DAYS = [7, 14, 30, 60, 120];

/** What is looked for; every change asks anew. */
export function SearchForm({ clinic, ...search }: Typing & { clinic: Clinic }) {
  const { typed, set } = search;
  return (
    <form className="flex flex-col gap-3" onSubmit={(event) => event.preventDefault()}>
      <MembersFields visitTypes={clinic.visitTypes} {...search} />
      {typed.members.length > 1 && (
        <>
          <Choice field="how" values={['back-to-back', 'side-by-side']} {...search} />
          <WholeNumber field="mostWaitMin" min={0} max={240} step={5} {...search} />
        </>
      )}
      <PlaceAndPerson clinic={clinic} {...search} />
      <Dates {...search} />
      <Choice field="hours" values={Object.keys(HOURS) as HoursName[]} {...search} />
      {clinic.languages.length > 1 && (
        <Language languages={clinic.languages} value={typed.language} onChange={(language) => set({ language })} />
      )}
      <AccessNeeds {...search} />
      <Choice field="channel" values={['desk', 'online']} {...search} />
      {typed.members.length === 1 && <SeriesFields {...search} />}
    </form>
  );
}

function Choice<K extends 'channel' | 'hours' | 'how'>({
  field,
  values,
  typed,
  set,
}: Typing & { field: K; values: readonly TypedSearch[K][] }) {
  const { t } = useTranslation();
  return (
    <SelectField
      label={t(`find.${field}`)}
      value={typed[field]}
      onChange={(event) => set({ [field]: event.target.value } as Partial<TypedSearch>)}
    >
      {values.map((value) => (
        <option key={value} value={value}>
          {t(`find.${field}s.${value}` as 'find.hows.back-to-back')}
        </option>
      ))}
    </SelectField>
  );
}

function WholeNumber({
  field,
  typed,
  set,
  min,
  max,
  step = 1,
}: Typing & {
  field: 'everyWeeks' | 'count' | 'toleranceDays' | 'mostWaitMin';
  min: number;
  max: number;
  step?: number;
}) {
  const { t } = useTranslation();
  return (
    <Field label={t(`find.${field}`)}>
      {(controlProps) => (
        <WholeNumberInput
          {...controlProps}
          {...{ min, max, step }}
          value={typed[field]}
          onValue={(value) => set({ [field]: value })}
        />
      )}
    </Field>
  );
}

function PlaceAndPerson({ clinic, typed, set }: Typing & { clinic: Clinic }) {
  const { t } = useTranslation();
  const one = (ids: readonly string[]) => (ids.length === 1 ? ids[0] : '');
  const listed = (id: string) => (id ? [id] : []);
  return (
    <>
      <SelectField
        label={t('hours.where')}
        value={one(typed.siteIds)}
        onChange={(event) => set({ siteIds: listed(event.target.value) })}
        none={t('find.anySite')}
        options={clinic.sites}
      />
      <SelectField
        label={t('find.provider')}
        value={one(typed.providerIds)}
        onChange={(event) => set({ providerIds: listed(event.target.value) })}
        none={t('find.anyone')}
        options={clinic.people.filter(({ kind }) => kind === 'provider')}
      />
    </>
  );
}

function Dates({ typed, set }: Typing) {
  const { t } = useTranslation();
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <TextField
          label={t('find.from')}
          type="date"
          value={typed.from}
          onChange={(event) => set({ from: event.target.value })}
        />
        <SelectField
          label={t('find.within')}
          value={typed.days}
          onChange={(event) => set({ days: Number(event.target.value) })}
        >
          {[...new Set([...DAYS, typed.days])]
            .sort((a, b) => a - b)
            .map((days) => (
              <option key={days} value={days}>
                {t('find.days', { count: days })}
              </option>
            ))}
        </SelectField>
      </div>
      <DayBoxes label={t('find.weekdays')} chosen={typed.weekdays} onChange={(weekdays) => set({ weekdays })} />
    </>
  );
}

function Language(props: { languages: readonly string[]; value: string; onChange: (code: string) => void }) {
  const { t } = useTranslation();
  return (
    <SelectField
      label={t('find.language')}
      value={props.value}
      onChange={(event) => props.onChange(event.target.value)}
    >
      <option value="">{t('find.anyLanguage')}</option>
      {props.languages.map((code) => (
        <option key={code} value={code}>
          {new Intl.DisplayNames('en', { type: 'language' }).of(code)}
        </option>
      ))}
    </SelectField>
  );
}

function AccessNeeds({ typed, set }: Typing) {
  const { t } = useTranslation();
  return (
    <details className="rounded-md border border-line px-3 py-2" open={typed.access.length > 0}>
      <summary className="cursor-pointer font-semibold">{t('access.needs')}</summary>
      {ACCESS.map((need) => (
        <TickField
          key={need}
          className="py-0.5"
          checked={typed.access.includes(need)}
          onChange={(event) =>
            set({
              access: event.target.checked ? [...typed.access, need] : typed.access.filter((other) => other !== need),
            })
          }
        >
          {t(`access.of.${need}`)}
        </TickField>
      ))}
    </details>
  );
}

function SeriesFields(search: Typing) {
  const { typed, set } = search;
  const { t } = useTranslation();
  return (
    <>
      <TickField checked={typed.repeats} onChange={(event) => set({ repeats: event.target.checked })}>
        {t('find.repeats')}
      </TickField>
      {typed.repeats && (
        <>
          <div className="grid grid-cols-3 gap-2">
            <WholeNumber field="everyWeeks" min={1} max={26} {...search} />
            <WholeNumber field="count" min={2} max={12} {...search} />
            <WholeNumber field="toleranceDays" min={0} max={7} {...search} />
          </div>
          <TickField checked={typed.sameProvider} onChange={(event) => set({ sameProvider: event.target.checked })}>
            {t('find.sameProvider')}
          </TickField>
        </>
      )}
    </>
  );
}

import { ACCESS } from '@zaguan/core/availability';
import type { OutputOf } from '@zaguan/contracts';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { DayBoxes } from '../../../../shared/ui/DayBoxes.tsx';
import { CONTROL } from '../../../../shared/ui/Field.tsx';
import { SelectField, TextField, TickField } from '../../../../shared/ui/inputs.tsx';
import { HOURS, type HoursName, type Member, type TypedSearch } from './typed.ts';

type Clinic = OutputOf<typeof staffClinic>;
const DAYS = [7, 14, 30, 60, 120];
const MAX_MEMBERS = 5;

/** What is looked for; every change asks anew. */
export function SearchForm({
  clinic,
  languages,
  typed,
  set,
}: {
  clinic: Clinic;
  languages: readonly string[];
  typed: TypedSearch;
  set: (change: Partial<TypedSearch>) => void;
}) {
  const { t } = useTranslation();
  const change = (at: number, to: Partial<Member>) =>
    set({ members: typed.members.map((member, i) => (i === at ? { ...member, ...to } : member)) });
  const several = typed.members.length > 1;
  const number = (
    field: 'everyWeeks' | 'count' | 'toleranceDays' | 'mostWaitMin',
    min: number,
    max: number,
    step = 1,
  ) => (
    <TextField
      label={t(`find.${field}`)}
      type="number"
      min={min}
      max={max}
      step={step}
      value={typed[field]}
      onChange={(event) => set({ [field]: Math.min(max, Math.max(min, Math.round(Number(event.target.value)))) })}
    />
  );
  const choose = <K extends 'channel' | 'hours' | 'how'>(field: K, values: readonly TypedSearch[K][]) => (
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
  const one = (
    field: 'siteIds' | 'providerIds',
    label: string,
    all: string,
    rows: readonly { id: string; name: string }[],
  ) => (
    <SelectField
      label={label}
      value={typed[field].length === 1 ? typed[field][0] : ''}
      onChange={(event) => set({ [field]: event.target.value ? [event.target.value] : [] } as Partial<TypedSearch>)}
      none={all}
      options={rows}
    />
  );
  return (
    <form className="flex flex-col gap-3" onSubmit={(event) => event.preventDefault()}>
      {typed.members.map((member, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: people have no names here; they are the first, the second …
        <fieldset key={i} className="flex flex-col gap-2">
          <legend className={several ? 'font-bold' : 'sr-only'}>{t('find.person', { number: i + 1 })}</legend>
          <SelectField
            label={t('whyNot.type')}
            value={member.visitTypeId}
            onChange={(event) => change(i, { visitTypeId: event.target.value })}
            options={clinic.visitTypes}
          />
          <div className="flex gap-2">
            <select
              aria-label={t('whyNot.kind')}
              className={CONTROL}
              value={member.kind}
              onChange={(event) => change(i, { kind: event.target.value as Member['kind'] })}
            >
              <option value="established">{t('visit.kind.established')}</option>
              <option value="new">{t('visit.kind.new')}</option>
            </select>
            {several && (
              <Button onClick={() => set({ members: typed.members.filter((_, at) => at !== i) })}>
                {t('find.without')}
              </Button>
            )}
          </div>
        </fieldset>
      ))}
      {typed.members.length < MAX_MEMBERS && !typed.repeats && (
        <Button
          className="self-start"
          onClick={() => set({ members: [...typed.members, typed.members[typed.members.length - 1]] })}
        >
          {t('find.another')}
        </Button>
      )}
      {several && (
        <>
          {choose('how', ['back-to-back', 'side-by-side'])}
          {number('mostWaitMin', 0, 240, 5)}
        </>
      )}
      {one('siteIds', t('hours.where'), t('find.anySite'), clinic.sites)}
      {one(
        'providerIds',
        t('find.provider'),
        t('find.anyone'),
        clinic.people.filter(({ kind }) => kind === 'provider'),
      )}
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
      {choose('hours', Object.keys(HOURS) as HoursName[])}
      {languages.length > 1 && (
        <SelectField
          label={t('find.language')}
          value={typed.language}
          onChange={(event) => set({ language: event.target.value })}
        >
          <option value="">{t('find.anyLanguage')}</option>
          {languages.map((code) => (
            <option key={code} value={code}>
              {new Intl.DisplayNames('en', { type: 'language' }).of(code)}
            </option>
          ))}
        </SelectField>
      )}
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
      {choose('channel', ['desk', 'online'])}
      {!several && (
        <>
          <TickField checked={typed.repeats} onChange={(event) => set({ repeats: event.target.checked })}>
            {t('find.repeats')}
          </TickField>
          {typed.repeats && (
            <div className="grid grid-cols-3 gap-2">
              {number('everyWeeks', 1, 26)}
              {number('count', 2, 12)}
              {number('toleranceDays', 0, 7)}
            </div>
          )}
          {typed.repeats && (
            <TickField checked={typed.sameProvider} onChange={(event) => set({ sameProvider: event.target.checked })}>
              {t('find.sameProvider')}
            </TickField>
          )}
        </>
      )}
    </form>
  );
}

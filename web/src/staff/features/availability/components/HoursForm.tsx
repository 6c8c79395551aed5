import { workingHoursFields } from '@zaguan/contracts/availability';
import type { OutputOf } from '@zaguan/contracts';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateWords, wallTime } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { useUndoToast } from '../../undo/index.ts';
import { availabilityApi } from '../availability.api.ts';
import { DayBoxes, TypeBoxes } from './HoursBoxes.tsx';
import { readWallTime } from '../wallTimeInput.ts';

type Clinic = OutputOf<typeof staffClinic>;
type Kinds = 'any' | 'new' | 'established' | 'invited';

interface Typed {
  resourceId: string;
  siteId: string;
  weekdays: number[];
  from: string;
  to: string;
  everyWeeks: number;
  effectiveFrom: string;
  effectiveUntil: string;
  typeIds: string[] | null;
  kinds: Kinds;
  online: boolean;
  places: number;
}

/** What was typed, as the contract wants it; faults come back by field. */
function read(
  typed: Typed,
): { ok: true; body: ReturnType<typeof workingHoursFields.parse> } | { ok: false; faults: Record<string, string> } {
  const faults: Record<string, string> = {};
  const fromMinute = readWallTime(typed.from);
  const toMinute = readWallTime(typed.to);
  if (!typed.resourceId) faults.resourceId = 'needed';
  if (!typed.siteId) faults.siteId = 'needed';
  if (fromMinute === null) faults.fromMinute = 'time';
  if (toMinute === null) faults.toMinute = 'time';
  const { resourceId, siteId, weekdays, everyWeeks, effectiveFrom, places, online } = typed;
  const result = workingHoursFields.safeParse({
    resourceId,
    siteId,
    weekdays,
    everyWeeks,
    effectiveFrom,
    places,
    online,
    fromMinute: fromMinute ?? 0,
    toMinute: toMinute ?? 5,
    effectiveUntil: typed.effectiveUntil || null,
    acceptsTypeIds: typed.typeIds,
    acceptsKinds: typed.kinds === 'new' || typed.kinds === 'established' ? [typed.kinds] : null,
    invitedOnly: typed.kinds === 'invited',
  });
  for (const issue of result.error?.issues ?? []) faults[String(issue.path[0])] ??= issue.message;
  return result.success && !Object.keys(faults).length ? { ok: true, body: result.data } : { ok: false, faults };
}

/** Recurring working hours, typed in. What was typed stays until it is saved. */
export function HoursForm({
  clinic,
  today,
  onlyResourceId,
  asked,
  onClose,
}: {
  clinic: Clinic;
  today: string;
  onlyResourceId: string | null;
  /** Whose hours and where, if whoever leads here knows; ids that are not there count as nothing. */
  asked: { readonly resourceId: string; readonly siteId: string };
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const toast = useUndoToast();
  const [add, { error, isLoading }] = availabilityApi.useAddHoursMutation();
  const people = clinic.people.filter((person) => !onlyResourceId || person.id === onlyResourceId);
  const [typed, setTyped] = useState<Typed>({
    resourceId: people.length === 1 ? people[0].id : (people.find(({ id }) => id === asked.resourceId)?.id ?? ''),
    siteId: clinic.sites.find(({ id }) => id === asked.siteId)?.id ?? '',
    weekdays: [],
    from: '8:00 am',
    to: '12:00 pm',
    everyWeeks: 1,
    effectiveFrom: today,
    effectiveUntil: '',
    typeIds: null,
    kinds: 'any',
    online: true,
    places: 1,
  });
  const [tried, setTried] = useState(false);
  const result = read(typed);
  const faults = tried && !result.ok ? result.faults : {};
  const set = (change: Partial<Typed>) => setTyped((before) => ({ ...before, ...change }));
  const faultOf = (field: string) =>
    faults[field] ? (t(`fault.${faults[field]}`, { defaultValue: t('error.InvalidInput') }) as string) : undefined;
  const submit = async () => {
    setTried(true);
    if (!result.ok) return;
    const saved = await add(result.body);
    if (!('data' in saved) || !saved.data) return;
    toast(
      saved.data.firstDate ? t('hours.saved', { date: dateWords(saved.data.firstDate) }) : t('hours.savedNever'),
      saved.data.undo.id,
    );
    onClose();
  };
  return (
    <form
      noValidate
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
    >
      <h2 className="text-xl font-bold">{t('hours.add')}</h2>
      <Field label={t('hours.who')} error={faultOf('resourceId')}>
        {(given) => (
          <select
            {...given}
            className={CONTROL}
            value={typed.resourceId}
            onChange={(event) => set({ resourceId: event.target.value })}
          >
            <option value="">–</option>
            {people.map((person) => (
              <option key={person.id} value={person.id}>
                {person.name}
              </option>
            ))}
          </select>
        )}
      </Field>
      <Field label={t('hours.where')} error={faultOf('siteId')}>
        {(given) => (
          <select
            {...given}
            className={CONTROL}
            value={typed.siteId}
            onChange={(event) => set({ siteId: event.target.value })}
          >
            <option value="">–</option>
            {clinic.sites.map((site) => (
              <option key={site.id} value={site.id}>
                {site.name}
              </option>
            ))}
          </select>
        )}
      </Field>
      <DayBoxes chosen={typed.weekdays} fault={faultOf('weekdays')} onChange={(weekdays) => set({ weekdays })} />
      <div className="grid grid-cols-2 gap-2">
        <Field label={t('hours.from')} error={faultOf('fromMinute')}>
          {(given) => (
            <input
              {...given}
              className={CONTROL}
              value={typed.from}
              onChange={(event) => set({ from: event.target.value })}
              onBlur={() => tidy(typed.from, (from) => set({ from }))}
            />
          )}
        </Field>
        <Field label={t('hours.until')} error={faultOf('toMinute')}>
          {(given) => (
            <input
              {...given}
              className={CONTROL}
              value={typed.to}
              onChange={(event) => set({ to: event.target.value })}
              onBlur={() => tidy(typed.to, (to) => set({ to }))}
            />
          )}
        </Field>
      </div>
      <Field label={t('hours.every')}>
        {(given) => (
          <select
            {...given}
            className={CONTROL}
            value={typed.everyWeeks}
            onChange={(event) => set({ everyWeeks: Number(event.target.value) })}
          >
            {[1, 2, 3, 4, 6, 8].map((n) => (
              <option key={n} value={n}>
                {t('hours.everyN', { count: n })}
              </option>
            ))}
          </select>
        )}
      </Field>
      <div className="grid grid-cols-2 gap-2">
        <Field label={t('hours.since')} error={faultOf('effectiveFrom')}>
          {(given) => (
            <input
              {...given}
              type="date"
              className={CONTROL}
              value={typed.effectiveFrom}
              onChange={(event) => set({ effectiveFrom: event.target.value })}
            />
          )}
        </Field>
        <Field label={t('hours.last')} error={faultOf('effectiveUntil')}>
          {(given) => (
            <input
              {...given}
              type="date"
              className={CONTROL}
              value={typed.effectiveUntil}
              onChange={(event) => set({ effectiveUntil: event.target.value })}
            />
          )}
        </Field>
      </div>
      <Field label={t('hours.accepts')}>
        {(given) => (
          <select
            {...given}
            className={CONTROL}
            value={typed.kinds}
            onChange={(event) => set({ kinds: event.target.value as Kinds })}
          >
            <option value="any">{t('hours.anyKind')}</option>
            <option value="new">{t('hours.newOnly')}</option>
            <option value="established">{t('hours.establishedOnly')}</option>
            <option value="invited">{t('hours.invitedOnly')}</option>
          </select>
        )}
      </Field>
      <TypeBoxes
        clinic={clinic}
        chosen={typed.typeIds}
        fault={faultOf('acceptsTypeIds')}
        onChange={(typeIds) => set({ typeIds })}
      />
      <label className="flex items-start gap-2">
        <input
          type="checkbox"
          className="mt-0.5 size-4 accent-door"
          checked={typed.online}
          onChange={(event) => set({ online: event.target.checked })}
        />
        <span>
          {t('hours.online')}
          <span className="block text-muted">{t('hours.onlineHint')}</span>
        </span>
      </label>
      <Refusal error={apiError(error)} clinic={clinic} />
      <div className="flex gap-2">
        <Button type="submit" look="main" disabled={isLoading}>
          {t('save')}
        </Button>
        <Button onClick={onClose}>{t('close')}</Button>
      </div>
    </form>
  );
}

/** A time that could be read is written out, so that one sees how it was understood. */
function tidy(text: string, write: (text: string) => void): void {
  const minute = readWallTime(text);
  if (minute !== null) write(wallTime(minute));
}

function Refusal({ error, clinic }: { error: ReturnType<typeof apiError>; clinic: Clinic }) {
  const { t } = useTranslation();
  if (!error) return null;
  const { facts } = error;
  const words =
    error.tag === 'HoursOverlap'
      ? t('fault.overlap', {
          date: dateWords(String(facts.date)),
          from: wallTime(Number(facts.fromMinute)),
          until: wallTime(Number(facts.toMinute)),
          site: clinic.sites.find((site) => site.id === facts.siteId)?.name,
        })
      : t(`error.${error.tag}`, { requestId: error.requestId });
  return (
    <Notice tone="brick" live="assertive">
      {words}
    </Notice>
  );
}

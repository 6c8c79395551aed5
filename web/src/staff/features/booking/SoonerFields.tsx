import { ANY_WISH, type Wish } from '@zaguan/contracts/desk';
import { useTranslation } from 'react-i18next';
import { CONTROL } from '../../../shared/ui/Field.tsx';
import { DayBoxes } from '../../../shared/ui/DayBoxes.tsx';
import { TickField } from '../../../shared/ui/inputs.tsx';
import { accountsApi } from '../accounts/index.ts';
import type { Flow } from './flow.ts';
import { SeveralChoice } from './SeveralChoice.tsx';
import type { SetFlow } from './useFlow.ts';

const EVERY_DAY = [1, 2, 3, 4, 5, 6, 7];
/** Least notices one asks for, in minutes: an hour, two, half a day, a day, two. */
const NOTICES = [60, 120, 720, 1440, 2880] as const;
const DAYTIMES = { any: [0, 1440], morning: [0, 720], afternoon: [720, 1440] } as const;

/** When somebody would come sooner than they are booked. */
export function SoonerFields({ wish, set }: { wish: Wish; set: SetFlow }) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const change = (to: Partial<Wish>) => set({ sooner: { ...wish, ...to } });
  const daytime = (Object.keys(DAYTIMES) as (keyof typeof DAYTIMES)[]).find(
    (name) => DAYTIMES[name][0] === wish.fromMinute && DAYTIMES[name][1] === wish.toMinute,
  );
  const providers = clinic?.people.filter(({ kind }) => kind === 'provider') ?? [];
  return (
    <fieldset className="flex flex-col gap-2 rounded-md border border-line bg-surface px-3 py-2" data-sooner>
      <legend className="px-1 font-semibold">{t('book.sooner')}</legend>
      <DayBoxes
        label={t('find.weekdays')}
        chosen={wish.weekdays ?? EVERY_DAY}
        onChange={(days) => days.length && change({ weekdays: (days.length === 7 ? null : days) as Wish['weekdays'] })}
      />
      <div className="grid grid-cols-2 gap-2">
        <Choice
          label={t('find.hours')}
          value={daytime ?? 'any'}
          options={Object.keys(DAYTIMES).map((name) => [name, t(`find.hourss.${name as 'any'}`)])}
          onChange={(name) => {
            const [fromMinute, toMinute] = DAYTIMES[name as 'any'];
            change({ fromMinute: fromMinute as never, toMinute: toMinute as never });
          }}
        />
        <Choice
          label={t('book.notice')}
          value={String(wish.noticeMin)}
          options={NOTICES.map((minutes) => [String(minutes), t('book.hours', { count: minutes / 60 })])}
          onChange={(minutes) => change({ noticeMin: Number(minutes) })}
        />
        <SeveralChoice
          label={t('book.sites')}
          any={t('find.anySite')}
          options={clinic?.sites ?? []}
          chosen={wish.siteIds}
          onChange={(ids) => change({ siteIds: ids as Wish['siteIds'] })}
        />
        <SeveralChoice
          label={t('book.providers')}
          any={t('find.anyone')}
          options={providers}
          chosen={wish.providerIds}
          onChange={(ids) => change({ providerIds: ids as Wish['providerIds'] })}
        />
      </div>
    </fieldset>
  );
}

/** Whether they would. */
export function SoonerTick({ flow, set }: { flow: Flow; set: SetFlow }) {
  const { t } = useTranslation();
  return (
    <TickField
      name="sooner"
      checked={flow.sooner !== null}
      onChange={(event) => set({ sooner: event.target.checked ? ANY_WISH : null })}
    >
      {t('book.sooner')}
    </TickField>
  );
}

function Choice({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}) {
  return (
    <label className="flex flex-col gap-1 text-sm">
      {label}
      <select className={CONTROL} value={value} onChange={(event) => onChange(event.target.value)}>
        {options.map(([id, name]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

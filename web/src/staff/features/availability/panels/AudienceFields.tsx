import type { OutputOf } from '@zaguan/contracts';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { CONTROL } from '../../../../shared/ui/Field.tsx';
import { SelectField, TextField, TickField } from '../../../../shared/ui/inputs.tsx';
import { TypeBoxes } from '../components/HoursBoxes.tsx';
import { type Audience, NO_LIMIT, type TypedLimit, type HoursFormValues } from './hoursForm.ts';

type Clinic = OutputOf<typeof staffClinic>;
type FaultOf = (field: string) => string | undefined;

/** Which patients, and which visit types. */
export function AudienceFields({
  clinic,
  of,
  fault,
  set,
}: {
  clinic: Clinic;
  of: Audience;
  fault?: string;
  set: (change: Partial<Audience>) => void;
}) {
  const { t } = useTranslation();
  return (
    <>
      <SelectField
        label={t('hours.accepts')}
        value={of.kinds}
        onChange={(event) => set({ kinds: event.target.value as Audience['kinds'] })}
      >
        {(['any', 'new', 'established', 'invited'] as const).map((kind) => (
          <option key={kind} value={kind}>
            {t(KIND_WORDS[kind])}
          </option>
        ))}
      </SelectField>
      <TypeBoxes clinic={clinic} chosen={of.typeIds} fault={fault} onChange={(typeIds) => set({ typeIds })} />
    </>
  );
}

const KIND_WORDS = {
  any: 'hours.anyKind',
  new: 'hours.newOnly',
  established: 'hours.establishedOnly',
  invited: 'hours.invitedOnly',
} as const;

/** From when before each start others are taken too, and who they are. */
export function ReleaseFields({
  clinic,
  typed,
  faultOf,
  set,
}: {
  clinic: Clinic;
  typed: HoursFormValues;
  faultOf: FaultOf;
  set: (change: Partial<HoursFormValues>) => void;
}) {
  const { t } = useTranslation();
  const to = (change: Partial<Audience>) => set({ releaseTo: { ...typed.releaseTo, ...change } });
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="sr-only">{t('schedule.releaseGroup')}</legend>
      <TextField
        label={t('schedule.release')}
        hint={t('schedule.releaseHint')}
        error={faultOf('releaseHours')}
        inputMode="decimal"
        value={typed.releaseHours}
        onChange={(event) => set({ releaseHours: event.target.value })}
      />
      {typed.releaseHours !== '' && (
        <div className="flex flex-col gap-2 border-l-2 border-line pl-3">
          <AudienceFields clinic={clinic} of={typed.releaseTo} fault={faultOf('releaseTypeIds')} set={to} />
          <TickField checked={typed.releaseTo.online} onChange={(event) => to({ online: event.target.checked })}>
            {t('hours.online')}
          </TickField>
        </div>
      )}
    </fieldset>
  );
}

/** How many visits of a kind or type each time, as many limits as there need be. */
export function LimitFields({
  clinic,
  limits,
  faultOf,
  onChange,
}: {
  clinic: Clinic;
  limits: readonly TypedLimit[];
  faultOf: FaultOf;
  onChange: (limits: TypedLimit[]) => void;
}) {
  const { t } = useTranslation();
  const change = (at: number, to: Partial<TypedLimit>) =>
    onChange(limits.map((limit, i) => (i === at ? { ...limit, ...to } : limit)));
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="font-semibold">{t('schedule.limits')}</legend>
      {limits.map((limit, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a limit is what stands in its place
        <div key={i} className="flex flex-col gap-1 rounded-md border border-line px-2 py-2" data-limit={i}>
          <div className="flex items-start gap-2">
            <TextField
              label={t('schedule.limitMost')}
              error={faultOf(`limits.${i}`)}
              inputMode="numeric"
              value={limit.max}
              onChange={(event) => change(i, { max: event.target.value })}
            />
            <Button
              look="plain"
              className="mt-6 shrink-0"
              aria-label={t('schedule.dropLimit', { n: i + 1 })}
              onClick={() => onChange(limits.filter((_, other) => other !== i))}
            >
              ✕
            </Button>
          </div>
          <select
            aria-label={t('schedule.limitKind')}
            className={CONTROL}
            value={limit.kind}
            onChange={(event) => change(i, { kind: event.target.value as TypedLimit['kind'] })}
          >
            {(['any', 'new', 'established'] as const).map((kind) => (
              <option key={kind} value={kind}>
                {t(KIND_WORDS[kind])}
              </option>
            ))}
          </select>
          <select
            aria-label={t('schedule.limitType')}
            className={CONTROL}
            value={limit.typeId}
            onChange={(event) => change(i, { typeId: event.target.value })}
          >
            <option value="">{t('hours.anyType')}</option>
            {clinic.visitTypes.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </div>
      ))}
      {limits.length < 20 && (
        <Button className="self-start" onClick={() => onChange([...limits, NO_LIMIT])}>
          {t('schedule.addLimit')}
        </Button>
      )}
    </fieldset>
  );
}

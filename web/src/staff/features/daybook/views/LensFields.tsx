import { type Role, scopeOf } from '@zaguan/contracts';
import {
  AXES,
  COLORED_BY,
  DENSITIES,
  HOURS_SHOWN,
  LANE_ORDERS,
  LANE_SETS,
  LANE_TOTALS,
  LEAST_HOUR_PX,
  PLATE_DETAILS,
  VIEW_SCOPES,
  type ViewScope,
  type ViewSettings,
  ZOOMS,
} from '@zaguan/contracts/daybook';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import {
  CheckField,
  NumberField,
  type Option,
  RadioField,
  Section,
  SelectField,
  TextField,
  TimeField,
  useValue,
} from '../../../forms/index.ts';
import { OrderField } from './OrderField.tsx';

interface Props {
  readonly role: Role;
  readonly sites: readonly { readonly id: string; readonly name: string }[];
  /** Whose lanes can be listed by name. */
  readonly lanes: readonly Option[];
}

/** For whom somebody of a role may keep a Lens. */
export function scopesFor(role: Role): readonly ViewScope[] {
  const reach = scopeOf(role, 'daybook.share-views');
  return VIEW_SCOPES.filter((scope) =>
    scope === 'personal' ? true : scope === 'shared' ? reach === 'all' : reach !== 'no',
  );
}

const optionsOf = <T extends string>(values: readonly T[], words: (value: T) => string): Option[] =>
  values.map((value) => ({ value, label: words(value) }));

/** Everything that a Lens says, in the order in which one decides it. */
export function LensFields({ role, sites, lanes }: Props) {
  const { t } = useTranslation();
  return (
    <>
      <TextField name="name" label={t('daybookView.name')} maxLength={40} />
      <WhoseFields role={role} sites={sites} />
      <LanesFields lanes={lanes} />
      <HoursFields />
      <VisitFields />
    </>
  );
}

function WhoseFields({ role, sites }: Pick<Props, 'role' | 'sites'>) {
  const { t } = useTranslation();
  const { setValue } = useFormContext();
  const scope = useValue<ViewScope>('scope');
  const scopes = scopesFor(role);
  const keys = Array.from({ length: 9 }, (_, i) => ({ value: String(i + 1), label: String(i + 1) }));
  return (
    <div className="grid grid-cols-2 gap-3">
      <SelectField
        name="scope"
        label={t('daybookView.whose')}
        options={optionsOf(scopes.includes(scope) ? scopes : [...scopes, scope], (each) =>
          t(`daybookView.scope.${each}`),
        )}
        onChosen={(chosen) => setValue('siteId', chosen === 'site' ? (sites[0]?.id ?? null) : null)}
      />
      <NumberChoice name="hotkey" label={t('daybookView.hotkey')} options={keys} none={t('daybookView.noKey')} />
      {scope === 'site' && (
        <SelectField
          name="siteId"
          label={t('daybook.site')}
          options={sites.map(({ id, name }) => ({ value: id, label: name }))}
        />
      )}
    </div>
  );
}

/** A number or nothing: a list box whose value may be `null` at first. */
function NumberChoice(props: { name: string; label: string; options: readonly Option[]; none?: string }) {
  const { setValue } = useFormContext();
  return (
    <SelectField
      {...props}
      onChosen={(chosen) => setValue(props.name, chosen === null ? null : Number(chosen), { shouldDirty: true })}
    />
  );
}

function LanesFields({ lanes }: Pick<Props, 'lanes'>) {
  const { t } = useTranslation();
  const { setValue } = useFormContext();
  const only = useValue<readonly string[] | null>('settings.only');
  return (
    <Section title={t('daybook.lanesOf')}>
      <RadioField
        name="settings.axis"
        label={t('daybookView.axis')}
        options={optionsOf(AXES, (axis) => t(`daybookView.axes.${axis}`))}
      />
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="size-4 accent-accent"
          checked={only !== null}
          onChange={(event) => setValue('settings.only', event.target.checked ? [] : null, { shouldDirty: true })}
        />
        {t('daybookView.onlyThese')}
      </label>
      {only === null ? (
        <div className="grid grid-cols-2 gap-3">
          <SelectField
            name="settings.lanes"
            label={t('daybook.lanesOf')}
            options={optionsOf(LANE_SETS, (set) => t(`daybook.lanes.${set}`))}
          />
          <SelectField
            name="settings.order"
            label={t('daybookView.order')}
            options={optionsOf(LANE_ORDERS, (order) => t(`daybookView.orders.${order}`))}
          />
        </div>
      ) : (
        <OrderField
          name="settings.only"
          label={t('daybookView.these')}
          options={lanes}
          gone={t('daybookView.left')}
          add={t('daybookView.addLane')}
        />
      )}
      <CheckField name="settings.inUseOnly" label={t('daybook.onlyWorking')} />
      <OrderField
        name="settings.totals"
        label={t('daybookView.totals')}
        options={optionsOf(LANE_TOTALS, (total) => t(`daybookView.total.${total}`))}
        add={t('daybookView.addTotal')}
      />
    </Section>
  );
}

function HoursFields() {
  const { t } = useTranslation();
  const hours = useValue<ViewSettings['hours']>('settings.hours');
  return (
    <Section title={t('daybookView.hoursTitle')}>
      <RadioField
        name="settings.hours"
        label={t('daybookView.hoursShown')}
        options={optionsOf(HOURS_SHOWN, (each) => t(`daybookView.hoursBy.${each}`))}
      />
      {hours === 'fixed' && (
        <div className="grid grid-cols-2 gap-3">
          <TimeField name="settings.fromMinute" label={t('daybookView.from')} orNull />
          <TimeField name="settings.toMinute" label={t('daybookView.until')} orNull />
        </div>
      )}
      <div className="grid grid-cols-2 gap-3">
        <NumberChoice
          name="settings.zoom"
          label={t('daybookView.width')}
          options={ZOOMS.map((zoom) => ({
            value: String(zoom),
            label: zoom === 1 ? t('daybookView.fits') : `× ${zoom}`,
          }))}
        />
        <NumberField
          name="settings.leastHourPx"
          label={t('daybookView.leastHour')}
          hint={t('daybookView.leastHourHint', { min: LEAST_HOUR_PX.min, max: LEAST_HOUR_PX.max })}
          step={5}
        />
      </div>
      <SelectField
        name="settings.density"
        label={t('daybookView.density')}
        options={optionsOf(DENSITIES, (each) => t(`daybookView.densities.${each}`))}
      />
    </Section>
  );
}

function VisitFields() {
  const { t } = useTranslation();
  return (
    <Section title={t('daybookView.visits')} note={t('daybookView.visitsNote')}>
      <OrderField
        name="settings.details"
        label={t('daybookView.details')}
        options={optionsOf(PLATE_DETAILS, (detail) => t(`daybookView.detail.${detail}`))}
        add={t('daybookView.addDetail')}
      />
      <SelectField
        name="settings.coloredBy"
        label={t('daybookView.coloredBy')}
        options={optionsOf(COLORED_BY, (by) => t(`daybookView.colors.${by}`))}
      />
      <CheckField name="settings.card" label={t('daybookView.card')} />
      <CheckField
        name="settings.namesHidden"
        label={t('daybookView.hideNames')}
        hint={t('daybookView.hideNamesHint')}
      />
    </Section>
  );
}

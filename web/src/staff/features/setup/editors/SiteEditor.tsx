import { useTranslation } from 'react-i18next';
import { weekdayNames } from '../../../../shared/time/format.ts';
import {
  CheckField,
  DateField,
  ManyField,
  NumberField,
  PairField,
  Section,
  SelectField,
  TextField,
  TimeField,
} from '../../../forms/index.ts';
import { NameInTextsField } from '../components/NameInTextsField.tsx';
import type { FieldOf } from '../fieldWords.ts';
import { useRefs } from '../hooks/useRefs.ts';
import { useToday } from '../hooks/useToday.ts';
import { AccessField } from './AccessField.tsx';
import { ClosureImport } from './ClosureImport.tsx';
import { ListRows } from './ListRows.tsx';
import { SitePoint } from './SitePoint.tsx';

/** Zones of the United States (IANA tz database, zone1970.tab); others can be imported from a file. */
const ZONES = [
  'America/New_York',
  'America/Detroit',
  'America/Indiana/Indianapolis',
  'America/Chicago',
  'America/Denver',
  'America/Boise',
  'America/Phoenix',
  'America/Los_Angeles',
  'America/Anchorage',
  'Pacific/Honolulu',
  'America/Puerto_Rico',
].map((value) => ({ value, label: value.replace('_', ' ') }));

export function SiteEditor({ id }: { id: string | null }) {
  const { t } = useTranslation();
  const w = (field: FieldOf<'site'>) => t(`setup.site.${field}`);
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        <TextField name="name" label={w('name')} required />
        <TextField name="code" label={w('code')} hint={t('setup.hint.code')} required />
      </div>
      <NameInTextsField name="publicName" label={w('publicName')} />
      <SelectField name="timeZone" label={w('timeZone')} options={ZONES} required />
      <CheckField name="bookableOnline" label={w('bookableOnline')} hint={t('setup.hint.siteOnline')} />
      <AccessField hint={t('setup.hint.siteAccess')} />
      <Address />
      <SiteHours />
      <Closures />
      <Travel id={id} />
    </>
  );
}

/** Where it is, how it is reached, and the way there. */
function Address() {
  const { t } = useTranslation();
  return (
    <Section title={t('setup.section.address')}>
      <TextField name="addressLine" label={t('setup.site.addressLine')} required />
      <div className="grid grid-cols-[1fr_70px_110px] items-end gap-3">
        <TextField name="city" label={t('setup.site.city')} required />
        <TextField name="region" label={t('setup.site.region')} required />
        <TextField name="postalCode" label={t('setup.site.postalCode')} required />
      </div>
      <div className="grid grid-cols-2 gap-3">
        <TextField name="phone" label={t('setup.site.phone')} required />
        <TextField name="email" label={t('setup.site.email')} orNull />
      </div>
      <ListRows name="morePhones" add={t('setup.add.phone')} blank={() => ({ label: '', phone: '' })}>
        {(at) => (
          <div className="grid grid-cols-2 gap-3">
            <TextField name={`${at}.label`} label={t('setup.phoneLabel')} />
            <TextField name={`${at}.phone`} label={t('setup.phone')} />
          </div>
        )}
      </ListRows>
      <PairField name="directions" label={t('setup.site.directions')} rows={3} />
      <SitePoint />
    </Section>
  );
}

/** When it is open; hours of people may follow these. */
function SiteHours() {
  const { t } = useTranslation();
  const today = useToday();
  return (
    <Section title={t('setup.site.hours')} note={t('setup.hint.siteHours')}>
      <ListRows
        name="hours"
        add={t('setup.add.hours')}
        empty={t('setup.noSiteHours')}
        blank={() => ({
          weekdays: [1, 2, 3, 4, 5],
          fromMinute: 480,
          toMinute: 1020,
          everyWeeks: 1,
          effectiveFrom: today,
          effectiveUntil: null,
        })}
      >
        {(at) => (
          <div className="flex flex-col gap-2 rounded-md border border-line bg-panel p-2">
            <ManyField
              name={`${at}.weekdays`}
              label={t('hours.days')}
              options={weekdayNames().map((label, i) => ({ value: String(i + 1), label }))}
            />
            <div className="grid grid-cols-2 gap-2">
              <TimeField name={`${at}.fromMinute`} label={t('hours.from')} />
              <TimeField name={`${at}.toMinute`} label={t('hours.until')} />
              <DateField name={`${at}.effectiveFrom`} label={t('hours.since')} />
              <DateField name={`${at}.effectiveUntil`} label={t('hours.last')} orNull />
              <SelectField
                name={`${at}.everyWeeks`}
                label={t('hours.every')}
                options={[1, 2, 3, 4].map((n) => ({ value: String(n), label: t('hours.everyN', { count: n }) }))}
              />
            </div>
          </div>
        )}
      </ListRows>
    </Section>
  );
}

/** Days and parts of days on which it is closed. */
function Closures() {
  const { t } = useTranslation();
  const today = useToday();
  return (
    <Section title={t('setup.site.closures')} note={t('setup.hint.closures')}>
      <ClosureImport />
      <ListRows
        name="closures"
        add={t('setup.add.closure')}
        empty={t('setup.noClosures')}
        blank={() => ({ startDate: today, startMinute: 0, endDate: today, endMinute: 1440, reason: '', uid: null })}
      >
        {(at) => (
          <div className="grid grid-cols-[1fr_90px_1fr_90px] gap-2">
            <DateField name={`${at}.startDate`} label={t('setup.from')} />
            <TimeField name={`${at}.startMinute`} label={t('setup.at')} />
            <DateField name={`${at}.endDate`} label={t('setup.to')} />
            <TimeField name={`${at}.endMinute`} label={t('setup.at')} />
            <div className="col-span-4">
              <TextField name={`${at}.reason`} label={t('setup.why')} />
            </div>
          </div>
        )}
      </ListRows>
    </Section>
  );
}

/** How long the way to other sites takes. */
function Travel({ id }: { id: string | null }) {
  const { t } = useTranslation();
  const refs = useRefs();
  return (
    <Section title={t('setup.site.travel')} note={t('setup.hint.travel')}>
      <ListRows name="travel" add={t('setup.add.travel')} blank={() => ({ siteId: '', minutes: 30 })}>
        {(at) => (
          <div className="grid grid-cols-2 gap-3">
            <SelectField
              name={`${at}.siteId`}
              label={t('setup.otherSite')}
              options={refs.sites.filter(({ value }) => value !== id)}
            />
            <NumberField name={`${at}.minutes`} label={t('setup.minutes')} step={5} />
          </div>
        )}
      </ListRows>
    </Section>
  );
}

import type { OutputOf } from '@zaguan/contracts';
import type { staffClinic } from '@zaguan/contracts/clinic';
import { zoneDay } from '@zaguan/core/time';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateAt, formatDate, timeOf } from '../../../../shared/time/format.ts';
import { SelectField } from '../../../../shared/ui/inputs.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { useRecords } from '../../setup/index.ts';
import { openingsApi } from '../openings.api.ts';
import type { PlaceAndTime } from '../placeAndTime.ts';
import { WhyNotAnswers } from './WhyNotAnswers.tsx';

type Clinic = OutputOf<typeof staffClinic>;

/** For whom it is asked. */
interface Criteria {
  readonly visitTypeId: string;
  readonly kind: 'new' | 'established';
  readonly payerId: string;
  /** Asked for the holder of an invitation of this template; empty: of none. */
  readonly templateId: string;
}

/** Asks the server why a start is or is not offered, and can be pointed at any provider and time by keyboard. */
export function WhyNotPanel(props: {
  asked: PlaceAndTime;
  /** What was looked for, where that is known. */
  criteria?: Omit<Criteria, 'payerId' | 'templateId'> & { readonly channel: 'online' | 'desk' };
  onChange: (asked: PlaceAndTime) => void;
}) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  if (!clinic?.sites.length) return null;
  return (
    <div className="flex flex-col gap-3" data-testid="why-not">
      <h2 className="text-xl font-bold">{t('whyNot.title')}</h2>
      <Asked clinic={clinic} {...props} />
    </div>
  );
}

function Asked({ clinic, asked, criteria, onChange }: Parameters<typeof WhyNotPanel>[0] & { clinic: Clinic }) {
  const { t } = useTranslation();
  const [chosen, setChosen] = useState<Criteria>({
    visitTypeId: criteria?.visitTypeId ?? '',
    kind: criteria?.kind ?? 'established',
    payerId: '',
    templateId: '',
  });
  const site = clinic.sites.find((row) => row.id === asked.siteId) ?? clinic.sites[0];
  const here = providersOf(clinic).filter((person) => person.siteIds.includes(site.id));
  const lane = here.find((row) => row.id === asked.resourceId) ?? here[0];
  const visitTypeId = chosen.visitTypeId || clinic.visitTypes[0]?.id || '';
  const { data, error } = openingsApi.useWhyNotQuery(
    {
      visitTypeId,
      siteId: site.id,
      providerId: lane?.id,
      kind: chosen.kind,
      channel: criteria?.channel ?? 'online',
      start: asked.start,
      payerId: chosen.payerId || undefined,
      templateId: chosen.templateId || undefined,
    },
    { skip: !visitTypeId || !lane },
  );
  const refused = apiError(error);
  const of = { siteId: site.id, resourceId: lane?.id ?? '', visitTypeId, date: dateAt(asked.start, site.timeZone) };
  return (
    <>
      <PlaceAndTimeFields
        clinic={clinic}
        asked={{ ...asked, siteId: site.id, resourceId: of.resourceId }}
        zone={site.timeZone}
        date={of.date}
        onChange={onChange}
      />
      <CriteriaFields
        clinic={clinic}
        chosen={{ ...chosen, visitTypeId }}
        onChange={(to) => setChosen({ ...chosen, ...to })}
      />
      {refused && (
        <Notice tone="danger" live="assertive">
          {t(`error.${refused.tag}`, { requestId: refused.requestId })}
        </Notice>
      )}
      {data && <WhyNotAnswers found={data} of={of} zone={site.timeZone} />}
    </>
  );
}

function PlaceAndTimeFields({
  clinic,
  asked,
  zone,
  date,
  onChange,
}: {
  clinic: Clinic;
  asked: PlaceAndTime;
  zone: string;
  date: string;
  onChange: (asked: PlaceAndTime) => void;
}) {
  const { t } = useTranslation();
  const places = clinic.sites.flatMap((site) =>
    providersOf(clinic)
      .filter(({ siteIds }) => siteIds.includes(site.id))
      .map((person) => ({ id: `${site.id} ${person.id}`, name: `${person.name}, ${site.name}` })),
  );
  return (
    <>
      <SelectField
        label={t('whyNot.lane')}
        value={`${asked.siteId} ${asked.resourceId}`}
        onChange={(event) => {
          const [siteId, resourceId] = event.target.value.split(' ');
          onChange({ ...asked, siteId, resourceId });
        }}
        options={places}
      />
      <SelectField
        label={t('whyNot.at')}
        hint={formatDate(date)}
        value={asked.start}
        onChange={(event) => onChange({ ...asked, start: event.target.value })}
      >
        {startsOf(zone, date).map((start) => (
          <option key={start} value={start}>
            {timeOf(start, zone)}
          </option>
        ))}
      </SelectField>
    </>
  );
}

function CriteriaFields({
  clinic,
  chosen,
  onChange,
}: {
  clinic: Clinic;
  chosen: Criteria;
  onChange: (change: Partial<Criteria>) => void;
}) {
  const { t } = useTranslation();
  const templates = useRecords('invitation-template').filter(({ active }) => active);
  return (
    <>
      <SelectField
        label={t('whyNot.type')}
        value={chosen.visitTypeId}
        onChange={(event) => onChange({ visitTypeId: event.target.value })}
        options={clinic.visitTypes}
      />
      {clinic.payers.length > 0 && (
        <SelectField
          label={t('whyNot.payer')}
          value={chosen.payerId}
          onChange={(event) => onChange({ payerId: event.target.value })}
          none={t('whyNot.noPayer')}
          options={clinic.payers}
        />
      )}
      {templates.length > 0 && (
        <SelectField
          label={t('whyNot.invitation')}
          value={chosen.templateId}
          onChange={(event) => onChange({ templateId: event.target.value })}
          none={t('whyNot.noInvitation')}
          options={templates.map(({ id, doc }) => ({ id, name: doc.name }))}
        />
      )}
      <SelectField
        label={t('whyNot.kind')}
        value={chosen.kind}
        onChange={(event) => onChange({ kind: event.target.value as Criteria['kind'] })}
      >
        <option value="established">{t('visit.kind.established')}</option>
        <option value="new">{t('visit.kind.new')}</option>
      </SelectField>
    </>
  );
}

function providersOf({ people }: Clinic) {
  return people.filter(({ kind }) => kind === 'provider');
}

/** Every five minutes of the site's day. */
function startsOf(zone: string, date: string): string[] {
  const day = zoneDay(zone, date);
  const starts: string[] = [];
  for (let at = day.start; at < day.end; at += 5) starts.push(new Date(at * 60_000).toISOString());
  return starts;
}

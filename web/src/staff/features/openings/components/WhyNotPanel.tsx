import { zoneDay } from '@zaguan/core/time';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateAt, formatDate, timeOf } from '../../../../shared/time/format.ts';
import { SelectField } from '../../../../shared/ui/inputs.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { openingsApi } from '../openings.api.ts';
import { factLines } from '../../../words.facts.en.ts';
import { whereSet } from '../whereSet.ts';

interface Asked {
  readonly siteId: string;
  readonly resourceId: string;
  readonly start: string;
}

/** Asks the server why a start is or is not offered, and can be pointed at any provider and time by keyboard. */
export function WhyNotPanel({
  asked,
  criteria,
  onChange,
}: {
  asked: Asked;
  /** What was looked for, where that is known. */
  criteria?: {
    readonly visitTypeId: string;
    readonly kind: 'new' | 'established';
    readonly channel: 'online' | 'desk';
  };
  onChange: (asked: Asked) => void;
}) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const [typeId, setTypeId] = useState(criteria?.visitTypeId ?? '');
  const [kind, setKind] = useState<'new' | 'established'>(criteria?.kind ?? 'established');
  const [payerId, setPayerId] = useState('');
  const site = clinic?.sites.find((row) => row.id === asked.siteId) ?? clinic?.sites[0];
  const providers = clinic?.people.filter((person) => person.kind === 'provider') ?? [];
  const here = providers.filter((person) => site && person.siteIds.includes(site.id));
  const lane = here.find((row) => row.id === asked.resourceId) ?? here[0];
  const visitTypeId = typeId || clinic?.visitTypes[0]?.id || '';
  const query = openingsApi.useWhyNotQuery(
    {
      visitTypeId,
      siteId: site?.id ?? '',
      providerId: lane?.id,
      kind,
      channel: criteria?.channel ?? 'online',
      start: asked.start,
      payerId: payerId || undefined,
    },
    { skip: !visitTypeId || !lane || !site },
  );
  const error = apiError(query.error);
  const failed = query.data?.answers.filter((answer) => !answer.passed) ?? [];
  const passed = query.data?.answers.filter((answer) => answer.passed && answer.applies) ?? [];
  if (!site) return null;
  const date = dateAt(asked.start, site.timeZone);
  const of = { siteId: site.id, resourceId: lane?.id ?? '', visitTypeId, date };
  return (
    <div className="flex flex-col gap-3" data-testid="why-not">
      <h2 className="text-xl font-bold">{t('whyNot.title')}</h2>
      <SelectField
        label={t('whyNot.lane')}
        value={`${site.id} ${lane?.id}`}
        onChange={(event) => {
          const [siteId, resourceId] = event.target.value.split(' ');
          onChange({ ...asked, siteId, resourceId });
        }}
      >
        {clinic?.sites.flatMap((row) =>
          providers
            .filter((each) => each.siteIds.includes(row.id))
            .map((each) => (
              <option key={`${row.id} ${each.id}`} value={`${row.id} ${each.id}`}>
                {each.name}, {row.name}
              </option>
            )),
        )}
      </SelectField>
      <SelectField
        label={t('whyNot.at')}
        hint={formatDate(date)}
        value={asked.start}
        onChange={(event) => onChange({ ...asked, start: event.target.value })}
      >
        {startsOf(site.timeZone, date).map((start) => (
          <option key={start} value={start}>
            {timeOf(start, site.timeZone)}
          </option>
        ))}
      </SelectField>
      <SelectField
        label={t('whyNot.type')}
        value={visitTypeId}
        onChange={(event) => setTypeId(event.target.value)}
        options={clinic?.visitTypes}
      />
      {clinic && clinic.payers.length > 0 && (
        <SelectField
          label={t('whyNot.payer')}
          value={payerId}
          onChange={(event) => setPayerId(event.target.value)}
          none={t('whyNot.noPayer')}
          options={clinic.payers}
        />
      )}
      <SelectField
        label={t('whyNot.kind')}
        value={kind}
        onChange={(event) => setKind(event.target.value as 'new' | 'established')}
      >
        <option value="established">{t('visit.kind.established')}</option>
        <option value="new">{t('visit.kind.new')}</option>
      </SelectField>
      {error && (
        <Notice tone="danger" live="assertive">
          {t(`error.${error.tag}`, { requestId: error.requestId })}
        </Notice>
      )}
      {query.data?.offered && <Notice tone="success">{t('whyNot.offered')}</Notice>}
      {failed.length > 0 && query.data && (
        <div aria-live="polite">
          <p className="mb-1.5 font-bold">{t('whyNot.hidden', { count: failed.length })}</p>
          <ul className="flex flex-col gap-2">
            {failed.map((answer) => (
              <li
                key={answer.code}
                data-code={answer.code}
                className="rounded-md border border-line border-l-4 border-l-warning bg-panel px-3 py-1.5"
              >
                <p className="font-bold">{t(`whyNot.code.${answer.code}`)}</p>
                {factLines(answer, query.data?.names ?? {}, site.timeZone).map((line) => (
                  <p key={line}>{line}</p>
                ))}
                <span className="flex flex-wrap gap-x-4">
                  <Link
                    to={`/help/availability#${answer.code}`}
                    className="inline-block leading-[24px] text-accent underline"
                  >
                    {t('whyNot.meaning')}
                  </Link>
                  <SetAt to={whereSet(answer.code, of)} />
                </span>
              </li>
            ))}
          </ul>
        </div>
      )}
      {passed.length > 0 && (
        <details>
          <summary className="cursor-pointer text-muted">{t('whyNot.passed', { count: passed.length })}</summary>
          <ul className="mt-1 list-disc pl-5 text-muted">
            {passed.map((answer) => (
              <li key={answer.code}>
                {t(`whyNot.code.${answer.code}`)} <SetAt to={whereSet(answer.code, of)} />
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

/** The way to where a rule's value is set. */
function SetAt({ to }: { to: string | null }) {
  const { t } = useTranslation();
  if (!to) return null;
  return (
    <Link to={to} className="inline-block leading-[24px] text-accent underline">
      {t('whyNot.setAt')}
    </Link>
  );
}

/** Every five minutes of the site's day. */
function startsOf(zone: string, date: string): string[] {
  const day = zoneDay(zone, date);
  const starts: string[] = [];
  for (let at = day.start; at < day.end; at += 5) starts.push(new Date(at * 60_000).toISOString());
  return starts;
}

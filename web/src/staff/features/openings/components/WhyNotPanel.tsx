import type { DaybookDay } from '@zaguan/contracts/daybook';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { timeOf } from '../../../../shared/time/format.ts';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { openingsApi } from '../openings.api.ts';
import { factLines } from '../factWords.ts';

interface Asked {
  readonly siteId: string;
  readonly resourceId: string;
  readonly start: string;
}

/** Asks the server why a start is or is not offered online, and can be pointed at any lane and time by keyboard. */
export function WhyNotPanel({
  day,
  asked,
  onChange,
}: {
  day: DaybookDay;
  asked: Asked;
  onChange: (asked: Asked) => void;
}) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const [typeId, setTypeId] = useState('');
  const [kind, setKind] = useState<'new' | 'established'>('established');
  const [payerId, setPayerId] = useState('');
  const site = day.sites.find((row) => row.id === asked.siteId) ?? day.sites[0];
  const lanes = site.lanes.filter((lane) => lane.kind === 'provider');
  const lane = lanes.find((row) => row.resourceId === asked.resourceId) ?? lanes[0];
  const visitTypeId = typeId || clinic?.visitTypes[0]?.id || '';
  const query = openingsApi.useWhyNotQuery(
    {
      visitTypeId,
      siteId: site.id,
      providerId: lane?.resourceId,
      kind,
      channel: 'online',
      start: asked.start,
      payerId: payerId || undefined,
    },
    { skip: !visitTypeId || !lane },
  );
  const error = apiError(query.error);
  const failed = query.data?.answers.filter((answer) => !answer.passed) ?? [];
  const passed = query.data?.answers.filter((answer) => answer.passed && answer.applies) ?? [];
  return (
    <div className="flex flex-col gap-3" data-testid="why-not">
      <h2 className="text-xl font-bold">{t('whyNot.title')}</h2>
      <Field label={t('whyNot.lane')}>
        {(given) => (
          <select
            {...given}
            className={CONTROL}
            value={`${site.id} ${lane?.resourceId}`}
            onChange={(event) => {
              const [siteId, resourceId] = event.target.value.split(' ');
              onChange({ ...asked, siteId, resourceId });
            }}
          >
            {day.sites.flatMap((row) =>
              row.lanes
                .filter((each) => each.kind === 'provider')
                .map((each) => (
                  <option key={each.id} value={`${row.id} ${each.resourceId}`}>
                    {each.name}, {row.name}
                  </option>
                )),
            )}
          </select>
        )}
      </Field>
      <Field label={t('whyNot.at')}>
        {(given) => (
          <select
            {...given}
            className={CONTROL}
            value={asked.start}
            onChange={(event) => onChange({ ...asked, start: event.target.value })}
          >
            {startsOf(site).map((start) => (
              <option key={start} value={start}>
                {timeOf(start, site.timeZone)}
              </option>
            ))}
          </select>
        )}
      </Field>
      <Field label={t('whyNot.type')}>
        {(given) => (
          <select
            {...given}
            className={CONTROL}
            value={visitTypeId}
            onChange={(event) => setTypeId(event.target.value)}
          >
            {clinic?.visitTypes.map((type) => (
              <option key={type.id} value={type.id}>
                {type.name}
              </option>
            ))}
          </select>
        )}
      </Field>
      {clinic && clinic.payers.length > 0 && (
        <Field label={t('whyNot.payer')}>
          {(given) => (
            <select {...given} className={CONTROL} value={payerId} onChange={(event) => setPayerId(event.target.value)}>
              <option value="">{t('whyNot.noPayer')}</option>
              {clinic.payers.map((payer) => (
                <option key={payer.id} value={payer.id}>
                  {payer.name}
                </option>
              ))}
            </select>
          )}
        </Field>
      )}
      <Field label={t('whyNot.kind')}>
        {(given) => (
          <select
            {...given}
            className={CONTROL}
            value={kind}
            onChange={(event) => setKind(event.target.value as 'new' | 'established')}
          >
            <option value="established">{t('visit.kind.established')}</option>
            <option value="new">{t('visit.kind.new')}</option>
          </select>
        )}
      </Field>
      {error && (
        <Notice tone="brick" live="assertive">
          {t(`error.${error.tag}`, { requestId: error.requestId })}
        </Notice>
      )}
      {query.data?.offered && <Notice tone="door">{t('whyNot.offered')}</Notice>}
      {failed.length > 0 && query.data && (
        <div aria-live="polite">
          <p className="mb-1.5 font-bold">{t('whyNot.hidden', { count: failed.length })}</p>
          <ul className="flex flex-col gap-2">
            {failed.map((answer) => (
              <li
                key={answer.code}
                data-code={answer.code}
                className="rounded-md border border-line border-l-4 border-l-ochre bg-panel px-3 py-1.5"
              >
                <p className="font-bold">{t(`whyNot.code.${answer.code}`)}</p>
                {factLines(answer, query.data?.names ?? {}, site.timeZone).map((line) => (
                  <p key={line}>{line}</p>
                ))}
                <Link to={`/help/availability#${answer.code}`} className="text-door underline">
                  {t('whyNot.meaning')}
                </Link>
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
              <li key={answer.code}>{t(`whyNot.code.${answer.code}`)}</li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

/** Every five minutes of the site's day. */
function startsOf(site: DaybookDay['sites'][number]): string[] {
  const starts: string[] = [];
  for (let at = Date.parse(site.dayStart); at < Date.parse(site.dayEnd); at += 300_000)
    starts.push(new Date(at).toISOString());
  return starts;
}

import type { Lane, LaneTotal, SiteDay } from '@zaguan/contracts/daybook';
import type { TFunction } from 'i18next';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { accountsApi } from '../../accounts/index.ts';
import { isPerson } from '../layout.ts';
import { type LaneTotals, laneTotals } from './laneTotals.ts';
import { useView } from './viewContext.ts';

/** Credentials, and what the Lens adds up of a lane's day. */
export function LaneTotalsLine({ lane, site }: { lane: Lane; site: SiteDay }) {
  const { t } = useTranslation();
  const { totals: shown } = useView();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const fees = useMemo(() => new Map(clinic?.visitTypes.map((type) => [type.id, type.expectedFeeUsd])), [clinic]);
  const totals = useMemo(() => laneTotals(lane, site, (id) => fees.get(id) ?? null), [lane, site, fees]);
  const lines = shown.map((total) => inWords(total, lane, totals, t)).filter(Boolean);
  const [first = '', ...rest] = lines;
  return (
    <>
      <p className="truncate text-xs text-muted">{[lane.detail, first].filter(Boolean).join(' · ')}</p>
      {rest.map((line) => (
        <p key={line} className="truncate text-xs text-muted">
          {line}
        </p>
      ))}
    </>
  );
}

function inWords(total: LaneTotal, lane: Lane, { visits, booked, open, feesUsd }: LaneTotals, t: TFunction): string {
  switch (total) {
    case 'share':
      if (!isPerson(lane)) return '';
      return lane.booked === null ? t('daybook.noHours') : t('daybook.full', { share: Math.round(lane.booked * 100) });
    case 'visits':
      return t('daybook.visits', { count: visits });
    case 'booked':
      return t('daybookView.booked', { time: hoursAndMinutes(booked, t) });
    case 'open':
      // A thing without hours of its own is open whenever nobody takes it: there is nothing to add up.
      return lane.hoursBands.length ? t('daybookView.open', { time: hoursAndMinutes(open, t) }) : '';
    case 'fees':
      return t('daybookView.fees', { fees: USD.format(feesUsd) });
  }
}

const USD = new Intl.NumberFormat('en-US', { style: 'currency', currency: 'USD', maximumFractionDigits: 0 });

function hoursAndMinutes(minutes: number, t: TFunction): string {
  const hours = Math.floor(minutes / 60);
  if (!hours) return t('daybookView.minutes', { minutes });
  return minutes % 60
    ? t('daybookView.hoursMinutes', { hours, minutes: minutes % 60 })
    : t('daybookView.hours', { hours });
}

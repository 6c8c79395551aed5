import { FOLLOWED, type Followed as FollowedStep, type PlanFunnel } from '@zaguan/contracts/invitations';
import { FUNNEL_STEPS } from '@zaguan/core/invitations';
import { addMonths } from '@zaguan/core/time';
import { lazy, Suspense } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Page } from '../../../shell/Page.tsx';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';
import { SidePanel } from '../../../shell/SidePanel.tsx';
import { useAddress } from '../../../shell/useAddress.ts';
import { useClinicTime } from '../../accounts/index.ts';
import { useRecords } from '../../setup/index.ts';
import { Followed } from '../Followed.tsx';
import { invitationsApi } from '../invitations.api.ts';

// The chart's library comes with the page that draws one.
const FunnelChart = lazy(() => import('./FunnelChart.tsx').then((module) => ({ default: module.FunnelChart })));

const isStep = (text: string | null): text is FollowedStep => FOLLOWED.some((step) => step === text);

/** How far the people of a plan came who were invited since a date; each number opens them. */
export function FunnelPage() {
  const { t } = useTranslation();
  const { planId = '' } = useParams();
  const { asked, set } = useAddress();
  const { today } = useClinicTime();
  const since = asked.get('since') ?? (today ? addMonths(today, -3) : null);
  const plan = useRecords('recall-plan').find(({ id }) => id === planId);
  const query = invitationsApi.usePlanFunnelQuery({ planId, since: since ?? '' }, { skip: since === null });
  const step = asked.get('step');
  return (
    <div className="flex min-h-0 min-w-0 flex-1">
      <Page
        title={t('invite.funnel.title', { plan: plan?.doc.name ?? '' })}
        note={
          <Link className="underline" to={`/outreach/plans/${planId}`}>
            {t('invite.funnel.back')}
          </Link>
        }
        query={query}
        toolbar={
          <label className="flex items-center gap-2 border-b border-line px-4 py-2">
            {t('invite.funnel.since')}
            <input
              type="date"
              className="rounded-md border border-line-strong bg-panel px-2 py-1"
              value={since ?? ''}
              onChange={(event) => set({ since: event.target.value || null })}
            />
          </label>
        }
      >
        {(funnel) => (
          <div className="flex flex-wrap gap-8">
            <Steps funnel={funnel} open={step} onOpen={(each) => set({ step: each }, true)} />
            <Suspense fallback={<div className="h-80 w-[28rem] animate-pulse rounded-md bg-highlight" />}>
              <FunnelChart
                label={t('invite.funnel.chart')}
                bars={FUNNEL_STEPS.map((each) => ({
                  name: t(`invite.funnel.${each}`),
                  count: funnel.steps[each] ?? 0,
                }))}
              />
            </Suspense>
          </div>
        )}
      </Page>
      {isStep(step) && since !== null && (
        <StepPanel planId={planId} since={since} step={step} onClose={() => set({ step: null }, true)} />
      )}
    </div>
  );
}

interface StepsProps {
  readonly funnel: PlanFunnel;
  readonly open: string | null;
  readonly onOpen: (step: FollowedStep) => void;
}

/** The same as a table. */
function Steps({ funnel, open, onOpen }: StepsProps) {
  const { t } = useTranslation();
  const { due, steps, notReached, declined, later, expired } = funnel;
  const invited = steps.invited ?? 0;
  const ended = { 'not-reached': notReached, declined, later, expired } as const;
  const row = (step: FollowedStep, count: number) => (
    <tr key={step} className={`border-b border-line ${open === step ? 'bg-accent-subtle' : ''}`}>
      <th scope="row" className="py-1 pr-6 text-left font-normal">
        {t(`invite.funnel.${step}`)}
      </th>
      <td className="py-1 pr-6 text-right tabular-nums">
        {count ? (
          <Button look="plain" className="px-0 py-0 font-bold underline" data-step={step} onClick={() => onOpen(step)}>
            {count}
          </Button>
        ) : (
          <span data-step={step}>0</span>
        )}
      </td>
      <td className="py-1 text-right text-muted tabular-nums">
        {invited ? t('invite.funnel.percent', { n: Math.round((100 * count) / invited) }) : '–'}
      </td>
    </tr>
  );
  return (
    <table className="self-start">
      <caption className="mb-2 text-left font-bold">{t('invite.funnel.table', { count: due })}</caption>
      <thead>
        <tr className="text-left">
          <th scope="col" className="py-1 pr-6">
            {t('invite.funnel.step')}
          </th>
          <th scope="col" className="py-1 pr-6 text-right">
            {t('invite.funnel.people')}
          </th>
          <th scope="col" className="py-1 text-right">
            {t('invite.funnel.share')}
          </th>
        </tr>
      </thead>
      <tbody>
        {FUNNEL_STEPS.map((step) => row(step, steps[step] ?? 0))}
        {(Object.keys(ended) as (keyof typeof ended)[]).map((step) => row(step, ended[step]))}
      </tbody>
    </table>
  );
}

interface StepPanelProps {
  readonly planId: string;
  readonly since: string;
  readonly step: FollowedStep;
  readonly onClose: () => void;
}

/** The people behind a number. */
function StepPanel({ planId, since, step, onClose }: StepPanelProps) {
  const { t } = useTranslation();
  const query = invitationsApi.usePlanInvitedQuery({ planId, since, step });
  const title = t(`invite.funnel.${step}`);
  return (
    <SidePanel label={title} about={step} className="w-[520px]" onClose={onClose}>
      <h2 className="text-xl font-bold">{title}</h2>
      {!query.currentData && <QueryFrame query={query} bars={4} />}
      <ul className="mt-2">
        {query.currentData?.invitations.map((each) => (
          <Followed key={each.id} of={each} withName />
        ))}
      </ul>
      {query.currentData?.invitations.length === 0 && <p className="text-muted">{t('invite.funnel.nobody')}</p>}
      {query.currentData?.more && <p className="text-muted">{t('invite.funnel.more')}</p>}
    </SidePanel>
  );
}

import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import { type OutputOf, scopeOf } from '@zaguan/contracts';
import type { GuideGap, setupGuide } from '@zaguan/contracts/setup';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { codeWords } from '../../../../shared/i18n/codeWords.ts';
import { ArchMark } from '../../../../shared/arch/ArchMark.tsx';
import { formatDate } from '../../../../shared/time/format.ts';
import { accountsApi } from '../../accounts/index.ts';
import { setupApi } from '../setup.api.ts';
import { SetupFrame } from './SetupFrame.tsx';

type NotOnline = OutputOf<typeof setupGuide>['notOnline'][number];

/** Where each step is done. */
const PAGE_OF: Record<string, string> = {
  people: '/setup/person',
  sites: '/setup/site',
  hours: '/availability',
  rooms: '/setup/place',
  'visit-types': '/setup/visit-type',
  online: '/setup/online',
  messages: '/setup/clinic',
  forms: '/setup/visit-type',
};
const SHAPE = { done: 'filled', gaps: 'half', missing: 'outline' } as const;
const SHOWN_GAPS = 5;

/** "Allergy injection (Canal Row, Mesa Court)": each type once, with its sites. */
function byType(rows: readonly { readonly siteName: string; readonly types: readonly string[] }[]): string {
  const sites = new Map<string, string[]>();
  for (const { siteName, types } of rows)
    for (const type of types) sites.set(type, [...(sites.get(type) ?? []), siteName]);
  return [...sites].map(([type, names]) => `${type} (${names.join(', ')})`).join('; ');
}

/** The form for hours, with whose and where filled in. */
function hoursOf(person: string | null, site: unknown): string {
  return `/availability?${new URLSearchParams({ person: person ?? '', ...(typeof site === 'string' && { site }) })}`;
}

/** Where to change what keeps a provider from being booked online. */
function whereOnline({ id, code, field, facts }: NotOnline): string {
  if (field) return `/setup/person?open=${id}&field=${field}`;
  if (code === 'no-type') return '/setup/online';
  if (code === 'site-off') return `/setup/site?open=${facts.siteId}&field=bookableOnline`;
  return hoursOf(id, facts.siteId);
}

/** A link to the exact field at which a gap is closed. */
function whereOf(gap: GuideGap): string {
  if (gap.kind === 'hours') return hoursOf(gap.id, gap.facts.siteId);
  if (gap.kind === 'guide') return '/setup/guide';
  const query = new URLSearchParams({ ...(gap.id && { open: gap.id }), ...(gap.field && { field: gap.field }) });
  return `/setup/${gap.kind}${query.size ? `?${query}` : ''}`;
}

/** What is missing; a link for whom may close the gap. */
function GapLine({ gap, to }: { gap: GuideGap; to: string | null }) {
  const { t } = useTranslation();
  const words = codeWords(t, 'setup.gap', gap.code, gap.facts, codeWords(t, 'fault', gap.code, gap.facts));
  return to === null ? (
    <>
      {words} <span className="text-muted">{t('setup.guide.managers')}</span>
    </>
  ) : (
    <Link className="inline-block min-h-7 underline" to={to}>
      {words}
    </Link>
  );
}

/** What is set up and what is missing, in the order in which one thing needs another; asked anew after each change. */
export function GuidePage() {
  const { t } = useTranslation();
  const query = setupApi.useGuideQuery({}, { refetchOnMountOrArgChange: true });
  const { data } = query;
  const role = accountsApi.useWhoAmIQuery({}).data?.me?.role;
  const mayManage = role !== undefined && scopeOf(role, 'accounts.manage') !== 'no';
  const online = new Set(data?.online.flatMap(({ providers }) => providers)).size;
  return (
    <SetupFrame title={t('setup.place.guide')} note={t('setup.guide.note')} query={query}>
      {data && (
        <ScrollRegion className="min-h-0 flex-1 p-4" aria-label={t('setup.place.guide')}>
          <div className="mb-4 rounded-md border border-line-strong bg-panel px-4 py-3" data-guide="online">
            <p className="text-lg font-bold">
              {online
                ? t('setup.guide.online', {
                    providers: t('setup.guide.nProviders', { count: online }),
                    sites: t('setup.guide.nSites', { count: data.online.length }),
                  })
                : t('setup.guide.nobodyOnline')}
            </p>
            <ul className="mt-1 columns-2 gap-8">
              {data.notOnline.map((row) => (
                <li key={row.id} className="break-inside-avoid py-0.5">
                  {t('setup.guide.isNot', {
                    name: row.name,
                    why: t(`setup.notOnline.${row.code}`, {
                      ...row.facts,
                      ...(row.facts.date && { date: formatDate(String(row.facts.date)) }),
                    }),
                  })}{' '}
                  <Link className="inline-block min-h-7 underline" to={whereOnline(row)}>
                    {t('setup.guide.change')}
                  </Link>
                </li>
              ))}
            </ul>
            {data.withoutProvider.length > 0 && (
              <p className="mt-1 text-muted">{t('setup.guide.without', { list: byType(data.withoutProvider) })}</p>
            )}
          </div>
          <ol className="flex flex-col gap-2">
            {data.steps.map((step, i) => (
              <li
                key={step.step}
                data-step={step.step}
                data-state={step.state}
                className="flex gap-3 rounded-md border border-line bg-panel px-4 py-2.5"
              >
                <span className={step.state === 'done' ? 'text-accent' : 'text-warning'}>
                  <ArchMark shape={SHAPE[step.state]} label={t(`setup.guide.${step.state}`)} size={26} />
                </span>
                <div className="min-w-0 flex-1">
                  <p>
                    <Link
                      className="inline-block min-h-7 font-bold underline underline-offset-2"
                      to={PAGE_OF[step.step]}
                    >
                      {i + 1}. {t(`setup.step.${step.step}.title`)}
                    </Link>{' '}
                    <span className="text-muted">{t(`setup.step.${step.step}.count`, { count: step.count })}</span>
                  </p>
                  {step.state === 'missing' && <p>{t(`setup.step.${step.step}.blocks`)}</p>}
                  <ul>
                    {step.gaps.slice(0, SHOWN_GAPS).map((gap, n) => (
                      // biome-ignore lint/suspicious/noArrayIndexKey: gaps have no id of their own
                      <li key={n} data-gap={gap.code} className={gap.blocks ? 'text-danger' : ''}>
                        <GapLine gap={gap} to={gap.kind === 'account' && !mayManage ? null : whereOf(gap)} />
                      </li>
                    ))}
                    {step.gaps.length > SHOWN_GAPS && (
                      <li className="text-muted">{t('setup.guide.more', { count: step.gaps.length - SHOWN_GAPS })}</li>
                    )}
                  </ul>
                </div>
              </li>
            ))}
          </ol>
        </ScrollRegion>
      )}
    </SetupFrame>
  );
}

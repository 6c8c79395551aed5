import type { PolicyDoc } from '@zaguan/contracts/setup';
import { settlePolicy } from '@zaguan/core/openings';
import type { TFunction } from 'i18next';
import { wallTime } from '../../../../shared/time/format.ts';

/** What a policy comes to at a site for a provider, in one sentence; the search settles it by the same function. */
export function formatPolicy(
  policies: readonly PolicyDoc[],
  siteId: string,
  providerId: string | null,
  t: TFunction,
): string {
  const rows = policies.map((row, i) => ({ ...row, id: String(i), visitTypeId: 'draft' }));
  const settled = settlePolicy(rows, 'draft', siteId, providerId);
  if (!settled.offered.value) return t('setup.policy.notOffered');
  const kinds = settled.kinds.value;
  const lead = settled.leadMin.value;
  const by = settled.leadBy.value;
  return [
    t('setup.policy.offered', {
      whom: t(`setup.policy.whom.${kinds.length === 2 ? 'all' : kinds[0]}`),
      days: settled.windowDays.value,
      grid: settled.gridMin.value,
    }),
    lead > 0 &&
      t(lead % 60 === 0 ? 'setup.policy.leadHours' : 'setup.policy.leadMinutes', {
        count: lead % 60 === 0 ? lead / 60 : lead,
      }),
    by && t('setup.policy.leadBy', { time: wallTime(by.byMinute), count: by.workingDays }),
  ]
    .filter(Boolean)
    .join(' ');
}

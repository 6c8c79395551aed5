import { type ClinicIndex, needsProvider, searchOpenings, type SearchCriteria } from '../openings/index.ts';
import type { PatientKind } from '../availability/index.ts';
import { addDays, type EpochMinute, type LocalDate } from '../time/index.ts';

export const REACH_CODES = [
  'switched-off',
  'no-type',
  'no-hours',
  'site-off',
  'hours-end',
  'desk-only',
  'nothing-free',
] as const;
export type ReachCode = (typeof REACH_CODES)[number];

/** Why patients can't book a provider online, the first thing in the way named. */
export type ReachReason =
  | { readonly code: 'switched-off' }
  | { readonly code: 'no-type' }
  | { readonly code: 'no-hours' }
  | { readonly code: 'site-off'; readonly siteId: string }
  /** The hours at this site end with this date, and nothing is free until then. */
  | { readonly code: 'hours-end'; readonly siteId: string; readonly date: LocalDate }
  | { readonly code: 'desk-only' }
  | { readonly code: 'nothing-free'; readonly siteId: string };

export interface OnlineReach {
  /** Sites at which somebody can be booked, with the first start and who can. */
  readonly sites: readonly {
    readonly siteId: string;
    readonly providerIds: readonly string[];
    readonly first: EpochMinute;
  }[];
  /** Types without a provider that have a start at a site. */
  readonly withoutProvider: readonly { readonly siteId: string; readonly typeIds: readonly string[] }[];
  readonly notOnline: readonly { readonly providerId: string; readonly reason: ReachReason }[];
}

const KINDS: readonly PatientKind[] = ['new', 'established'];

/**
 * Whom patients could book online now, at which sites, and what is in the way of the others: the openings search
 * itself is asked, so that this can't say otherwise than the patients' page.
 *
 * @param days how far ahead it is looked, at most what the store was loaded for
 */
export function onlineReach(index: ClinicIndex, days: number): OnlineReach {
  const providers = index.plan.resources.filter(({ kind }) => kind === 'provider');
  const sites = index.plan.sites.map(({ id: siteId }) => {
    const found = providers.flatMap(({ id }) => {
      const first = firstStart(index, siteId, id, days);
      return first === null ? [] : [{ id, first }];
    });
    return {
      siteId,
      providerIds: found.map(({ id }) => id),
      first: Math.min(...found.map(({ first }) => first)),
    };
  });
  const reached = new Set(sites.flatMap(({ providerIds }) => providerIds));
  return {
    sites: sites.filter(({ providerIds }) => providerIds.length),
    withoutProvider: index.plan.sites.flatMap(({ id: siteId }) => {
      const typeIds = index.plan.visitTypes
        .filter((type) => !needsProvider(type) && firstOfType(index, type.id, siteId, null, days) !== null)
        .map(({ id }) => id);
      return typeIds.length ? [{ siteId, typeIds }] : [];
    }),
    notOnline: providers
      .filter(({ id }) => !reached.has(id))
      .map(({ id }) => ({ providerId: id, reason: reasonFor(index, id) })),
  };
}

function firstStart(index: ClinicIndex, siteId: string, providerId: string, days: number): EpochMinute | null {
  for (const type of index.plan.visitTypes) {
    if (!needsProvider(type) || (type.providerIds && !type.providerIds.includes(providerId))) continue;
    const first = firstOfType(index, type.id, siteId, providerId, days);
    if (first !== null) return first;
  }
  return null;
}

function firstOfType(
  index: ClinicIndex,
  visitTypeId: string,
  siteId: string,
  providerId: string | null,
  days: number,
): EpochMinute | null {
  const policy = index.policy(visitTypeId, siteId, providerId);
  if (!policy.offered.value) return null;
  const from = index.today(siteId).date;
  const until = addDays(from, Math.min(days, policy.windowDays.value));
  for (const kind of KINDS) {
    if (!policy.kinds.value.includes(kind)) continue;
    const criteria: SearchCriteria = { visitTypeId, kind, channel: 'online' };
    const found = searchOpenings(index, criteria, {
      siteIds: [siteId],
      providerIds: providerId === null ? null : [providerId],
      from,
      until,
    }).next();
    if (!found.done) return found.value.start;
  }
  return null;
}

function reasonFor(index: ClinicIndex, providerId: string): ReachReason {
  const { plan } = index;
  if (!index.resource(providerId).bookableOnline) return { code: 'switched-off' };
  const workingHours = plan.workingHours.filter(
    ({ subject }) => subject.of === 'resource' && subject.id === providerId,
  );
  const siteIds = [...new Set(workingHours.map(({ siteId }) => siteId))];
  if (!siteIds.length) return { code: 'no-hours' };
  const offeredAt = siteIds.filter((siteId) =>
    plan.visitTypes.some(
      (type) =>
        needsProvider(type) &&
        (type.providerIds === null || type.providerIds.includes(providerId)) &&
        (type.siteIds === null || type.siteIds.includes(siteId)) &&
        index.policy(type.id, siteId, providerId).offered.value,
    ),
  );
  if (!offeredAt.length) return { code: 'no-type' };
  const open = offeredAt.filter((siteId) => index.site(siteId).bookableOnline);
  if (!open.length) return { code: 'site-off', siteId: offeredAt[0] };
  const last = lastDate(workingHours.filter(({ siteId }) => open.includes(siteId)));
  if (last) return { code: 'hours-end', ...last };
  const shown =
    workingHours.some((hoursRow) => hoursRow.online || hoursRow.release?.online) ||
    plan.brush.some((stroke) => stroke.resourceId === providerId && stroke.value === 'shown');
  return shown ? { code: 'nothing-free', siteId: open[0] } : { code: 'desk-only' };
}

/** The last date of hours that all end; `null` if any go on. */
function lastDate(
  workingHours: readonly { readonly siteId: string; readonly rule: { readonly effectiveUntil: LocalDate | null } }[],
): { siteId: string; date: LocalDate } | null {
  let last: { siteId: string; date: LocalDate } | null = null;
  for (const { siteId, rule } of workingHours) {
    if (rule.effectiveUntil === null) return null;
    if (last === null || rule.effectiveUntil > last.date) last = { siteId, date: rule.effectiveUntil };
  }
  return last;
}

import type { ClinicPlan, Facts } from '../openings/index.ts';
import { lengthOf, type Need, type Part, providerSpan, type VisitType } from '../visits/index.ts';

/** Why a visit type as drafted can be booked nowhere, at any time. */
export interface TypeFault {
  readonly code:
    | 'pool-nowhere'
    | 'needs-more-than-there-are'
    | 'device-twice'
    | 'part-longer-than-hours'
    | 'longer-than-any-hours'
    | 'nobody-able'
    | 'bound-to-other-pool';
  /** Part and need it stands at; -1 for the type as a whole. */
  readonly part: number;
  readonly need: number;
  readonly facts: Facts;
}

/**
 * Finds what makes a visit type impossible, whatever is booked: a pool that no site has, parts that need more of a
 * pool than any site has, hours too short for it. What is possible somewhere is no fault. Hours are only judged where
 * there are any.
 */
export function visitTypeFaults(plan: ClinicPlan, type: VisitType): TypeFault[] {
  const sites = plan.sites.filter(({ id }) => type.siteIds === null || type.siteIds.includes(id)).map(({ id }) => id);
  return [
    ...type.parts.flatMap((part, at) => partFaults(plan, sites, part, at)),
    ...boundFaults(type),
    ...hoursFaults(plan, sites, type),
  ];
}

function partFaults(plan: ClinicPlan, sites: readonly string[], part: Part, at: number): TypeFault[] {
  const faults: TypeFault[] = [];
  const fault = (code: TypeFault['code'], need: Need, facts: Facts) =>
    faults.push({ code, part: at, need: part.needs.indexOf(need), facts });
  const sizeAt = (siteId: string, kind: string) =>
    plan.pools.find((pool) => pool.siteId === siteId && pool.kind === kind)?.memberIds.length ?? 0;
  const seen = new Map<string, number>();
  for (const need of part.needs) {
    if (need.what === 'present' && !plan.resources.some(({ capabilities }) => capabilities.includes(need.capability)))
      fault('nobody-able', need, { capability: need.capability });
    if (need.what === 'resource') {
      const times = (seen.get(need.resourceId) ?? 0) + 1;
      seen.set(need.resourceId, times);
      if (times > 1) fault('device-twice', need, { resourceId: need.resourceId });
    }
    if (need.what !== 'pool') continue;
    const largest = Math.max(0, ...sites.map((siteId) => sizeAt(siteId, need.poolKind)));
    // Needs of one part are served at once: each takes a member of its own.
    const times = (seen.get(need.poolKind) ?? 0) + 1;
    seen.set(need.poolKind, times);
    if (largest === 0) fault('pool-nowhere', need, { poolKind: need.poolKind });
    else if (times > largest)
      fault('needs-more-than-there-are', need, { poolKind: need.poolKind, needed: times, largest });
  }
  return faults;
}

/** What must be the same member must come from the same pool, or be the same kind of thing. */
function boundFaults(type: VisitType): TypeFault[] {
  const all = type.parts.flatMap((part, at) => part.needs.map((need, i) => ({ need, at, i })));
  return all.flatMap(({ need, at, i }) => {
    const other = all.find(({ need: { key } }) => key === need.sameAs)?.need;
    if (!other) return [];
    const poolOf = (each: Need) => (each.what === 'pool' ? each.poolKind : each.what);
    return poolOf(other) === poolOf(need)
      ? []
      : [{ code: 'bound-to-other-pool' as const, part: at, need: i, facts: { need: need.key, other: other.key } }];
  });
}

function hoursFaults(plan: ClinicPlan, sites: readonly string[], type: VisitType): TypeFault[] {
  const span = providerSpan(type);
  const performers = span
    ? (type.providerIds ?? plan.resources.filter(({ kind }) => kind === 'provider').map(({ id }) => id))
    : null;
  const workingHours = plan.workingHours.filter(
    (hoursRow) =>
      sites.includes(hoursRow.siteId) &&
      !hoursRow.followsSiteHours &&
      (performers === null || (hoursRow.subject.of === 'resource' && performers.includes(hoursRow.subject.id))),
  );
  if (!workingHours.length) return [];
  const faults: TypeFault[] = [];
  // The day of one person at one site, from the first minute to the last: a break may lie in the middle of a visit.
  const days = new Map<string, { from: number; to: number }>();
  let longest = 0;
  for (const { subject, siteId, rule, fromMinute, toMinute } of workingHours) {
    longest = Math.max(longest, toMinute - fromMinute);
    for (const weekday of rule.weekdays) {
      const key = `${subject.id}|${siteId}|${weekday}`;
      const day = days.get(key);
      days.set(key, { from: Math.min(day?.from ?? 1440, fromMinute), to: Math.max(day?.to ?? 0, toMinute) });
    }
  }
  const longestDay = Math.max(...[...days.values()].map(({ from, to }) => to - from));
  const needed = span ? span.toMin - span.fromMin : lengthOf(type);
  if (needed > longestDay)
    faults.push({
      code: 'longer-than-any-hours',
      part: -1,
      need: -1,
      facts: { lengthMin: needed, longestMin: longestDay },
    });
  type.parts.forEach((part, at) => {
    const need = part.needs.findIndex(({ what }) => what === 'provider');
    if (need >= 0 && part.lengthMin > longest && part.lengthMin <= longestDay)
      faults.push({
        code: 'part-longer-than-hours',
        part: at,
        need,
        facts: { lengthMin: part.lengthMin, longestMin: longest },
      });
  });
  return faults;
}

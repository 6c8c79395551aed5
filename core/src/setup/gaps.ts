import { type ClinicPlan, type Facts, needsProvider } from '../openings/index.ts';
import type { LocalDate } from '../time/index.ts';
import { visitTypeFaults } from './visitTypeFaults.ts';

export type GuideStep = 'people' | 'sites' | 'hours' | 'rooms' | 'visit-types' | 'online' | 'messages' | 'forms';

/** What the plan of the search does not know. */
export interface SetupFacts {
  readonly plan: ClinicPlan;
  readonly today: LocalDate;
  /** Providers and staff who are at these sites. */
  readonly sitesOf: ReadonlyMap<string, readonly string[]>;
  readonly accounts: { readonly managers: number; readonly invited: number };
  readonly clinicHasPhone: boolean;
  /** Visit types that ask for at least one form or consent. */
  readonly typesWithPapers: ReadonlySet<string>;
  /** Texts patients read that one language lacks: a record's id and field. */
  readonly missingWords: readonly {
    readonly kind: 'site' | 'visit-type';
    readonly id: string;
    readonly field: string;
  }[];
}

export interface Gap {
  readonly step: GuideStep;
  readonly code: string;
  /** What comes later does not work without it. */
  readonly blocks: boolean;
  readonly kind: 'clinic' | 'site' | 'person' | 'place' | 'pool' | 'visit-type' | 'account' | 'hours';
  readonly id: string | null;
  readonly field: string | null;
  readonly facts: Facts;
}

const gap = (step: GuideStep, code: string, at: Partial<Gap> & Pick<Gap, 'kind'>): Gap => ({
  step,
  code,
  blocks: false,
  id: null,
  field: null,
  facts: {},
  ...at,
});

/**
 * What is missing on the way from nothing to patients who book online, in the order in which one thing needs another:
 * people, sites, hours, rooms, visit types, online, messages, forms.
 */
export function setupGaps(facts: SetupFacts): Gap[] {
  return [
    ...peopleGaps(facts),
    ...siteGaps(facts),
    ...hoursGaps(facts),
    ...roomGaps(facts),
    ...typeGaps(facts),
    ...onlineGaps(facts),
    ...(facts.clinicHasPhone
      ? []
      : [gap('messages', 'clinic-no-phone', { kind: 'clinic', field: 'phone', blocks: true })]),
    ...formGaps(facts),
  ];
}

function peopleGaps({ plan, sitesOf, accounts }: SetupFacts): Gap[] {
  const people = plan.resources.filter(({ kind }) => kind === 'provider' || kind === 'staff');
  const gaps = people
    .filter(({ id }) => !sitesOf.get(id)?.length)
    .map(({ id }) => gap('people', 'person-no-site', { kind: 'person', id, field: 'siteIds' }));
  if (!people.some(({ kind }) => kind === 'provider'))
    gaps.unshift(gap('people', 'no-provider', { kind: 'person', blocks: true }));
  if (accounts.managers < 2)
    gaps.push(gap('people', 'one-manager', { kind: 'account', field: 'role', facts: { managers: accounts.managers } }));
  if (accounts.invited > 0)
    gaps.push(gap('people', 'invited', { kind: 'account', facts: { count: accounts.invited } }));
  return gaps;
}

function siteGaps({ plan, missingWords }: SetupFacts): Gap[] {
  if (!plan.sites.length) return [gap('sites', 'no-site', { kind: 'site', blocks: true })];
  return [
    ...plan.sites
      .filter(({ id }) => !plan.siteHours.some(({ siteId }) => siteId === id))
      .map(({ id }) => gap('sites', 'site-no-hours', { kind: 'site', id, field: 'hours', blocks: true })),
    ...words(missingWords, 'site', 'sites'),
  ];
}

function words(missing: SetupFacts['missingWords'], kind: 'site' | 'visit-type', step: GuideStep): Gap[] {
  return missing
    .filter((row) => row.kind === kind)
    .map(({ id, field }) => gap(step, 'words-missing', { kind, id, field, facts: { field } }));
}

function hoursGaps({ plan, sitesOf, today }: SetupFacts): Gap[] {
  return plan.resources
    .filter(({ kind }) => kind === 'provider' || kind === 'staff')
    .flatMap(({ id }) =>
      (sitesOf.get(id) ?? []).flatMap((siteId) => {
        const pools = plan.pools.filter(({ memberIds }) => memberIds.includes(id)).map((pool) => pool.id);
        const mine = plan.workingHours.filter(
          (hoursRow) =>
            hoursRow.siteId === siteId &&
            (hoursRow.subject.of === 'resource' ? hoursRow.subject.id === id : pools.includes(hoursRow.subject.id)),
        );
        if (mine.some(({ rule }) => rule.effectiveUntil === null || rule.effectiveUntil >= today)) return [];
        return [
          gap('hours', 'person-no-hours', { kind: 'hours', id, blocks: true, facts: { resourceId: id, siteId } }),
        ];
      }),
    );
}

function roomGaps({ plan }: SetupFacts): Gap[] {
  const asked = new Map<string, string[]>();
  for (const type of plan.visitTypes)
    for (const need of type.parts.flatMap((part) => part.needs))
      if (need.what === 'pool') asked.set(need.poolKind, [...(asked.get(need.poolKind) ?? []), type.id]);
  const gaps: Gap[] = [];
  for (const [kind, typeIds] of asked)
    if (!plan.pools.some((pool) => pool.kind === kind))
      gaps.push(
        gap('rooms', 'pool-missing', { kind: 'pool', blocks: true, facts: { poolKind: kind, typeId: typeIds[0] } }),
      );
  for (const pool of plan.pools)
    if (!pool.memberIds.length)
      gaps.push(
        gap('rooms', 'pool-empty', { kind: 'pool', id: pool.id, field: 'memberIds', blocks: asked.has(pool.kind) }),
      );
  return gaps;
}

function typeGaps({ plan, missingWords }: SetupFacts): Gap[] {
  if (!plan.visitTypes.length) return [gap('visit-types', 'no-type', { kind: 'visit-type', blocks: true })];
  return [
    ...plan.visitTypes.flatMap((type) => [
      ...(type.parts.length
        ? []
        : [
            gap('visit-types', 'type-no-parts', {
              kind: 'visit-type' as const,
              id: type.id,
              field: 'parts',
              blocks: true,
            }),
          ]),
      ...visitTypeFaults(plan, type).map(({ code, facts }) =>
        gap('visit-types', code, { kind: 'visit-type', id: type.id, field: 'parts', blocks: true, facts }),
      ),
    ]),
    ...words(missingWords, 'visit-type', 'visit-types'),
  ];
}

function onlineGaps({ plan }: SetupFacts): Gap[] {
  const gaps: Gap[] = [];
  if (!plan.policies.some(({ offered }) => offered))
    gaps.push(gap('online', 'nothing-offered', { kind: 'visit-type', field: 'policies', blocks: true }));
  for (const site of plan.sites)
    if (!site.bookableOnline)
      gaps.push(gap('online', 'site-off', { kind: 'site', id: site.id, field: 'bookableOnline' }));
  const withProvider = plan.visitTypes.some(needsProvider);
  if (withProvider && !plan.resources.some(({ kind, bookableOnline }) => kind === 'provider' && bookableOnline))
    gaps.push(gap('online', 'no-provider-online', { kind: 'person', field: 'bookableOnline', blocks: true }));
  return gaps;
}

function formGaps({ plan, typesWithPapers }: SetupFacts): Gap[] {
  return plan.visitTypes
    .filter(({ id }) => !typesWithPapers.has(id) && plan.policies.some((row) => row.visitTypeId === id && row.offered))
    .map(({ id }) => gap('forms', 'no-papers', { kind: 'visit-type', id, field: 'formIds' }));
}

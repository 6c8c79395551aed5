import type { InputOf, OutputOf } from '@zaguan/contracts';
import type {
  AccountDoc,
  ClinicDoc,
  PersonDoc,
  setupGuide,
  SetupRecord,
  SiteDoc,
  VisitTypeDoc,
} from '@zaguan/contracts/setup';
import { GUIDE_STEPS } from '@zaguan/contracts/setup';
import { ClinicIndex } from '@zaguan/core/openings';
import { type Gap, onlineReach, type ReachReason, setupGaps } from '@zaguan/core/setup';
import { addDays } from '@zaguan/core/time';
import { type Ctx, earliestDate, nowMinute } from '../../platform/endpoint/context.ts';
import { readRecords } from './records.ts';
import { plainFacts } from './rules.ts';

/** As far as a patient looks ahead in most visit types. */
const LOOK_AHEAD_DAYS = 90;

/** Which field of which record a reason is put right in. */
const FIELD_OF: Record<ReachReason['code'], string | null> = {
  'switched-off': 'bookableOnline',
  'no-type': null,
  'no-hours': null,
  'site-off': null,
  'hours-end': null,
  'desk-only': null,
  'nothing-free': null,
};

const active = <D>(records: readonly SetupRecord<D>[]) => records.filter((record) => record.active);

/** What is set up, what each gap blocks, and whom patients can book now: worked out anew at each call. */
export async function guide(ctx: Ctx, _input: InputOf<typeof setupGuide>): Promise<OutputOf<typeof setupGuide>> {
  const read = async <D>(kind: Parameters<typeof readRecords>[1]) => active(await readRecords<D>(ctx.em, kind, null));
  const [clinic] = await read<ClinicDoc>('clinic');
  const sites = await read<SiteDoc>('site');
  const people = await read<PersonDoc>('person');
  const types = await read<VisitTypeDoc>('visit-type');
  const accounts = await read<AccountDoc>('account');
  const now = nowMinute(ctx);
  const today = earliestDate(ctx);
  const store = await ctx.clinic({ from: addDays(today, -1), until: addDays(today, LOOK_AHEAD_DAYS + 2) });
  const reach = onlineReach(new ClinicIndex(store, now), LOOK_AHEAD_DAYS);
  const gaps = setupGaps({
    plan: store.plan,
    today,
    sitesOf: new Map(people.map(({ id, doc }) => [id, doc.siteIds])),
    accounts: {
      managers: accounts.filter(({ doc }) => doc.role === 'manager' && doc.state !== 'invited').length,
      invited: accounts.filter(({ doc }) => doc.state === 'invited').length,
    },
    clinicHasPhone: Boolean(clinic?.doc.phone),
    typesWithPapers: new Set(types.flatMap(({ id, doc }) => (doc.formIds.length + doc.consentIds.length ? [id] : []))),
    missingWords: [
      ...sites.flatMap(({ id, doc }) =>
        lacking(doc, 'directions').map((field) => ({ kind: 'site' as const, id, field })),
      ),
      ...types.flatMap(({ id, doc }) =>
        (['description', 'preparation'] as const).flatMap((what) =>
          lacking(doc, what).map((field) => ({ kind: 'visit-type' as const, id, field })),
        ),
      ),
    ],
  });
  const nameOf = new Map<string, string>([
    ...sites.map(({ id, doc }): [string, string] => [id, doc.name]),
    ...people.map(({ id, doc }): [string, string] => [id, doc.name]),
    ...types.map(({ id, doc }): [string, string] => [id, doc.name]),
    ...accounts.map(({ id, doc }): [string, string] => [id, doc.name]),
    ...store.plan.pools.map(({ id, kind, siteId }): [string, string] => [
      id,
      `${kind}, ${sites.find((site) => site.id === siteId)?.doc.name ?? ''}`,
    ]),
  ]);
  const name = (id: string) => nameOf.get(id) ?? '';
  const counts: Record<(typeof GUIDE_STEPS)[number], number> = {
    people: people.length,
    sites: sites.length,
    hours: store.plan.workingHours.length,
    rooms: store.plan.resources.filter(({ kind }) => kind === 'room' || kind === 'equipment').length,
    'visit-types': types.length,
    online: new Set(reach.sites.flatMap(({ providerIds }) => providerIds)).size || reach.withoutProvider.length,
    messages: clinic?.doc.phone ? 1 : 0,
    forms: types.filter(({ doc }) => doc.formIds.length > 0).length,
  };
  return {
    online: reach.sites.map(({ siteId, providerIds, first }) => ({
      siteName: name(siteId),
      providers: providerIds.map(name),
      first: new Date(first * 60_000).toISOString(),
    })),
    withoutProvider: reach.withoutProvider.map(({ siteId, typeIds }) => ({
      siteName: name(siteId),
      types: typeIds.map(name),
    })),
    notOnline: reach.notOnline.map(({ providerId, reason }) => ({
      id: providerId,
      name: name(providerId),
      code: reason.code,
      facts: {
        ...('siteId' in reason && { site: name(reason.siteId), siteId: reason.siteId }),
        ...('date' in reason && { date: reason.date }),
      },
      field: FIELD_OF[reason.code],
    })),
    steps: GUIDE_STEPS.map((step) => {
      const own = gaps.filter((gap) => gap.step === step);
      return {
        step,
        state: counts[step] === 0 ? ('missing' as const) : own.length ? ('gaps' as const) : ('done' as const),
        count: counts[step],
        gaps: own.map((gap) => toWireGap(gap, name)),
      };
    }),
  };
}

/** The language in which a text stands that the other one lacks; none if it stands in neither. */
function lacking(doc: object, what: string): string[] {
  const values = doc as Record<string, unknown>;
  const [en, es] = [`${what}En`, `${what}Es`];
  if (Boolean(values[en]) === Boolean(values[es])) return [];
  return [values[en] ? es : en];
}

function toWireGap(gap: Gap, name: (id: string) => string) {
  const { step: _step, facts, ...rest } = gap;
  const named = Object.fromEntries(
    [...Object.entries(facts), ['name', gap.id ?? '']].flatMap(([key, value]) => {
      const known = typeof value === 'string' ? name(value) : '';
      return known ? [[key.replace(/Id$/, ''), known]] : [];
    }),
  );
  return { ...rest, facts: { ...plainFacts(facts), ...named } };
}

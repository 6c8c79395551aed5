import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { isDeepStrictEqual } from 'node:util';
import type { InputOf, OutputOf } from '@zaguan/contracts';
import {
  EMPTY_POLICY,
  type openOnline as openContract,
  type PersonDoc,
  type previewOnline as onlineContract,
  type previewVisitType as typeContract,
  type SiteDoc,
  type VisitTypeDoc,
} from '@zaguan/contracts/setup';
import { placesLeft } from '@zaguan/core/booking';
import {
  ClinicIndex,
  type ClinicSnapshot,
  ClinicStore,
  type Code,
  CODES,
  openDays,
  providersToTry,
  whyNot,
  type SearchCriteria,
} from '@zaguan/core/openings';
import { visitTypeFaults } from '@zaguan/core/setup';
import { addDays, cellsOf, countCells, epochOfCell, epochToWall, wallToEpoch, weekdayOf } from '@zaguan/core/time';
import { type Ctx, earliestDate, nowMinute } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { loadSnapshot } from '../openings/index.ts';
import { readRecords, saveRecords } from './records.ts';
import { plainFacts } from './rules.ts';
import { toPolicies, toVisitType } from './toVisitType.ts';

interface Draft {
  readonly id: string;
  readonly doc: VisitTypeDoc;
}

/** The clinic as it would be with the draft in place; its own, so that counting may put visits into it. */
function withDraft(snapshot: ClinicSnapshot, { id, doc }: Draft): ClinicStore {
  const others = <T extends { readonly visitTypeId: string | null }>(rows: readonly T[]) =>
    rows.filter((row) => row.visitTypeId !== id);
  return new ClinicStore({
    ...snapshot,
    visitTypes: [...snapshot.visitTypes.filter((type) => type.id !== id), toVisitType(id, doc)],
    policies: [...others(snapshot.policies), ...toPolicies(id, doc)],
    caps: [...others(snapshot.caps), ...doc.caps.map((row, i) => ({ ...row, id: `draft ${i}`, visitTypeId: id }))],
  });
}

const sitesOf = async (ctx: Ctx) => (await readRecords<SiteDoc>(ctx.em, 'site', null)).filter((site) => site.active);

/** Start times and places of next week, Monday to Sunday, by site; what the desk could book. */
export async function previewVisitType(
  ctx: Ctx,
  draft: InputOf<typeof typeContract>,
): Promise<OutputOf<typeof typeContract>> {
  const now = nowMinute(ctx);
  const asked = await sitesOf(ctx);
  // The clinic's week turns where its first site is.
  const today = epochToWall(asked[0]?.doc.timeZone ?? 'UTC', now).date;
  const from = addDays(today, 8 - weekdayOf(today));
  const until = addDays(from, 6);
  const store = withDraft(
    await loadSnapshot(ctx.em, { from: addDays(from, -1), until: addDays(until, 1) }, ctx.now),
    draft,
  );
  const index = new ClinicIndex(store, now);
  const faults = visitTypeFaults(store.plan, index.visitType(draft.id)).map(({ code, part, need, facts }) => ({
    path: part < 0 ? 'parts' : need < 0 ? `parts.${part}` : `parts.${part}.needs.${need}`,
    code,
    facts: plainFacts(facts),
  }));
  const criteria: SearchCriteria = { visitTypeId: draft.id, kind: 'established', channel: 'desk' };
  const sites = asked.map(({ id, doc }) => {
    const starts = count(index, criteria, id, from, until).starts;
    return {
      siteId: id,
      name: doc.name,
      starts,
      places: starts ? placesLeft(store, now, { criteria, siteId: id, from, until }) : 0,
      hiddenBy: starts ? null : mostHiding(index, criteria, id, someProviders(index, criteria), from),
    };
  });
  return { from, until, sites, faults };
}

function count(index: ClinicIndex, criteria: SearchCriteria, siteId: string, from: string, until: string) {
  const range = { siteIds: [siteId], providerIds: null, from, until };
  const days = new Set<string>();
  let starts = 0;
  let first: { start: number; providerId: string | null } | null = null;
  for (const { day, providerId, starts: mask } of openDays(index, criteria, range)) {
    const n = countCells(mask);
    if (!n) continue;
    starts += n;
    days.add(day.date);
    const start = epochOfCell(day, cellsOf(mask)[0]);
    if (!first || start < first.start) first = { start, providerId };
  }
  return { starts, days: days.size, first };
}

/** Half-hours of a working day at which it is asked what is in the way. */
const ASKED_AT = Array.from({ length: 18 }, (_, i) => 480 + i * 30);

/**
 * What is worth looking at first where there is no start: of the starts asked about, those that came nearest to being
 * offered (fewest rules against them), and the rule that most of these fail.
 */
function mostHiding(
  index: ClinicIndex,
  criteria: SearchCriteria,
  siteId: string,
  providers: readonly (string | null)[],
  from: string,
): Code | null {
  const { zone } = index.site(siteId);
  let fewest = Number.POSITIVE_INFINITY;
  let hidden = new Map<Code, number>();
  for (let day = 0; day < 7; day++)
    for (const minute of ASKED_AT)
      for (const providerId of providers) {
        const { answers } = whyNot(index, criteria, siteId, providerId, wallToEpoch(zone, addDays(from, day), minute));
        const failed = answers.flatMap(({ code, passed }) => (passed ? [] : [code]));
        if (failed.length > fewest) continue;
        if (failed.length < fewest) hidden = new Map();
        fewest = failed.length;
        for (const code of failed) hidden.set(code, (hidden.get(code) ?? 0) + 1);
      }
  // Among equals, the first in the order of explaining.
  let max: Code | null = null;
  for (const code of CODES) if ((hidden.get(code) ?? 0) > (max ? (hidden.get(max) ?? 0) : 0)) max = code;
  return max;
}

/** Some of those who perform the type: enough to see what hides most. */
function someProviders(index: ClinicIndex, criteria: SearchCriteria): readonly (string | null)[] {
  return providersToTry(index, criteria.visitTypeId, null).slice(0, 6);
}

const WINDOW_DAYS = 180;

/** What patients of each kind would see today, at each site. */
export async function previewOnline(
  ctx: Ctx,
  draft: InputOf<typeof onlineContract>,
): Promise<OutputOf<typeof onlineContract>> {
  const now = nowMinute(ctx);
  const today = earliestDate(ctx);
  const days = Math.min(WINDOW_DAYS, Math.max(1, ...draft.doc.policies.map(({ windowDays }) => windowDays ?? 90)));
  const until = addDays(today, days + 1);
  const store = withDraft(
    await loadSnapshot(ctx.em, { from: addDays(today, -1), until: addDays(until, 1) }, ctx.now),
    draft,
  );
  const index = new ClinicIndex(store, now);
  const people = await readRecords<PersonDoc>(ctx.em, 'person', null);
  const rows = [];
  for (const { id, doc } of await sitesOf(ctx))
    for (const kind of ['new', 'established'] as const) {
      const criteria: SearchCriteria = { visitTypeId: draft.id, kind, channel: 'online' };
      const found = count(index, criteria, id, today, until);
      rows.push({
        siteId: id,
        name: doc.name,
        timeZone: doc.timeZone,
        kind,
        starts: found.starts,
        days: found.days,
        first: found.first && new Date(found.first.start * 60_000).toISOString(),
        firstProvider: people.find((person) => person.id === found.first?.providerId)?.doc.shortName ?? null,
        hiddenBy: found.starts
          ? null
          : mostHiding(index, criteria, id, someProviders(index, criteria), addDays(today, 1)),
      });
    }
  return { rows };
}

const GAIN_DAYS = 14;

/** Site, providers and types are switched on together: what none of them forbids any more is shown. */
export async function openOnline(
  ctx: Ctx,
  input: InputOf<typeof openContract>,
): Promise<AnswerOf<typeof openContract>> {
  const today = earliestDate(ctx);
  const dates = { from: addDays(today, -1), until: addDays(today, GAIN_DAYS + 1) };
  const before = await shown(ctx, dates, input);
  const sites = await readRecords<SiteDoc>(ctx.em, 'site', input.siteIds);
  const people = await readRecords<PersonDoc>(ctx.em, 'person', input.providerIds);
  const types = await readRecords<VisitTypeDoc>(ctx.em, 'visit-type', input.visitTypeIds);
  if (
    sites.length !== new Set(input.siteIds).size ||
    people.length !== new Set(input.providerIds).size ||
    types.length !== new Set(input.visitTypeIds).size
  )
    return ctx.fail('NotFound');
  const steps = [
    { kind: 'site' as const, records: sites.map((row) => ({ ...row, doc: { ...row.doc, bookableOnline: true } })) },
    { kind: 'person' as const, records: people.map((row) => ({ ...row, doc: { ...row.doc, bookableOnline: true } })) },
    { kind: 'visit-type' as const, records: types.map((row) => ({ ...row, doc: offering(row.doc, input) })) },
  ];
  const puts = [];
  for (const { kind, records } of steps) {
    const old = new Map([...sites, ...people, ...types].map((row) => [row.id, row.doc]));
    const asked = records.map(({ id, version, doc }) => ({ id, version, doc }));
    if (!asked.length) continue;
    const saved = await saveRecords<SiteDoc | PersonDoc | VisitTypeDoc>(ctx, kind, { records: asked, agreed: [] });
    if (saved instanceof Failure) return saved;
    const changed = saved.records.filter((row) => !isDeepStrictEqual(row.doc, old.get(row.id)));
    puts.unshift({ kind, agreed: [], records: changed.map(({ id, version }) => ({ id, version, doc: old.get(id) })) });
  }
  const after = await shown(ctx, dates, input);
  const named = new Map([...people, ...types].map(({ id, doc }) => [id, doc.name]));
  return {
    gained: Math.max(0, after.starts - before.starts),
    silent: after.silent.map(({ id, siteId, code }) => ({
      name: named.get(id) ?? '',
      siteName: sites.find((site) => site.id === siteId)?.doc.name ?? '',
      code,
    })),
    undo: await ctx.undoable({ command: 'setup.putAll', input: { puts }, label: { what: 'online-opened' } }),
  };
}

/** The narrowest level says yes for just these sites and providers; wider levels stay as they are. */
function offering(doc: VisitTypeDoc, input: InputOf<typeof openContract>): VisitTypeDoc {
  const needsProvider = doc.parts.some(({ needs }) => needs.some(({ what }) => what === 'provider'));
  const providers = needsProvider
    ? input.providerIds.filter((id) => doc.providerIds === null || doc.providerIds.includes(id))
    : [null];
  const policies = [...doc.policies];
  for (const siteId of input.siteIds.filter((id) => doc.siteIds === null || doc.siteIds.includes(id)))
    for (const providerId of providers) {
      const at = policies.findIndex((row) => row.siteId === siteId && row.providerId === providerId);
      if (at >= 0) policies[at] = { ...policies[at], offered: true };
      else policies.push({ ...EMPTY_POLICY, siteId, providerId, offered: true });
    }
  return { ...doc, policies: policies.sort(byLevel) };
}

/** As they are read back: wider levels first. */
function byLevel(a: VisitTypeDoc['policies'][number], b: VisitTypeDoc['policies'][number]): number {
  const key = (row: typeof a) => `${row.siteId ?? ''}|${row.providerId ?? ''}`;
  return key(a) < key(b) ? -1 : 1;
}

/** Starts that patients see of these types with these providers at these sites, and who has none, and why. */
async function shown(ctx: Ctx, dates: { from: string; until: string }, input: InputOf<typeof openContract>) {
  const now = nowMinute(ctx);
  const index = new ClinicIndex(new ClinicStore(await loadSnapshot(ctx.em, dates, ctx.now)), now);
  const today = addDays(dates.from, 1);
  let starts = 0;
  const silent: { id: string; siteId: string; code: string }[] = [];
  const types = index.plan.visitTypes.filter(({ id }) => input.visitTypeIds.includes(id));
  for (const siteId of input.siteIds.filter((id) => index.plan.sites.some((site) => site.id === id)))
    for (const type of types) {
      const providers = providersToTry(index, type.id, null);
      for (const providerId of providers) {
        if (providerId !== null && !input.providerIds.includes(providerId)) continue;
        const criteriaList = (['new', 'established'] as const).map(
          (kind): SearchCriteria => ({ visitTypeId: type.id, kind, channel: 'online' }),
        );
        const found = criteriaList.map((criteria) => {
          let n = 0;
          const range = {
            siteIds: [siteId],
            providerIds: providerId ? [providerId] : null,
            from: today,
            until: addDays(dates.until, -1),
          };
          for (const { starts: mask } of openDays(index, criteria, range)) n += countCells(mask);
          return n;
        });
        starts += Math.max(...found);
        if (!Math.max(...found) && !silent.some((row) => row.id === (providerId ?? type.id) && row.siteId === siteId))
          silent.push({
            id: providerId ?? type.id,
            siteId,
            code: mostHiding(index, criteriaList[1], siteId, [providerId], addDays(today, 1)) ?? 'busy',
          });
      }
    }
  return { starts, silent };
}

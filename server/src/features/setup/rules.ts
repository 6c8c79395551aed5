import type {
  AccountDoc,
  ClinicDoc,
  FieldDoc,
  PayerDoc,
  PersonDoc,
  PlaceDoc,
  PoolDoc,
  SiteDoc,
  VisitTypeDoc,
} from '@zaguan/contracts/setup';
import { visitTypeFaults } from '@zaguan/core/setup';
import { epochToWall } from '@zaguan/core/time';
import { earliestDate, nowMinute } from '../../platform/endpoint/context.ts';
import { planForMoving } from '../messages/index.ts';
import * as others from './others.repository.ts';
import { endSessionsOf, fieldAnswered, readAccounts, readPayers } from './others.sql.ts';
import * as people from './people.repository.ts';
import { readPeople, sitesWithHours, upcomingOf } from './people.sql.ts';
import * as places from './places.repository.ts';
import { readPlaces, readPools, typesAskingFor, upcomingOfMember } from './places.sql.ts';
import type { RecordKind, Refusal } from './saving.ts';
import * as sites from './sites.repository.ts';
import { keepInstants, keepWallClock, readSites, sitesNamed, upcomingAtSite, visitsFrom } from './sites.sql.ts';
import { toVisitType } from './toVisitType.ts';
import * as types from './visitTypes.repository.ts';
import { papers, readVisitTypes, typesNamed, upcomingOfType } from './visitTypes.sql.ts';

/** Visits that hang on something, as a refusal; nothing if there are none. */
function inUse(path: string, code: string, found: { visits: number; first: string | null }, facts = {}): Refusal[] {
  return found.visits
    ? [
        {
          path,
          code,
          facts: { ...facts, visits: found.visits, first: found.first && new Date(found.first).toISOString() },
        },
      ]
    : [];
}

export const siteRules: RecordKind<SiteDoc> = {
  read: readSites,
  write: sites.writeSite,
  setActive: (em, ids, active) => others.setActiveIn(em, 'site', ids, active),
  async check(ctx, { id, doc }) {
    const taken = (await sitesNamed(ctx.em, doc.code, doc.name)).find((row) => row.id !== id);
    const known = await sites.siteIds(ctx.em);
    return [
      ...(taken ? [{ path: taken.code === doc.code ? 'doc.code' : 'doc.name', code: 'taken' }] : []),
      ...doc.travel.flatMap(({ siteId }, i) =>
        siteId === id || !known.has(siteId) ? [{ path: `doc.travel.${i}.siteId`, code: 'no-such-site' }] : [],
      ),
    ];
  },
  async consequences(ctx, { id, before, doc }) {
    if (!before || before.doc.timeZone === doc.timeZone) return [];
    return inUse('doc.timeZone', 'zone-change', await upcomingAtSite(ctx.em, id, ctx.now), {
      from: before.doc.timeZone,
      to: doc.timeZone,
    });
  },
  async after(ctx, { id, before, doc }, agreed) {
    if (!before || before.doc.timeZone === doc.timeZone) return;
    const zones = { from: before.doc.timeZone, to: doc.timeZone };
    const visits = await visitsFrom(ctx.em, id, epochToWall(zones.from, nowMinute(ctx)).date, ctx.now);
    if (!visits.length) return;
    const ids = visits.map((visit) => visit.id);
    if (agreed.includes('zone-change:keep-instant')) return keepInstants(ctx.em, ids, zones.to, ctx.now);
    await keepWallClock(ctx.em, ids, zones, ctx.now);
    // What waits to be sent was planned for other instants.
    for (const visit of visits) if (visit.upcoming) await planForMoving(ctx, visit.id);
  },
  async checkActive(ctx, { id }, active) {
    return active ? [] : inUse('active', 'site-in-use', await upcomingAtSite(ctx.em, id, ctx.now));
  },
};

export const personRules: RecordKind<PersonDoc> = {
  read: readPeople,
  write: people.writePerson,
  setActive: people.setResourcesActive,
  async check(ctx, { id, before, doc }) {
    const refusals: Refusal[] = [];
    const known = await sites.siteIds(ctx.em);
    doc.siteIds.forEach((siteId, i) => {
      if (!known.has(siteId)) refusals.push({ path: `doc.siteIds.${i}`, code: 'no-such-site' });
    });
    if (before && before.doc.kind !== doc.kind) refusals.push({ path: 'doc.kind', code: 'kind-stays' });
    const left = (before?.doc.siteIds ?? []).filter((siteId) => !doc.siteIds.includes(siteId));
    const working = left.length ? await sitesWithHours(ctx.em, id, earliestDate(ctx)) : [];
    for (const siteId of left) {
      if (working.includes(siteId)) refusals.push({ path: 'doc.siteIds', code: 'site-has-hours', facts: { siteId } });
      refusals.push(
        ...inUse('doc.siteIds', 'site-has-visits', await upcomingOf(ctx.em, id, siteId, ctx.now), { siteId }),
      );
    }
    if (doc.npi) {
      const holder = await people.npiHolder(ctx.em, doc.npi, id);
      if (holder) refusals.push({ path: 'doc.npi', code: 'npi-taken', facts: { holder } });
    }
    return refusals;
  },
  async checkActive(ctx, { id }, active) {
    if (active) return [];
    return [...inUse('active', 'person-in-use', await upcomingOf(ctx.em, id, null, ctx.now))];
  },
};

export const placeRules: RecordKind<PlaceDoc> = {
  read: readPlaces,
  write: places.writePlace,
  setActive: people.setResourcesActive,
  async check(ctx, { id, before, doc }) {
    const refusals: Refusal[] = [];
    if (!(await sites.siteIds(ctx.em)).has(doc.siteId)) refusals.push({ path: 'doc.siteId', code: 'no-such-site' });
    const [pool] = doc.poolId ? await readPools(ctx.em, [doc.poolId]) : [];
    if (doc.poolId && pool?.doc.siteId !== doc.siteId) refusals.push({ path: 'doc.poolId', code: 'pool-elsewhere' });
    if (!before) return refusals;
    const upcoming = await upcomingOf(ctx.em, id, null, ctx.now);
    if (before.doc.siteId !== doc.siteId) refusals.push(...inUse('doc.siteId', 'place-in-use', upcoming));
    if (before.doc.places > doc.places) refusals.push(...inUse('doc.places', 'places-in-use', upcoming));
    if (before.doc.poolId && before.doc.poolId !== doc.poolId) {
      const [left] = await readPools(ctx.em, [before.doc.poolId]);
      if (left)
        refusals.push(...inUse('doc.poolId', 'member-in-use', await upcomingOfMember(ctx.em, left.doc, id, ctx.now)));
    }
    return refusals;
  },
  async checkActive(ctx, { id }, active) {
    return active ? [] : inUse('active', 'place-in-use', await upcomingOf(ctx.em, id, null, ctx.now));
  },
};

export const poolRules: RecordKind<PoolDoc> = {
  read: readPools,
  write: places.writePool,
  setActive: places.setPoolsActive,
  async check(ctx, { id, before, doc }) {
    const refusals: Refusal[] = [];
    if (!(await sites.siteIds(ctx.em)).has(doc.siteId)) refusals.push({ path: 'doc.siteId', code: 'no-such-site' });
    if (before && before.doc.siteId !== doc.siteId) refusals.push({ path: 'doc.siteId', code: 'site-stays' });
    if (await places.poolLike(ctx.em, doc.siteId, doc.kind, id)) refusals.push({ path: 'doc.kind', code: 'taken' });
    for (const [i, memberId] of doc.memberIds.entries()) {
      const member = await people.resourceBrief(ctx.em, memberId);
      if (!member?.siteIds.includes(doc.siteId))
        refusals.push({ path: `doc.memberIds.${i}`, code: 'member-elsewhere', facts: { name: member?.name ?? '' } });
    }
    if (!before) return refusals;
    // Whoever leaves the pool must not be booked for it: the pool would be lower than what is booked.
    for (const memberId of before.doc.memberIds.filter((member) => !doc.memberIds.includes(member))) {
      const found = await upcomingOfMember(ctx.em, before.doc, memberId, ctx.now);
      const name = (await people.resourceBrief(ctx.em, memberId))?.name ?? '';
      refusals.push(...inUse('doc.memberIds', 'member-in-use', found, { name }));
    }
    if (before.doc.kind !== doc.kind) {
      const [asking] = await typesAskingFor(ctx.em, before.doc.kind);
      if (asking) refusals.push({ path: 'doc.kind', code: 'pool-asked-for', facts: { type: asking } });
    }
    return refusals;
  },
  async checkActive(ctx, { doc }, active) {
    if (active) return [];
    const [asking] = await typesAskingFor(ctx.em, doc.kind);
    return asking ? [{ path: 'active', code: 'pool-asked-for', facts: { type: asking } }] : [];
  },
};

export const visitTypeRules: RecordKind<VisitTypeDoc> = {
  read: readVisitTypes,
  write: types.writeVisitType,
  setActive: types.setTypesActive,
  async check(ctx, { id, doc }) {
    const refusals: Refusal[] = [];
    const taken = (await typesNamed(ctx.em, doc.code, doc.name)).find((row) => row.id !== id);
    if (taken) refusals.push({ path: taken.code === doc.code ? 'doc.code' : 'doc.name', code: 'taken' });
    const date = earliestDate(ctx);
    const { plan } = await ctx.clinic({ from: date, until: date });
    const known = {
      site: new Set(plan.sites.map((row) => row.id)),
      provider: new Set(plan.resources.flatMap((row) => (row.kind === 'provider' ? [row.id] : []))),
      resource: new Set(plan.resources.map((row) => row.id)),
      type: new Set([...plan.visitTypes.map((row) => row.id), id]),
    };
    const must = (kind: keyof typeof known, path: string, ref: string | null) => {
      if (ref !== null && !known[kind].has(ref)) refusals.push({ path: `doc.${path}`, code: `no-such-${kind}` });
    };
    for (const [i, ref] of (doc.siteIds ?? []).entries()) must('site', `siteIds.${i}`, ref);
    for (const [i, ref] of (doc.providerIds ?? []).entries()) must('provider', `providerIds.${i}`, ref);
    for (const [p, part] of doc.parts.entries())
      for (const [n, need] of part.needs.entries())
        must('resource', `parts.${p}.needs.${n}.resourceId`, need.resourceId);
    for (const [i, row] of doc.spacing.entries()) must('type', `spacing.${i}.otherTypeId`, row.otherTypeId);
    for (const [i, row] of doc.links.entries()) must('type', `links.${i}.followTypeId`, row.followTypeId);
    for (const field of ['caps', 'policies'] as const)
      for (const [i, row] of doc[field].entries()) {
        must('site', `${field}.${i}.siteId`, row.siteId);
        must('provider', `${field}.${i}.providerId`, row.providerId);
      }
    const offered = await papers(ctx.em);
    doc.formIds.forEach((ref, i) => {
      if (!offered.forms.some((row) => row.id === ref))
        refusals.push({ path: `doc.formIds.${i}`, code: 'no-such-form' });
    });
    doc.consentIds.forEach((ref, i) => {
      if (!offered.consents.some((row) => row.id === ref))
        refusals.push({ path: `doc.consentIds.${i}`, code: 'no-such-form' });
    });
    if (refusals.length) return refusals;
    return visitTypeFaults(plan, toVisitType(id, doc)).map(({ code, part, need, facts }) => ({
      path: part < 0 ? 'doc.parts' : `doc.parts.${part}${need < 0 ? '' : `.needs.${need}`}`,
      code,
      facts: plainFacts(facts),
    }));
  },
  async checkActive(ctx, { id }, active) {
    return active ? [] : inUse('active', 'type-in-use', await upcomingOfType(ctx.em, id, ctx.now));
  },
};

export const payerRules: RecordKind<PayerDoc> = {
  read: readPayers,
  write: others.writePayer,
  setActive: (em, ids, active) => others.setActiveIn(em, 'payer', ids, active),
  async check(ctx, { doc }) {
    const date = earliestDate(ctx);
    const { plan } = await ctx.clinic({ from: date, until: date });
    return doc.rules.flatMap((row, i) => [
      ...(row.siteId && !plan.sites.some(({ id }) => id === row.siteId)
        ? [{ path: `doc.rules.${i}.siteId`, code: 'no-such-site' }]
        : []),
      ...(row.providerId && !plan.resources.some(({ id, kind }) => id === row.providerId && kind === 'provider')
        ? [{ path: `doc.rules.${i}.providerId`, code: 'no-such-provider' }]
        : []),
      ...(row.visitTypeId && !plan.visitTypes.some(({ id }) => id === row.visitTypeId)
        ? [{ path: `doc.rules.${i}.visitTypeId`, code: 'no-such-type' }]
        : []),
    ]);
  },
};

export const fieldRules: RecordKind<FieldDoc> = {
  read: others.readFields,
  write: others.writeField,
  setActive: (em, ids, active) => others.setActiveIn(em, 'custom_field', ids, active),
  async check(ctx, { id, before, doc }) {
    const changed = before && (before.doc.kind !== doc.kind || before.doc.of !== doc.of);
    return changed && (await fieldAnswered(ctx.em, id)) ? [{ path: 'doc.kind', code: 'field-answered' }] : [];
  },
};

export const clinicRules: RecordKind<ClinicDoc> = {
  read: others.readClinic,
  write: others.writeClinic,
  setActive: async () => undefined,
  check: async (_ctx, { before }) => (before ? [] : [{ path: 'id', code: 'one-clinic' }]),
  checkActive: async () => [{ path: 'active', code: 'one-clinic' }],
};

export const accountRules: RecordKind<AccountDoc> = {
  read: readAccounts,
  // The state is what the account's own rows say; what is sent of it is not written.
  write: (em, id, doc) => others.writeAccount(em, id, doc),
  async setActive(em, ids, active) {
    await others.setActiveIn(em, 'account', ids, active);
    for (const id of ids) await endSessionsOf(em, id);
  },
  async check(ctx, { id, before, doc }) {
    const refusals: Refusal[] = [];
    if (await others.emailTaken(ctx.em, doc.email, id)) refusals.push({ path: 'doc.email', code: 'taken' });
    if (before?.doc.role === 'manager' && doc.role !== 'manager' && (await others.otherManagers(ctx.em, id)) === 0)
      refusals.push({ path: 'doc.role', code: 'last-manager' });
    if (doc.resourceId && !(await people.resourceBrief(ctx.em, doc.resourceId)))
      refusals.push({ path: 'doc.resourceId', code: 'no-such-provider' });
    const known = await sites.siteIds(ctx.em);
    doc.siteIds?.forEach((siteId, i) => {
      if (!known.has(siteId)) refusals.push({ path: `doc.siteIds.${i}`, code: 'no-such-site' });
    });
    return refusals;
  },
  // Whoever is signed in with the old rights signs in again.
  async after(ctx, { id, before, doc }) {
    const rights = ({ role, resourceId, siteIds }: AccountDoc) => JSON.stringify([role, resourceId, siteIds]);
    if (before && rights(before.doc) !== rights(doc)) await endSessionsOf(ctx.em, id);
  },
  async checkActive(ctx, { id, doc }, active) {
    if (active) return [];
    if (ctx.actor.kind === 'staff' && ctx.actor.accountId === id) return [{ path: 'active', code: 'own-account' }];
    return doc.role === 'manager' && (await others.otherManagers(ctx.em, id)) === 0
      ? [{ path: 'active', code: 'last-manager' }]
      : [];
  },
};

export function plainFacts(facts: Readonly<Record<string, unknown>>): Record<string, string | number | boolean | null> {
  return Object.fromEntries(
    Object.entries(facts).map(([key, value]) => [
      key,
      typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean' ? value : null,
    ]),
  );
}

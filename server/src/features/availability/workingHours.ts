import type { InputOf, OutputOf } from '@zaguan/contracts';
import type {
  addWorkingHours as addContract,
  listWorkingHours as listContract,
  removeWorkingHours as removeContract,
} from '@zaguan/contracts/availability';
import { firstOverlap } from '@zaguan/core/availability';
import { expandWeekly, occursOn, type WeeklyRule } from '@zaguan/core/recurrence';
import { addDays, epochToWall, type Weekday } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import type { WorkingHours } from './availability.entities.ts';
import {
  comingVisits,
  deleteHours,
  hoursById,
  hoursFrom,
  hoursOf,
  insertHours,
  lockPerson,
  mayEditOwnHours,
  personExists,
  zoneById,
} from './availability.repository.ts';

function ruleOf(hours: WorkingHours): WeeklyRule {
  return {
    weekdays: hours.weekdays as Weekday[],
    everyWeeks: hours.everyWeeks,
    anchorDate: hours.anchorDate,
    effectiveFrom: hours.effectiveFrom,
    effectiveUntil: hours.effectiveUntil ?? null,
  };
}

function toWireHours(hours: WorkingHours): OutputOf<typeof addContract>['hours'] {
  const {
    id,
    siteId,
    weekdays,
    fromMinute,
    toMinute,
    everyWeeks,
    effectiveFrom,
    effectiveUntil,
    places,
    acceptsTypeIds,
    acceptsKinds,
    invitedOnly,
    online,
    version,
  } = hours;
  return {
    id,
    resourceId: hours.resourceId ?? '',
    siteId,
    weekdays,
    fromMinute,
    toMinute,
    everyWeeks,
    effectiveFrom,
    effectiveUntil: effectiveUntil ?? null,
    places,
    acceptsTypeIds: acceptsTypeIds ?? null,
    acceptsKinds: acceptsKinds ?? null,
    invitedOnly,
    online,
    version,
  };
}

/** A provider edits their own hours only, and only where the manager allows it. */
async function mayEdit(ctx: Ctx, resourceId: string): Promise<boolean> {
  const scope = ctx.scope('availability.edit');
  if (scope === 'all') return true;
  const own = scope === 'own-hours' && ctx.actor.kind === 'staff' && ctx.actor.resourceId === resourceId;
  return own && (await mayEditOwnHours(ctx.em, resourceId));
}

export async function listWorkingHours(
  ctx: Ctx,
  _input: InputOf<typeof listContract>,
): Promise<OutputOf<typeof listContract>> {
  const scope = ctx.scope('availability.edit');
  const own = ctx.actor.kind === 'staff' ? ctx.actor.resourceId : null;
  const today = epochToWall('UTC', nowMinute(ctx)).date;
  const hours = await hoursFrom(ctx.em, addDays(today, -1));
  return {
    hours: hours.map(toWireHours),
    mayEdit: scope === 'all' ? 'all' : own && (await mayEdit(ctx, own)) ? 'own' : 'none',
    ownResourceId: own,
  };
}

export async function addWorkingHours(
  ctx: Ctx,
  input: InputOf<typeof addContract>,
): Promise<OutputOf<typeof addContract> | Failure> {
  const hours: WorkingHours = {
    ...input,
    id: ctx.newId(),
    anchorDate: input.effectiveFrom,
    weekdays: [...new Set(input.weekdays)].sort((a, b) => a - b),
    caps: [],
    version: 1,
    createdAt: ctx.now,
    createdBy: ctx.actor.kind === 'staff' ? ctx.actor.accountId : null,
  };
  const refused = await add(ctx, hours);
  if (refused) return refused;
  const undo = await ctx.undoable({
    command: 'availability.removeWorkingHours',
    input: { id: hours.id, version: 1 },
    label: { what: 'hours-added' },
  });
  const from =
    hours.effectiveFrom > epochToWall('UTC', nowMinute(ctx)).date
      ? hours.effectiveFrom
      : epochToWall('UTC', nowMinute(ctx)).date;
  return {
    hours: toWireHours(hours),
    firstDate: expandWeekly(ruleOf(hours), from, addDays(from, 400))[0] ?? null,
    undo,
  };
}

async function add(ctx: Ctx, hours: WorkingHours): Promise<Failure | null> {
  const resourceId = hours.resourceId as string;
  const zones = await zoneById(ctx.em);
  if (!zones.has(hours.siteId) || !(await personExists(ctx.em, resourceId))) return ctx.fail('NotFound');
  if (!(await mayEdit(ctx, resourceId))) return ctx.fail('NotAllowed', { facts: { action: 'availability.edit' } });
  await lockPerson(ctx.em, resourceId);
  const others = (await hoursOf(ctx.em, resourceId)).map((row) => ({ ...row, rule: ruleOf(row) }));
  const overlap = firstOverlap({ ...hours, rule: ruleOf(hours) }, others, (siteId) => zones.get(siteId) ?? 'UTC');
  if (overlap) {
    const other = others.find((row) => row.id === overlap.otherId);
    return ctx.fail('HoursOverlap', {
      facts: {
        date: overlap.date,
        siteId: overlap.otherSiteId,
        fromMinute: other?.fromMinute ?? 0,
        toMinute: other?.toMinute ?? 0,
      },
    });
  }
  await insertHours(ctx.em, hours);
  ctx.emit({ type: 'hours-changed' });
  ctx.wrote({ subjects: [{ kind: 'resource', id: resourceId }], after: { ...toWireHours(hours) } });
  return null;
}

export async function removeWorkingHours(
  ctx: Ctx,
  { id, version }: InputOf<typeof removeContract>,
): Promise<OutputOf<typeof removeContract> | Failure> {
  const hours = await hoursById(ctx.em, id);
  if (!hours?.resourceId) return ctx.fail('NotFound');
  if (!(await mayEdit(ctx, hours.resourceId)))
    return ctx.fail('NotAllowed', { facts: { action: 'availability.edit' } });
  await lockPerson(ctx.em, hours.resourceId);
  if (hours.version !== version) return ctx.fail('ChangedMeanwhile', { facts: { version: hours.version } });
  const visits = await visitsInside(ctx, hours);
  if (visits) return ctx.fail('HoursInUse', { facts: { visits } });
  const kept = { ...hours };
  await deleteHours(ctx.em, id);
  ctx.emit({ type: 'hours-changed' });
  ctx.wrote({ subjects: [{ kind: 'resource', id: hours.resourceId }], before: { ...toWireHours(kept) } });
  return {
    undo: await ctx.undoable({
      command: 'availability.restoreWorkingHours',
      input: { hours: kept },
      label: { what: 'hours-removed' },
    }),
  };
}

async function visitsInside(ctx: Ctx, hours: WorkingHours): Promise<number> {
  const zone = (await zoneById(ctx.em)).get(hours.siteId) ?? 'UTC';
  const visits = await comingVisits(ctx.em, hours.resourceId as string, hours.siteId, ctx.now);
  return visits.filter(({ start, end }) => {
    const from = epochToWall(zone, start.getTime() / 60_000);
    const to = epochToWall(zone, end.getTime() / 60_000);
    return occursOn(ruleOf(hours), from.date) && from.minute < hours.toMinute && to.minute > hours.fromMinute;
  }).length;
}

/** The inverse of taking hours away: the same hours again, under their old id, if nothing overlaps them now. */
export async function restoreWorkingHours(
  ctx: Ctx,
  { hours }: { hours: WorkingHours & { createdAt: string | Date } },
): Promise<object | Failure> {
  return (await add(ctx, { ...hours, createdAt: new Date(hours.createdAt) })) ?? {};
}

import type { InputOf, OutputOf } from '@zaguan/contracts';
import * as contract from '@zaguan/contracts/fhir';
import { ClinicIndex } from '@zaguan/core/openings';
import { type Slot, slotsOn } from '@zaguan/core/slots';
import { addDays, datesFrom, type EpochMinute, epochToWall } from '@zaguan/core/time';
import {
  actorOf,
  type FhirLane,
  readSlotId,
  scheduleId,
  slotId,
  toSchedule,
  toSlot,
} from '../../exchange/fhir/scheduleToFhir.ts';
import { toSearchset } from '../../exchange/fhir/visitToFhir.ts';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import { holdIds } from './fhir.repository.ts';
import { fhirLanes } from './fhir.sql.ts';

const DAYS_WITHOUT_DATES = 7;
const MAX_DAYS = 92;
const DAY_MIN = 1440;

interface Within {
  readonly from: EpochMinute;
  /** Not included. */
  readonly until: EpochMinute;
}

/**
 * The instants a date search means. A bare date is the whole day in UTC, as FHIR R4 reads one without a zone (§3.1.1.4.6
 * leaves the zone to the server).
 */
function within(asked: InputOf<typeof contract.searchSlots>['start'], now: EpochMinute): Within {
  let [from, until] = [now, now + DAYS_WITHOUT_DATES * DAY_MIN];
  const searches = asked === undefined ? [] : Array.isArray(asked) ? asked : [asked];
  if (searches.length) [from, until] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
  for (const search of searches) {
    const prefix = /^[a-z]{2}/.exec(search)?.[0] ?? 'eq';
    const text = search.replace(/^[a-z]{2}/, '');
    const start = Math.floor(Date.parse(text) / 60_000);
    const end = text.length === 10 ? start + DAY_MIN : start + 1;
    if (prefix === 'ge' || prefix === 'eq') from = Math.max(from, start);
    if (prefix === 'gt') from = Math.max(from, end);
    if (prefix === 'lt') until = Math.min(until, start);
    if (prefix === 'le' || prefix === 'eq') until = Math.min(until, end);
  }
  if (from === Number.NEGATIVE_INFINITY) from = until - DAYS_WITHOUT_DATES * DAY_MIN;
  return { from, until: Math.min(until, from + MAX_DAYS * DAY_MIN) };
}

/** Slots of a lane that begin within some time. */
async function slotsOf(ctx: Ctx, lane: FhirLane, { from, until }: Within): Promise<Slot[]> {
  if (until <= from) return [];
  const [first, last] = [epochToWall('UTC', from).date, epochToWall('UTC', until).date];
  const dates = datesFrom(addDays(first, -1), addDays(last, 1));
  const index = new ClinicIndex(await ctx.clinic({ from: dates[0], until: dates[dates.length - 1] }), nowMinute(ctx));
  const holds = await holdIds(ctx.em, ctx.now);
  return dates
    .flatMap((date) => slotsOn(index, lane.resourceId, lane.siteId, date, holds))
    .filter(({ start }) => start >= from && start < until);
}

type Bundle = OutputOf<typeof contract.searchSlots>;
const asBundle = (resources: Parameters<typeof toSearchset>[0], total: number) =>
  toSearchset(resources, total) as unknown as Bundle;

async function findSlot(ctx: Ctx, id: string): Promise<{ lane: FhirLane; slot: Slot } | null> {
  const asked = readSlotId(id);
  if (!asked) return null;
  const lane = (await fhirLanes(ctx.em)).find((row) => scheduleId(row).replaceAll('-', '').startsWith(asked.schedule));
  if (!lane) return null;
  const slots = await slotsOf(ctx, lane, { from: asked.start, until: asked.start + 1 });
  const slot = slots.find((each) => slotId(scheduleId(lane), each) === id);
  return slot ? { lane, slot } : null;
}

async function searchSlots(
  ctx: Ctx,
  { _id, schedule, start, status, _count }: InputOf<typeof contract.searchSlots>,
): Promise<Bundle> {
  if (_id !== undefined) {
    const found = await findSlot(ctx, _id);
    const wanted = found && (status === undefined || found.slot.status === status);
    return asBundle(wanted ? [toSlot(scheduleId(found.lane), found.slot)] : [], wanted ? 1 : 0);
  }
  const id = schedule?.replace('Schedule/', '');
  const lanes = (await fhirLanes(ctx.em)).filter((lane) => id === undefined || scheduleId(lane) === id);
  const time = within(start, nowMinute(ctx));
  const all = [];
  for (const lane of lanes)
    for (const slot of await slotsOf(ctx, lane, time))
      if (status === undefined || slot.status === status) all.push({ lane, slot });
  all.sort((a, b) => a.slot.start - b.slot.start);
  return asBundle(
    all.slice(0, _count).map(({ lane, slot }) => toSlot(scheduleId(lane), slot)),
    all.length,
  );
}

export const scheduleEndpoints = [
  handle(contract.readSchedule, async (ctx, { id }) => {
    const lane = (await fhirLanes(ctx.em)).find((row) => scheduleId(row) === id);
    return lane ? ({ ...toSchedule(lane), id } as OutputOf<typeof contract.readSchedule>) : ctx.fail('NotFound');
  }),
  handle(contract.searchSchedules, async (ctx, { _id, actor, _count }) => {
    const found = (await fhirLanes(ctx.em)).filter(
      (lane) =>
        (_id === undefined || scheduleId(lane) === _id) &&
        (actor === undefined || actorOf(lane) === actor || `Location/${lane.siteId}` === actor),
    );
    return asBundle(found.slice(0, _count).map(toSchedule), found.length);
  }),
  handle(contract.readSlot, async (ctx, { id }) => {
    const found = await findSlot(ctx, id);
    if (!found) return ctx.fail('NotFound');
    return { ...toSlot(scheduleId(found.lane), found.slot), id } as unknown as OutputOf<typeof contract.readSlot>;
  }),
  handle(contract.searchSlots, searchSlots),
];

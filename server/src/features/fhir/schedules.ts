import type { InputOf, OutputOf } from '@zaguan/contracts';
import * as contract from '@zaguan/contracts/fhir';
import type { VisitTypeDoc } from '@zaguan/contracts/setup';
import { ClinicIndex } from '@zaguan/core/openings';
import { type Slot, slotsOn } from '@zaguan/core/slots';
import { addDays, datesFrom, type EpochMinute, epochToWall } from '@zaguan/core/time';
import { isPerformedBy, type StoredRecord } from '../../exchange/fhir/clinicToFhir.ts';
import type { CodedService } from '../../exchange/fhir/systems.ts';
import {
  actorOf,
  type FhirLane,
  readSlotId,
  scheduleId,
  slotId,
  toSchedule,
  toSlot,
} from '../../exchange/fhir/scheduleToFhir.ts';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import { stored } from './clinicResources.ts';
import { holdIds } from './fhir.repository.ts';
import { fhirLanes } from './fhir.sql.ts';
import { asWire, baseOf, instantBounds, pageOf, searchset } from './searching.ts';

const DAYS_WITHOUT_DATES = 7;
const MAX_DAYS = 92;
const DAY_MIN = 1440;

interface Within {
  readonly from: EpochMinute;
  /** Not included. */
  readonly until: EpochMinute;
}

/** The instants a date search means; a day without a time is that day in UTC (FHIR R4 leaves the zone to the server). */
function within(asked: readonly string[] | undefined, now: EpochMinute): Within {
  if (!asked) return { from: now, until: now + DAYS_WITHOUT_DATES * DAY_MIN };
  const bounds = instantBounds(asked);
  const until = bounds.until === null ? Number.POSITIVE_INFINITY : Math.ceil(bounds.until / 60_000);
  const from = bounds.from === null ? until - DAYS_WITHOUT_DATES * DAY_MIN : Math.ceil(bounds.from / 60_000);
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

/** The kinds of visit that somebody performs at a site; rooms and devices perform none by themselves. */
function servicesOf(
  types: readonly StoredRecord<VisitTypeDoc>[],
  { resourceId, siteId, kind }: FhirLane,
): CodedService[] {
  if (kind !== 'provider') return [];
  return types
    .filter((type) => isPerformedBy(type, resourceId) && (type.doc.siteIds?.includes(siteId) ?? true))
    .map(({ id, doc }) => ({ id, code: doc.code, name: doc.name }));
}

async function findSlot(ctx: Ctx, id: string): Promise<{ lane: FhirLane; slot: Slot } | null> {
  const asked = readSlotId(id);
  if (!asked) return null;
  const lane = (await fhirLanes(ctx.em)).find((row) => scheduleId(row).replaceAll('-', '').startsWith(asked.schedule));
  if (!lane) return null;
  const slots = await slotsOf(ctx, lane, { from: asked.start, until: asked.start + 1 });
  const slot = slots.find((each) => slotId(scheduleId(lane), each) === id);
  return slot ? { lane, slot } : null;
}

async function found(ctx: Ctx, search: InputOf<typeof contract.searchSlots>) {
  const { _id, schedule, start } = search;
  const all: { lane: FhirLane; slot: Slot }[] = [];
  if (_id) {
    for (const id of _id) all.push(...[await findSlot(ctx, id)].filter((each) => each !== null));
    return all;
  }
  const time = within(start, nowMinute(ctx));
  for (const lane of await fhirLanes(ctx.em))
    if (!schedule || schedule.includes(scheduleId(lane)))
      for (const slot of await slotsOf(ctx, lane, time)) all.push({ lane, slot });
  return all;
}

async function searchSlots(
  ctx: Ctx,
  search: InputOf<typeof contract.searchSlots>,
): Promise<OutputOf<typeof contract.searchSlots>> {
  const { status } = search;
  const all = (await found(ctx, search)).filter(({ slot }) => !status || status.includes(slot.status));
  all.sort((a, b) => a.slot.start - b.slot.start);
  const { page, ...rest } = pageOf(all, search);
  const types = await stored<VisitTypeDoc>(ctx, 'visit-type');
  const resources = page.map(({ lane, slot }) => toSlot(scheduleId(lane), slot, servicesOf(types, lane), baseOf(ctx)));
  return searchset(ctx, 'Slot', search, { resources, ...rest });
}

export const scheduleEndpoints = [
  handle(contract.readSchedule, async (ctx, { id }) => {
    const lane = (await fhirLanes(ctx.em)).find((row) => scheduleId(row) === id);
    if (!lane) return ctx.fail('NotFound');
    return asWire(toSchedule(lane, servicesOf(await stored(ctx, 'visit-type'), lane), baseOf(ctx)));
  }),
  handle(contract.searchSchedules, async (ctx, search) => {
    const types = await stored<VisitTypeDoc>(ctx, 'visit-type');
    const { _id, actor } = search;
    const actorsOf = (lane: FhirLane) => [
      actorOf(lane),
      `Location/${lane.siteId}`,
      ...servicesOf(types, lane).map((service) => `HealthcareService/${service.id}`),
    ];
    const lanes = (await fhirLanes(ctx.em)).filter(
      (lane) =>
        (!_id || _id.includes(scheduleId(lane))) && (!actor || actorsOf(lane).some((each) => actor.includes(each))),
    );
    const { page, ...rest } = pageOf(lanes, search);
    const resources = page.map((lane) => toSchedule(lane, servicesOf(types, lane), baseOf(ctx)));
    return searchset(ctx, 'Schedule', search, { resources, ...rest });
  }),
  handle(contract.readSlot, async (ctx, { id }) => {
    const known = await findSlot(ctx, id);
    if (!known) return ctx.fail('NotFound');
    const { lane, slot } = known;
    return asWire(toSlot(scheduleId(lane), slot, servicesOf(await stored(ctx, 'visit-type'), lane), baseOf(ctx)));
  }),
  handle(contract.searchSlots, searchSlots),
];

import { randomBytes } from 'node:crypto';
import type { InputOf } from '@zaguan/contracts';
import * as contract from '@zaguan/contracts/feeds';
import { scheduleToCalendar } from '../../exchange/scheduleCalendar.ts';
import { type Ctx, includesSite, siteList, sitesFor } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { type AnswerOf, handle } from '../../platform/endpoint/handler.ts';
import { undoWith } from '../../platform/undo/undo.ts';
import { clinicRow } from '../clinic/index.ts';
import { mayEditHoursOf } from '../availability/index.ts';
import { hashOfToken } from '../linkTokens/index.ts';
import { ofOwnOrAny } from './feedRights.ts';
import { readBusy } from './readBusy.ts';
import {
  feedById,
  feedRead,
  type FeedRow,
  feedsOf,
  insertFeed,
  resourceName,
  setRevoked,
  sitesOf,
} from './feeds.repository.ts';
import { busyTimes } from './busyTimes.sql.ts';

/** What a calendar shows: a month back, and as far ahead as anyone books. */
const DAYS_BACK = 30;
const DAYS_AHEAD = 365;
const DAY_MS = 86_400_000;
/** 256 bits: never guessed (OWASP ASVS 4 §3.2.2 asks at least 64). */
const TOKEN_BYTES = 32;

/** @param siteIds what the reader may see; `null`: the schedule at all sites */
async function calendarOf(
  ctx: Ctx,
  resourceId: string,
  name: string,
  detailed: boolean,
  siteIds: readonly string[] | null,
): Promise<string> {
  // By whole days: a file in which nothing changed is the same all day long.
  const today = Math.floor(ctx.now.getTime() / DAY_MS);
  const at = (days: number) => new Date((today + days) * DAY_MS);
  const busy = await busyTimes(ctx.em, resourceId, detailed, at(-DAYS_BACK), at(DAYS_AHEAD), siteIds);
  const clinic = await clinicRow(ctx.em);
  return scheduleToCalendar({ name, busy, organizer: { name: clinic.name, email: ctx.addresses.mailFrom } });
}

function toFeed(row: FeedRow): contract.Feed {
  return {
    id: row.id,
    detailed: row.detailed,
    createdAt: new Date(row.createdAt).toISOString(),
    createdBy: row.name,
    lastReadAt: row.lastReadAt && new Date(row.lastReadAt).toISOString(),
  };
}

async function create(
  ctx: Ctx,
  { resourceId, detailed }: InputOf<typeof contract.createFeed>,
): Promise<AnswerOf<typeof contract.createFeed>> {
  const name = await ofOwnOrAny(ctx, resourceId);
  if (name instanceof Failure) return name;
  if (ctx.actor.kind !== 'staff') return ctx.fail('NotAllowed');
  const token = randomBytes(TOKEN_BYTES).toString('base64url');
  const { accountId } = ctx.actor;
  const feed = { id: ctx.newId(), resourceId, tokenHash: hashOfToken(token), detailed, at: ctx.now, accountId };
  await insertFeed(ctx.em, feed);
  ctx.wrote({ subjects: [{ kind: 'resource', id: resourceId }], after: { feed: feed.id, detailed } });
  const row = await feedById(ctx.em, feed.id);
  return row ? { feed: toFeed(row), path: `/api/public/feeds/${token}` } : ctx.fail('NotFound');
}

async function revoke(
  ctx: Ctx,
  { id }: InputOf<typeof contract.revokeFeed>,
): Promise<AnswerOf<typeof contract.revokeFeed>> {
  const feed = await feedById(ctx.em, id);
  if (!feed) return ctx.fail('NotFound');
  if (!(await mayEditHoursOf(ctx, feed.resourceId))) return ctx.fail('NotAllowed');
  if (!(await setRevoked(ctx.em, id, ctx.now))) return ctx.fail('NotFound');
  ctx.wrote({ subjects: [{ kind: 'resource', id: feed.resourceId }], before: { feed: id }, after: { revoked: true } });
  return { undo: await ctx.undoable({ command: 'feeds.reopen', input: { id }, label: { what: 'feed-revoked' } }) };
}

export const feedsEndpoints = [
  handle(contract.resourceCalendar, async (ctx, { resourceId }) => {
    const name = await resourceName(ctx.em, resourceId);
    if (name === null) return ctx.fail('NotFound');
    const allowed = sitesFor(ctx, 'availability.view');
    // Somebody else's colleague: as if they were not there.
    if (!(await sitesOf(ctx.em, resourceId)).some((site) => includesSite(allowed, site.id)))
      return ctx.fail('NotFound');
    return calendarOf(ctx, resourceId, name, false, siteList(allowed));
  }),
  handle(contract.listFeeds, async (ctx, { resourceId }) => {
    const name = await ofOwnOrAny(ctx, resourceId);
    if (name instanceof Failure) return name;
    return { feeds: (await feedsOf(ctx.em, resourceId)).map(toFeed) };
  }),
  handle(contract.createFeed, create),
  handle(contract.revokeFeed, revoke),
  handle(contract.readFeed, async (ctx, { token }) => {
    const feed = await feedRead(ctx.em, hashOfToken(token), ctx.now);
    if (!feed) return ctx.fail('NotFound');
    const name = (await resourceName(ctx.em, feed.resourceId)) ?? '';
    return calendarOf(ctx, feed.resourceId, name, feed.detailed, null);
  }),
  readBusy,
];

/** Commands that may stand as an inverse. */
export const feedsCommands = {
  'feeds.reopen': undoWith('availability.edit', async (ctx: Ctx, { id }: { id: string }) => {
    const feed = await feedById(ctx.em, id);
    if (!feed) return ctx.fail('UndoGone');
    if (!(await mayEditHoursOf(ctx, feed.resourceId))) return ctx.fail('NotAllowed');
    return (await setRevoked(ctx.em, id, null)) ? {} : ctx.fail('ChangedMeanwhile');
  }),
};

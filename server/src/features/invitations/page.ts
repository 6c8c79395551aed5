import type { InputOf } from '@zaguan/contracts';
import type {
  invitationDays as daysContract,
  invitationTimes as timesContract,
  lookAtInvitation as lookContract,
  openInvitation as openContract,
} from '@zaguan/contracts/invitations';
import { criteriaOfInvitation, inPart } from '@zaguan/core/invitations';
import { withAccess } from '@zaguan/core/findTime';
import { ClinicIndex, openDays, type SearchCriteria, searchOpenings } from '@zaguan/core/openings';
import { lengthOf } from '@zaguan/core/visits';
import { addDays, countCells, emptyMask, epochToWall, type LocalDate, type Mask, orInto } from '@zaguan/core/time';
import { toWire } from '@zaguan/contracts';
import { type Ctx, earliestDate, nowMinute } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { kindOf } from '../desk/index.ts';
import { hashOfToken } from '../linkTokens/index.ts';
import { longestWindowDays } from '../openings/index.ts';
import { bookedAlready, enterInvitation, overBecause } from './enter.ts';
import { invitationOfLink, type LinkedInvitation } from './enter.sql.ts';
import { noteOnce, visitOf } from './invitations.repository.ts';
import { providerNames, siteNames, typeNames } from './names.repository.ts';

/** Before the date of birth: whose clinic it is, and whether it is of any use. Writes nothing. */
export async function lookAtInvitation(
  ctx: Ctx,
  { token }: InputOf<typeof lookContract>,
): Promise<AnswerOf<typeof lookContract>> {
  const invitation = await invitationOfLink(ctx.em, hashOfToken(token), ctx.now);
  if (!invitation) return ctx.fail('LinkGone');
  const { clinic, phone, lockedUntil } = invitation;
  const locked = lockedUntil !== null && new Date(lockedUntil) > ctx.now;
  return { clinic, phone, locked, over: overBecause(invitation, ctx.now) };
}

/** An invitation that can be used, after the date of birth. */
export async function usable(
  ctx: Ctx,
  input: { token: string; birthDate: string },
): Promise<LinkedInvitation | Failure<'LinkGone' | 'LinkLocked' | 'WrongBirthDate' | 'InvitationOver'>> {
  const invitation = await enterInvitation(ctx, input);
  if (invitation instanceof Failure) return invitation;
  const over = overBecause(invitation, ctx.now);
  return over ? ctx.fail('InvitationOver', { facts: { over } }) : invitation;
}

export async function openInvitation(
  ctx: Ctx,
  input: InputOf<typeof openContract>,
): Promise<AnswerOf<typeof openContract>> {
  const invitation = await usable(ctx, input);
  if (invitation instanceof Failure) return invitation;
  await noteOnce(ctx.em, invitation.id, { kind: 'opened', at: ctx.now });
  if (invitation.planId !== null) ctx.emit({ type: 'recalls-changed' });
  const { rules, givenName, reason, usesLeft, untilDate, planId, planActive, moveId, timeZone } = invitation;
  const { language } = input;
  const store = await ctx.clinic({ from: earliestDate(ctx), until: earliestDate(ctx) });
  const minutes = (id: string) => {
    const type = store.plan.visitTypes.find((each) => each.id === id);
    return type ? lengthOf(type) : 0;
  };
  const visitId = moveId ?? bookedAlready(invitation)?.id ?? null;
  const visit = visitId === null ? null : await visitOf(ctx.em, visitId);
  const [provider] = visit?.providerId ? await providerNames(ctx.em, [visit.providerId], language) : [];
  return {
    invitation: {
      ...{ givenName, reason, usesLeft, until: untilDate, moves: moveId !== null },
      today: epochToWall(timeZone, nowMinute(ctx)).date,
      types: (await typeNames(ctx.em, rules.typeIds, language)).map((type) => ({ ...type, minutes: minutes(type.id) })),
      sites: (await siteNames(ctx.em, rules.siteIds)).map(({ id, name, address }) => ({ id, name, address })),
      mayAnswer: planId !== null && planActive === true,
      visit: visit && {
        ...{ start: visit.startsAt.toISOString(), timeZone: visit.site.timeZone, site: visit.site.publicName },
        provider: provider?.name ?? null,
      },
    },
  };
}

type Narrowed = Pick<InputOf<typeof daysContract>, 'visitTypeId' | 'siteId' | 'providerId' | 'part'>;

/** What is searched for: within the limits of the invitation, and what the patient has narrowed it to. */
async function searchOf(
  ctx: Ctx,
  { rules, patientId, status, access, moveId }: LinkedInvitation,
  { visitTypeId, siteId, part }: Narrowed,
  dates: { from: LocalDate; until: LocalDate },
): Promise<{ index: ClinicIndex; criteria: SearchCriteria; siteIds: string[] }> {
  const store = await ctx.clinic(dates);
  const who = { kind: kindOf({ status }), patientId, ignoreVisitId: moveId };
  const isKnown = store.plan.visitTypes.some(({ id }) => id === visitTypeId) && rules.typeIds.includes(visitTypeId);
  const sites = store.plan.sites.map(({ id }) => id);
  return {
    index: new ClinicIndex(withAccess(store, access), nowMinute(ctx)),
    criteria: criteriaOfInvitation({ ...rules, ...inPart(rules, part) }, visitTypeId, who),
    siteIds: isKnown
      ? sites.filter((id) => (siteId === null || id === siteId) && (rules.siteIds?.includes(id) ?? true))
      : [],
  };
}

/** The whole window with counts: two providers free at once count once. */
export async function invitationDays(
  ctx: Ctx,
  input: InputOf<typeof daysContract>,
): Promise<AnswerOf<typeof daysContract>> {
  const invitation = await usable(ctx, input);
  if (invitation instanceof Failure) return invitation;
  const from = earliestDate(ctx);
  const longest = addDays(from, await longestWindowDays(ctx.em, input.visitTypeId));
  const { untilDate } = invitation.rules;
  const until = untilDate !== null && untilDate < longest ? untilDate : longest;
  const { date: today } = epochToWall(invitation.timeZone, nowMinute(ctx));
  if (until < from) return { from: today, until: today, days: [], providers: [] };
  const { index, criteria, siteIds } = await searchOf(ctx, invitation, input, { from, until });
  const starts = new Map<LocalDate, Map<string, Mask>>();
  const providers = new Set<string>();
  for (const open of openDays(index, criteria, { siteIds, providerIds: invitation.rules.providerIds, from, until })) {
    if (open.providerId !== null) providers.add(open.providerId);
    if (input.providerId !== null && open.providerId !== input.providerId) continue;
    const bySite = starts.get(open.day.date) ?? new Map<string, Mask>();
    const mask = bySite.get(open.siteId) ?? emptyMask();
    orInto(mask, open.starts);
    starts.set(open.day.date, bySite.set(open.siteId, mask));
  }
  await noteOnce(ctx.em, invitation.id, { kind: 'looked', at: ctx.now });
  const days = [...starts].map(([date, bySite]) => ({
    date,
    starts: [...bySite.values()].reduce((sum, mask) => sum + countCells(mask), 0),
  }));
  days.sort((a, b) => (a.date < b.date ? -1 : 1));
  return {
    // As the patient counts days; a site further west may still be at yesterday.
    from: days.length && days[0].date < today ? days[0].date : today,
    until: until < today ? today : until,
    days,
    providers: await providerNames(ctx.em, [...providers], input.language),
  };
}

export async function invitationTimes(
  ctx: Ctx,
  input: InputOf<typeof timesContract>,
): Promise<AnswerOf<typeof timesContract>> {
  const invitation = await usable(ctx, input);
  if (invitation instanceof Failure) return invitation;
  const { date, providerId } = input;
  const day = { from: date, until: date };
  const { index, criteria, siteIds } = await searchOf(ctx, invitation, input, day);
  const allowed = invitation.rules.providerIds;
  const lanes = new Map<string, { siteId: string; timeZone: string; providerId: string | null; starts: string[] }>();
  for (const found of searchOpenings(index, criteria, { ...day, siteIds, providerIds: allowed })) {
    if (providerId !== null && found.providerId !== providerId) continue;
    const key = `${found.siteId} ${found.providerId}`;
    const timeZone = index.plan.sites.find(({ id }) => id === found.siteId)?.zone ?? 'UTC';
    const lane = lanes.get(key) ?? { siteId: found.siteId, timeZone, providerId: found.providerId, starts: [] };
    lane.starts.push(toWire(found.start));
    lanes.set(key, lane);
  }
  return { lanes: [...lanes.values()] };
}

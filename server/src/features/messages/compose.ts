import { channelOf } from '@zaguan/core/messages';
import { planReminders, DEFAULT_QUIET_HOURS, DEFAULT_REMINDER_STEPS } from '@zaguan/core/reminders';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { ensureLink, linkAddress, linkLength, tokenOf } from '../linkTokens/index.ts';
import type { NewMessage } from './messages.repository.ts';
import { type MessagedVisit, messagedVisit, type Reach, reachOf } from './messages.sql.ts';
import { writeMail } from './words.mail.ts';
import { type Besides, type OfVisit, writeMessage } from './words.ts';

/** Who can be told of a visit, and where; `null`: nobody. */
export async function reach(ctx: Ctx, visit: MessagedVisit): Promise<Reach | null> {
  return visit.contact ? reachOf(ctx.em, ctx.newId(), visit.contact) : null;
}

/** Where this visit's messages may go; `null`: nowhere. */
export const openTo = (to: Reach | null) => (to && !to.optedOut ? to.contactPointId : null);

export const channelFor = (visit: MessagedVisit) => channelOf(visit.contact ?? '');

/** The address of a visit's page for its patient. */
export async function linkOfVisit(ctx: Ctx, visit: { id: string; endsAt: Date }): Promise<string> {
  const id = await ensureLink(ctx.em, visit, ctx.newId(), ctx.linkSecret);
  return linkAddress(ctx.addresses.publicUrl, tokenOf(id, ctx.linkSecret));
}

/** Whether the clinic has yet to agree: until then nothing is confirmed and nobody is reminded. */
export const waiting = (visit: MessagedVisit) => visit.approval === 'waiting';

/** A visit with what a message about it needs. */
export async function required(ctx: Ctx, appointmentId: string): Promise<MessagedVisit> {
  const visit = await messagedVisit(ctx.em, appointmentId);
  if (!visit) throw new Error('A message is planned for a visit in the same transaction.');
  return visit;
}

export function bodyOf(ctx: Ctx, kind: OfVisit, visit: MessagedVisit, besides: Besides = {}): string {
  return channelFor(visit) === 'email'
    ? writeMail(kind, visit.language, visit, besides)
    : writeMessage(kind, visit.language, { ...visit, linkLength: linkLength(ctx.addresses.publicUrl) }, besides);
}

/** What tells of a visit at once. */
export function compose(
  ctx: Ctx,
  visit: MessagedVisit,
  contactPointId: string,
  kind: Exclude<OfVisit, 'reminder'>,
  {
    elsewhere = false,
    comesAt = null,
    notAfter = visit.endsAt,
    ...besides
  }: { elsewhere?: boolean; comesAt?: Date | null; notAfter?: Date } & Omit<Besides, 'place'> = {},
): NewMessage {
  return {
    id: ctx.newId(),
    appointmentId: visit.id,
    visitDate: visit.siteDate,
    contactPointId,
    channel: channelFor(visit),
    kind,
    step: null,
    language: visit.language,
    body: bodyOf(ctx, kind, visit, { ...besides, place: elsewhere ? visit.place : null }),
    sendAt: ctx.now,
    notAfter,
    droppedCode: null,
    createdAt: ctx.now,
    answersPatient: ctx.actor.kind === 'patient',
    comesAt,
  };
}

/** Every reminder of a visit, planned or dropped with its rule. */
export function reminders(ctx: Ctx, visit: MessagedVisit, to: Reach | null): NewMessage[] {
  const now = nowMinute(ctx);
  const planned = planReminders(DEFAULT_REMINDER_STEPS, {
    now,
    start: visit.startsAt.getTime() / 60_000,
    siteZone: visit.timeZone,
    zones: [visit.timeZone],
    quiet: DEFAULT_QUIET_HOURS,
    status: visit.status,
    reachable: to !== null,
    optedOut: to?.optedOut ?? false,
    laneLeftOut: visit.laneLeftOut,
    others: [now],
  });
  return planned.map((each) => {
    const at = each.outcome === 'planned' ? each.sendAt : each.wouldBe;
    return {
      id: ctx.newId(),
      appointmentId: visit.id,
      visitDate: visit.siteDate,
      contactPointId: to?.contactPointId ?? null,
      channel: channelFor(visit),
      kind: 'reminder',
      step: each.step,
      language: visit.language,
      body: bodyOf(ctx, 'reminder', visit),
      sendAt: new Date(at * 60_000),
      notAfter: visit.startsAt,
      droppedCode: each.outcome === 'dropped' ? each.code : null,
      createdAt: ctx.now,
      answersPatient: false,
    };
  });
}

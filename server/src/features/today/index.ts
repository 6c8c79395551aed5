import { overdueRequests } from '../bookingRequests/index.ts';
import type { InputOf, OutputOf } from '@zaguan/contracts';
import {
  claimWork,
  countWork,
  handleWork,
  assignFlag,
  seeOpening,
  todaysWork,
  type Work,
} from '@zaguan/contracts/today';
import { answerText, RED_FLAG_SEVERITIES } from '@zaguan/core/intake';
import { fullName, restrictedName } from '@zaguan/core/patients';
import { dueOf, WITH_CLINICIAN_MIN, isWithClinician, mayAssign, type WorkKind } from '@zaguan/core/work';
import { coversSite, type Ctx, includesSite, nowMinute, siteList, sitesFor } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { type AnswerOf, handle } from '../../platform/endpoint/handler.ts';
import { countVisitsToMove } from '../availability/index.ts';
import { upcomingVisits, type VisitReady } from '../intake/index.ts';
import { hiddenVisits, setSeen, unseenOpenings } from '../restricted/index.ts';
import { codesRunningOut } from '../verification/index.ts';
import { hiddenInvitees, invitedName } from './invitees.ts';
import {
  type ClaimRow,
  claims,
  clinicians,
  assignFlagTo,
  flagOwnerForUpdate,
  releaseWork,
  unassignFlag,
  type HandledKind,
  setHandled,
  siteOfWork,
  claimWorkFor,
} from './today.repository.ts';
import {
  openApprovals,
  openCoverage,
  openFailures,
  openFlags,
  openInbox,
  openIdentityReview,
  type WorkRow,
} from './today.sql.ts';
import { type UndoAnswer, undoWith } from '../../platform/undo/undo.ts';

const wire = (text: string) => new Date(text).toISOString();
const minute = (text: string) => Math.floor(Date.parse(text) / 60_000);

/** What every kind of work has in common: since when, until when, whose, about which visit. */
function common(ctx: Ctx, kind: WorkKind, row: WorkRow, owner: ClaimRow | undefined, hidden: boolean) {
  const visit = row.appointmentId
    ? {
        appointmentId: row.appointmentId,
        name: hidden ? restrictedName(row.givenName, row.familyName) : row.name,
        siteId: row.siteId ?? '',
        siteName: row.site,
        timeZone: row.timeZone,
        date: row.siteDate,
        start: wire(row.startsAt),
      }
    : null;
  const due = dueOf(kind, {
    since: minute(row.since),
    visit: visit && { start: minute(visit.start), zone: visit.timeZone },
    urgent: 'failReason' in row && row.failReason === 'night-call',
  });
  return {
    id: row.id,
    since: wire(row.since),
    due: new Date(due * 60_000).toISOString(),
    owner: owner
      ? { name: owner.name, mine: ctx.actor.kind === 'staff' && owner.ownerId === ctx.actor.accountId }
      : null,
    visit,
  };
}

/** A visit of today or tomorrow that check-in would not let through, as far as someone can still help it. */
function toNotReady({
  visit,
  readiness,
}: VisitReady): (WorkRow & { missing: VisitReady['readiness']['items'] }) | null {
  // Who is not known, and what raised a red flag, is work of its own above.
  const missing = readiness.items.filter(
    (item) => item.needed && item.state === 'missing' && item.code !== 'person' && item.code !== 'red-flag',
  );
  if (!missing.length || (visit.status !== 'booked' && visit.status !== 'arrived')) return null;
  return {
    id: visit.id,
    since: visit.startsAt,
    missing,
    appointmentId: visit.id,
    name: fullName(visit.givenName, visit.familyName),
    givenName: visit.givenName,
    familyName: visit.familyName,
    patientId: visit.patientId,
    siteId: visit.siteId,
    site: '',
    timeZone: visit.timeZone,
    siteDate: visit.siteDate,
    startsAt: visit.startsAt,
  };
}

/** Until when a flag that was assigned is the clinician's alone; `null` if it is not, or no longer. */
function withClinicianUntil(owner: ClaimRow | undefined, ctx: Ctx): string | null {
  if (!owner?.assignedBy) return null;
  const assignedAt = Math.floor(owner.ownedAt.getTime() / 60_000);
  return isWithClinician(assignedAt, nowMinute(ctx))
    ? new Date((assignedAt + WITH_CLINICIAN_MIN) * 60_000).toISOString()
    : null;
}

const mayBeAssigned = (owner: ClaimRow | null | undefined, ctx: Ctx): boolean =>
  mayAssign(
    owner
      ? {
          mine: ctx.actor.kind === 'staff' && owner.ownerId === ctx.actor.accountId,
          assignedAt: owner.assignedBy === null ? null : Math.floor(owner.ownedAt.getTime() / 60_000),
        }
      : null,
    nowMinute(ctx),
  );

/** Danger goes before any due time. */
function dangerOf(work: Work): number {
  return work.kind === 'red-flag' ? RED_FLAG_SEVERITIES.indexOf(work.severity) : RED_FLAG_SEVERITIES.length;
}

async function list(ctx: Ctx): Promise<OutputOf<typeof todaysWork>> {
  const sites = sitesFor(ctx, 'today.work');
  // Work that belongs to no visit belongs to every desk.
  const mine = <T extends WorkRow>(rows: T[]) =>
    rows.filter((row) => row.siteId === null || includesSite(sites, row.siteId));
  const owners = await claims(ctx.em);
  const all: { row: WorkRow; work: Work; hidden: boolean }[] = [];
  const add = async <T extends WorkRow>(
    kind: WorkKind,
    found: T[],
    more: (row: T, hidden: boolean, owner: ClaimRow | undefined) => object,
  ) => {
    const rows = mine(found);
    const unseen = await hiddenVisits(
      ctx,
      rows.map((row) => row.appointmentId),
    );
    for (const row of rows) {
      const hidden = row.appointmentId !== null && unseen.has(row.appointmentId);
      const owner = owners.find((claim) => claim.kind === kind && claim.subjectId === row.id);
      const work = { ...common(ctx, kind, row, owner, hidden), kind, ...more(row, hidden, owner) } as Work;
      all.push({ row, hidden, work });
    }
  };
  await add('red-flag', await openFlags(ctx.em), (row, hidden, owner) => ({
    withClinicianUntil: withClinicianUntil(owner, ctx),
    mayAssign: mayBeAssigned(owner, ctx),
    question: row.item?.text ?? { en: row.linkId, es: row.linkId },
    answer: answerText(row.item ?? undefined, row.answer),
    told: row.advice,
    severity: row.severity,
    phone: hidden ? null : row.phone,
    visitStatus: row.visitStatus,
  }));
  // Whom one may not see one need not call: a number or an answer would tell who it is.
  await add('inbox', await openInbox(ctx.em), ({ contact, body }, hidden) =>
    hidden ? { contact: '', body: '' } : { contact, body },
  );
  const failures = await openFailures(ctx.em, ctx.now);
  const unseen = await hiddenInvitees(ctx, failures);
  await add('failed', failures, (row, hidden) => {
    const mayNot = hidden || unseen.has(row.id);
    return {
      contact: mayNot ? '' : row.contact,
      message: row.kind,
      step: row.step,
      reason: row.failReason,
      invited: row.invitedId === null ? null : { patientId: row.invitedId, name: invitedName(row, mayNot) },
    };
  });
  await add('identity-review', await openIdentityReview(ctx.em), () => ({}));
  await add('approval', await openApprovals(ctx.em), () => ({}));
  await add('coverage', await openCoverage(ctx.em, ctx.now), (row) => ({
    payer: row.payer,
    referralSaid: row.referralSaid,
  }));
  for (const { site, visits } of await upcomingVisits(ctx, sites)) {
    const rows = visits
      .flatMap((ready) => toNotReady(ready) ?? [])
      .filter((row) => minute(row.startsAt) > nowMinute(ctx));
    await add(
      'not-ready',
      rows.map((row) => ({ ...row, site: site.name })),
      ({ missing }) => ({ missing: [...new Set(missing.map(({ code }) => code))] }),
    );
  }
  ctx.viewed(all.flatMap(({ row, hidden }) => (row.patientId && !hidden ? [row.patientId] : [])));
  return {
    now: ctx.now.toISOString(),
    unreadable: [],
    work: all.map(({ work }) => work).sort((a, b) => dangerOf(a) - dangerOf(b) || a.due.localeCompare(b.due)),
    codes: await codesRunningOut(ctx),
    overdueRequests: await overdueRequests(ctx),
    toMove: await countVisitsToMove(ctx, siteList(sites)),
    opened: await openedRecords(ctx),
    clinicians: await clinicians(ctx.em),
  };
}

/** Restricted records that were opened with a reason and that nobody who may restrict records has seen yet. */
async function openedRecords(ctx: Ctx): Promise<OutputOf<typeof todaysWork>['opened']> {
  if (ctx.scope('patients.restrict') === 'no') return [];
  return (await unseenOpenings(ctx.em)).map(({ id, patientId, reason, at, account, patient }) => ({
    ...{ id, patientId, reason },
    recordNumber: patient.recordNumber,
    by: account.name,
    at: at.toISOString(),
  }));
}

async function see(ctx: Ctx, { id }: InputOf<typeof seeOpening>): Promise<AnswerOf<typeof seeOpening>> {
  if (ctx.actor.kind !== 'staff' || !(await setSeen(ctx.em, id, ctx.actor.accountId, ctx.now)))
    return ctx.fail('NotFound');
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({ subjects: [{ kind: 'restricted-opening', id }], after: { seen: true } });
  return {};
}

/** Counts alone: nobody's name is read for them. */
async function count(ctx: Ctx): Promise<OutputOf<typeof countWork>> {
  const sites = sitesFor(ctx, 'today.work');
  const mine = (rows: readonly { siteId: string | null }[]) =>
    rows.filter((row) => row.siteId === null || includesSite(sites, row.siteId)).length;
  // Whoever can't clear a flag has done with it while it is with a clinician; it comes back if it stands too long.
  const mayClear = ctx.scope('red-flag.clear') !== 'no';
  const owners = mayClear ? [] : await claims(ctx.em);
  const isTheirs = (id: string) =>
    owners.some(
      (claim) => claim.kind === 'red-flag' && claim.subjectId === id && withClinicianUntil(claim, ctx) !== null,
    );
  const redFlags = mine((await openFlags(ctx.em)).filter(({ id }) => !isTheirs(id)));
  const identityReview = mine(await openIdentityReview(ctx.em)) + mine(await openApprovals(ctx.em));
  const rest =
    mine(await openInbox(ctx.em)) +
    mine(await openFailures(ctx.em, ctx.now)) +
    mine(await openCoverage(ctx.em, ctx.now));
  const opened = (await openedRecords(ctx)).length;
  return { redFlags, identityReview, work: redFlags + identityReview + rest + opened };
}

/** Work the caller may touch; anything else is a refusal. */
async function open(
  ctx: Ctx,
  kind: WorkKind,
  id: string,
): Promise<Failure<'NotFound' | 'NotAllowed'> | { accountId: string; subjects: { kind: string; id: string }[] }> {
  if (ctx.actor.kind !== 'staff') return ctx.fail('NotAllowed');
  const found = await siteOfWork(ctx.em, kind, id);
  if (!found) return ctx.fail('NotFound');
  if (found.siteId && !coversSite(ctx, 'today.work', found.siteId)) return ctx.fail('NotAllowed');
  // The visit's own history says what was done about it.
  const visit =
    found.appointmentId && found.appointmentId !== id ? [{ kind: 'appointment', id: found.appointmentId }] : [];
  return { accountId: ctx.actor.accountId, subjects: [{ kind, id }, ...visit] };
}

async function claim(ctx: Ctx, { kind, id, take }: InputOf<typeof claimWork>): Promise<AnswerOf<typeof claimWork>> {
  const opened = await open(ctx, kind, id);
  if (!('accountId' in opened)) return opened;
  if (take) {
    const owner = await claimWorkFor(ctx.em, kind, id, { accountId: opened.accountId, at: ctx.now });
    if (owner.accountId !== opened.accountId) return ctx.fail('TakenBy', { facts: { by: owner.name } });
  } else await releaseWork(ctx.em, kind, id, opened.accountId);
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({ subjects: [{ kind, id }], after: { taken: take } });
  return {};
}

async function assign(ctx: Ctx, { id, accountId }: InputOf<typeof assignFlag>): Promise<AnswerOf<typeof assignFlag>> {
  const opened = await open(ctx, 'red-flag', id);
  if (!('accountId' in opened)) return opened;
  if (!(await clinicians(ctx.em)).some((each) => each.accountId === accountId))
    return ctx.fail('NotAllowed', { facts: { action: 'red-flag.clear' } });
  const before = await flagOwnerForUpdate(ctx.em, id);
  if (before && !mayBeAssigned(before, ctx)) return ctx.fail('TakenBy', { facts: { by: before.name } });
  const to = { accountId, by: opened.accountId, at: ctx.now, from: before?.ownerId ?? null };
  const owner = await assignFlagTo(ctx.em, id, to);
  if (owner.accountId !== accountId) return ctx.fail('TakenBy', { facts: { by: owner.name } });
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({ subjects: opened.subjects, after: { assignedTo: owner.name } });
  return {
    undo: await ctx.undoable({ command: 'today.unassignFlag', input: { id }, label: { what: 'flag-assigned' } }),
  };
}

async function takeBack(ctx: Ctx, { id }: { id: string }): Promise<UndoAnswer> {
  const opened = await open(ctx, 'red-flag', id);
  if (!('accountId' in opened)) return opened;
  if (!(await unassignFlag(ctx.em, id, opened.accountId))) return ctx.fail('ChangedMeanwhile');
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({ subjects: opened.subjects, after: { assignedTo: null } });
  return {};
}

async function finish(
  ctx: Ctx,
  { kind, id, outcome }: InputOf<typeof handleWork>,
): Promise<AnswerOf<typeof handleWork>> {
  const opened = await open(ctx, kind, id);
  if (!('accountId' in opened)) return opened;
  const done = await setHandled(ctx.em, kind, id, { at: ctx.now, accountId: opened.accountId, outcome });
  if (!done) return ctx.fail(done === null ? 'NotFound' : 'DecidedAlready');
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({ subjects: opened.subjects, after: { handled: true, outcome } });
  return { undo: await ctx.undoable({ command: 'today.reopen', input: { kind, id }, label: { what: 'handled' } }) };
}

async function reopen(ctx: Ctx, { kind, id }: { kind: HandledKind; id: string }): Promise<UndoAnswer> {
  const opened = await open(ctx, kind, id);
  if (!('accountId' in opened)) return opened;
  const done = await setHandled(ctx.em, kind, id, null);
  if (!done) return ctx.fail('NotFound');
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({ subjects: opened.subjects, after: { handled: false } });
  return {};
}

export const todayEndpoints = [
  handle(todaysWork, list),
  handle(countWork, count),
  handle(claimWork, claim),
  handle(assignFlag, assign),
  handle(handleWork, finish),
  handle(seeOpening, see),
];

/** Commands that may stand as an inverse. */
export const todayCommands = {
  'today.reopen': undoWith('today.work', reopen),
  'today.unassignFlag': undoWith('today.work', takeBack),
};

import type { InputOf, OutputOf } from '@zaguan/contracts';
import { handleWork, todaysWork } from '@zaguan/contracts/today';
import { coversSite, type Ctx, sitesFor } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import {
  type AboutRow,
  openFailures,
  openInbox,
  setHandled,
  siteOfWork,
  vestibuleSummary,
  type WorkKind,
} from './today.repository.ts';

const wire = (text: string) => new Date(text).toISOString();

function about(row: AboutRow): OutputOf<typeof todaysWork>['inbox'][number]['visit'] {
  return row.appointment_id
    ? {
        appointmentId: row.appointment_id,
        name: row.name,
        siteName: row.site,
        timeZone: row.time_zone,
        date: row.site_date,
        start: wire(row.starts_at),
      }
    : null;
}

async function list(ctx: Ctx): Promise<OutputOf<typeof todaysWork>> {
  const sites = sitesFor(ctx, 'today.work');
  // Work that belongs to no visit belongs to every desk.
  const mine = <T extends AboutRow>(rows: T[]) =>
    rows.filter((row) => sites === null || row.site_id === null || sites.includes(row.site_id));
  const inbox = mine(await openInbox(ctx.em));
  const failed = mine(await openFailures(ctx.em));
  const vestibule = await vestibuleSummary(ctx.em, sites);
  ctx.viewed([...inbox, ...failed].flatMap((row) => (row.patient_id ? [row.patient_id] : [])));
  return {
    now: ctx.now.toISOString(),
    vestibule: {
      count: vestibule.n,
      firstStart: vestibule.first && wire(vestibule.first),
      timeZone: vestibule.time_zone,
    },
    inbox: inbox.map((row) => ({
      id: row.id,
      number: row.number,
      body: row.body,
      receivedAt: wire(row.received_at),
      visit: about(row),
    })),
    failed: failed.map((row) => ({
      id: row.id,
      number: row.number,
      kind: row.kind,
      step: row.step,
      reason: row.fail_reason,
      at: wire(row.settled_at),
      visit: about(row),
    })),
  };
}

async function finish(
  ctx: Ctx,
  { kind, id }: InputOf<typeof handleWork>,
): Promise<OutputOf<typeof handleWork> | Failure> {
  if (ctx.actor.kind !== 'staff') return ctx.fail('NotAllowed');
  const siteId = await siteOfWork(ctx.em, kind, id);
  if (siteId && !coversSite(ctx, 'today.work', siteId)) return ctx.fail('NotAllowed');
  const done = await setHandled(ctx.em, kind, id, { at: ctx.now, accountId: ctx.actor.accountId });
  if (!done) return ctx.fail(done === null ? 'NotFound' : 'DecidedAlready');
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({ subjects: [{ kind, id }], after: { handled: true } });
  return { undo: await ctx.undoable({ command: 'today.reopen', input: { kind, id }, label: { what: 'handled' } }) };
}

async function reopen(ctx: Ctx, { kind, id }: { kind: WorkKind; id: string }): Promise<object | Failure> {
  const done = await setHandled(ctx.em, kind, id, null);
  if (!done) return ctx.fail('NotFound');
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({ subjects: [{ kind, id }], after: { handled: false } });
  return {};
}

export const todayEndpoints = [handle(todaysWork, list), handle(handleWork, finish)];

/** Commands that may stand as an inverse. */
export const todayCommands = { 'today.reopen': reopen };

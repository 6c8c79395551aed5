import { randomUUID } from 'node:crypto';
import { scopeOf } from '@zaguan/contracts';
import { undo } from '@zaguan/contracts/undo';
import { type AuditEntry, appendAudit } from '../audit/audit.ts';
import { appendRead } from '../audit/audit.sql.ts';
import { readClock } from '../clock/clock.ts';
import { isWorthRetrying } from '../db/failures.ts';
import type { Orm } from '../db/orm.ts';
import type { Actor, Addresses, AuditWrite, ClinicReader, Ctx, DomainEvent } from '../endpoint/context.ts';
import { Failure, RolledBack } from '../endpoint/failure.ts';
import type { Relay } from '../events/relay.ts';
import { writeTrail } from './trail.sql.ts';
import { keepInverse } from '../undo/undo.ts';

export interface UnitDeps {
  readonly orm: Orm;
  readonly relay: Relay;
  readonly linkSecret: string;
  readonly addresses: Addresses;
  readonly clinic: ClinicReader;
}

export interface Unit {
  /** As it stands in the audit. */
  readonly command: string;
  readonly actor: Actor;
  readonly requestId: string;
  readonly browserHash?: Buffer | null;
  readonly caller?: Ctx['caller'];
  /** Reads of people's records are put into the audit. */
  readonly readsPatients?: boolean;
  /** What a refused call wrote stays (a wrong try must count). */
  readonly keepsRefused?: boolean;
  /** It does something that no rollback takes back, such as beginning a session: never done again by itself. */
  readonly once?: boolean;
}

/** Deadlocks and serialization failures are tried again so often in all. */
const MAX_ATTEMPTS = 4;
const RETRY_MS = 30;

/**
 * One use case, one transaction: the present is read once, and events and audit are written with what caused them. A
 * refusal rolls back by throwing `RolledBack`, unless what it wrote must stay.
 */
export async function unitOfWork<T>(
  deps: UnitDeps,
  unit: Unit,
  run: (ctx: Ctx) => Promise<T | Failure>,
): Promise<T | Failure> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await once(deps, unit, run);
    } catch (error) {
      // Rolled back whole, so that doing it again is doing it once.
      if (unit.once || attempt === MAX_ATTEMPTS || !isWorthRetrying(error)) throw error;
      await new Promise((resolve) => setTimeout(resolve, attempt * RETRY_MS * (0.5 + Math.random())));
    }
  }
}

async function once<T>(deps: UnitDeps, unit: Unit, run: (ctx: Ctx) => Promise<T | Failure>): Promise<T | Failure> {
  const events: DomainEvent[] = [];
  const writes: AuditWrite[] = [];
  const viewed: string[] = [];
  const { actor, command, requestId } = unit;
  const result = await deps.orm.em.fork().transactional(async (em) => {
    const now = await readClock(em);
    const value = await run({
      now,
      em,
      actor,
      requestId,
      browserHash: unit.browserHash ?? null,
      caller: unit.caller ?? null,
      linkSecret: deps.linkSecret,
      addresses: deps.addresses,
      clinic: (dates) => deps.clinic.read(em, dates, now),
      fail: (tag, details) => new Failure(tag, details),
      emit: (event) => {
        events.push(event);
      },
      wrote: (entry) => {
        writes.push(entry);
      },
      viewed: (ids) => {
        viewed.push(...ids);
      },
      newId: () => randomUUID(),
      scope: (action) => (actor.kind === 'staff' ? scopeOf(actor.role, action) : 'no'),
      undoable: async (inverse) => {
        const id = randomUUID();
        // What takes something back can be taken back too, by the notice alone: it is no act of its own.
        const label = command === undo.name ? { ...inverse.label, redo: 'yes' } : inverse.label;
        if (actor.kind === 'staff') await keepInverse(em, actor.accountId, id, now, { ...inverse, label });
        return { id };
      },
    });
    if (value instanceof Failure) {
      if (unit.keepsRefused) return value;
      throw new RolledBack(value);
    }
    const by = { command, actor, requestId, at: now };
    await writeTrail(em, by, writes, events);
    if (unit.readsPatients && viewed.length) await noteRead(em, by, [...new Set(viewed)]);
    return value;
  });
  if (events.length) deps.relay.kick();
  return result;
}

/** Staff look at the same page again and again; a patient's link is opened seldom, and each time counts. */
function noteRead(
  em: Ctx['em'],
  by: Omit<AuditEntry, 'kind' | 'subjects'>,
  patientIds: readonly string[],
): Promise<void> {
  if (by.actor.kind === 'staff') return appendRead(em, { ...by, accountId: by.actor.accountId, patientIds });
  return appendAudit(em, [{ ...by, kind: 'read', subjects: patientIds.map((id) => ({ kind: 'patient', id })) }]);
}

import { defineEntity, p } from '@mikro-orm/core';
import type { Row } from './rows.ts';

/** The domain clock: real time plus an offset, always 0 outside the demo. One row. */
export const DomainClockEntity = defineEntity({
  name: 'DomainClock',
  tableName: 'domain_clock',
  properties: {
    onlyRow: p.boolean().primary().default(true),
    offsetMs: p.bigint('number').default(0),
  },
});
export type DomainClock = Row<typeof DomainClockEntity>;

/** Failed attempts by key (the hash of what they are counted for), and until when more are refused. */
export const AttemptEntity = defineEntity({
  name: 'Attempt',
  tableName: 'attempt',
  properties: {
    key: p.blob().$type<Buffer>().primary(),
    failures: p.integer(),
    lockedUntil: p.datetime().nullable(),
    at: p.datetime(),
  },
});
export type Attempt = Row<typeof AttemptEntity>;

/** Calls of one caller in the running window. */
export const RateLimitEntity = defineEntity({
  name: 'RateLimit',
  tableName: 'rate_limit',
  properties: {
    key: p.text().primary(),
    hits: p.integer(),
    resetsAt: p.datetime(),
  },
});
export type RateLimit = Row<typeof RateLimitEntity>;

/** A solved puzzle that has opened a hold, until it would have expired. */
export const SpentProofEntity = defineEntity({
  name: 'SpentProof',
  tableName: 'spent_proof',
  properties: {
    signature: p.text().primary(),
    expiresAt: p.datetime(),
  },
});
export type SpentProof = Row<typeof SpentProofEntity>;

/** Who read or changed what. Append-only, one partition a month. */
export const AuditEntryEntity = defineEntity({
  name: 'AuditEntry',
  tableName: 'audit_entry',
  properties: {
    id: p.bigint('number').autoincrement().primary(),
    at: p.datetime().primary(),
    kind: p.text().$type<'write' | 'read'>(),
    command: p.text(),
    actorKind: p.text().$type<'staff' | 'patient' | 'system'>(),
    accountId: p.uuid().nullable(),
    requestId: p.text(),
    subjects: p.json<{ kind: string; id: string }[]>(),
    before: p.json<Record<string, unknown>>().nullable(),
    after: p.json<Record<string, unknown>>().nullable(),
  },
});
export type AuditEntry = Row<typeof AuditEntryEntity>;

/** The outbox of events, written with what caused them. One partition a month. */
export const DomainEventEntity = defineEntity({
  name: 'DomainEvent',
  tableName: 'domain_event',
  properties: {
    id: p.bigint('number').autoincrement().primary(),
    at: p.datetime().primary(),
    type: p.text(),
    payload: p.json<Record<string, unknown>>(),
    relayedAt: p.datetime().nullable(),
  },
});
export type DomainEvent = Row<typeof DomainEventEntity>;

/** Which subscriber has handled which event. */
export const EventDeliveryEntity = defineEntity({
  name: 'EventDelivery',
  tableName: 'event_delivery',
  properties: {
    eventId: p.bigint('number').primary(),
    subscriber: p.text().primary(),
  },
});
export type EventDelivery = Row<typeof EventDeliveryEntity>;

/** What changed for searches; written by triggers, read by every process that keeps the clinic in memory. */
export const OpeningsChangeEntity = defineEntity({
  name: 'OpeningsChange',
  tableName: 'openings_change',
  properties: {
    seq: p.bigint('number').autoincrement().primary(),
    xid: p.text().columnType('xid8').defaultRaw(`pg_current_xact_id()`),
    kind: p.text().$type<'plan' | 'visit'>(),
    ref: p.uuid().nullable(),
    at: p.datetime().defaultRaw(`clock_timestamp()`),
  },
});
export type OpeningsChange = Row<typeof OpeningsChangeEntity>;

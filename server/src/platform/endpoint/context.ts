import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { ClinicStore } from '@zaguan/core/openings';
import { epochToWall, type LocalDate } from '@zaguan/core/time';
import type { Action, ErrorTag, LiveEvent, Role, Scope } from './types.ts';
import type { Failure, FailureDetails } from './failure.ts';

/** Who calls: a member of staff, or a patient's browser (known by a cookie's hash, never by name). */
export type Actor =
  | {
      readonly kind: 'staff';
      readonly accountId: string;
      readonly name: string;
      readonly role: Role;
      /** The provider or nurse who signs in with this account. */
      readonly resourceId: string | null;
      /** `null`: all sites. */
      readonly siteIds: readonly string[] | null;
    }
  | { readonly kind: 'patient' }
  | { readonly kind: 'system' };

/** Something that happened; written in the transaction, handed on after it. */
export type DomainEvent =
  | { readonly type: 'visit-changed' | 'hold-changed'; readonly siteId: string; readonly date: string }
  | { readonly type: 'hours-changed' | 'work-changed' | 'setup-changed' | 'views-changed' | 'recalls-changed' };

export interface AuditWrite {
  readonly subjects: readonly { readonly kind: string; readonly id: string }[];
  readonly before?: Record<string, unknown> | null;
  readonly after?: Record<string, unknown> | null;
}

/** A use case's inverse: a registered command and its input. */
export interface Inverse {
  readonly command: string;
  readonly input: Record<string, unknown>;
  /** For words: what would be undone. No patient data. */
  readonly label: Record<string, string>;
}

/** Gives the clinic as committed, complete for the dates; `em` reads what is not kept. */
export interface ClinicReader {
  read(em: SqlEntityManager, dates: { from: LocalDate; until: LocalDate }, now: Date): Promise<ClinicStore>;
  /** The same outside of any transaction. */
  keptStore(dates: { from: LocalDate; until: LocalDate }, now: Date): Promise<ClinicStore>;
}

/** Under what the clinic is known outside: the address of these pages, and the one its mail comes from. */
export interface Addresses {
  readonly publicUrl: string;
  readonly mailFrom: string;
}

/** What a use case has at hand. One per request, inside one transaction. */
export interface Ctx {
  /** The domain's present, read once. */
  readonly now: Date;
  readonly em: SqlEntityManager;
  readonly actor: Actor;
  readonly requestId: string;
  /** Hash of the patient's browser cookie. */
  readonly browserHash: Buffer | null;
  /** Who calls, as hashes of the address and of its prefix: for limits alone. `null`: not a patient's call. */
  readonly caller: { readonly address: Buffer; readonly prefix: Buffer } | null;
  /** Makes the tokens of message links; never leaves the server. */
  readonly linkSecret: string;
  readonly addresses: Addresses;
  /** The clinic for a search on these dates (at any site). What this use case has written is not in it. */
  clinic(dates: { from: LocalDate; until: LocalDate }): Promise<ClinicStore>;
  fail<Tag extends ErrorTag>(tag: Tag, details?: FailureDetails): Failure<Tag>;
  emit(event: DomainEvent): void;
  /** What was changed, for the audit. */
  wrote(entry: AuditWrite): void;
  /** Whose records were read, for the audit. */
  viewed(patientIds: readonly string[]): void;
  /** Keeps the inverse; gives the id with which to undo, to staff only. */
  undoable(inverse: Inverse): Promise<{ id: string }>;
  /** How far the caller's role reaches for an action. */
  scope(action: Action): Scope;
  newId(): string;
}

/** The hash of the patient's browser. Only `/public/` endpoints have one: another that asks is a fault in the code. */
export function browserOf({ browserHash }: Pick<Ctx, 'browserHash'>): Buffer {
  if (!browserHash) throw new Error('only a patient’s call has a browser');
  return browserHash;
}

/** Whose account it is; `null`: a patient's call, or the server's own. */
export function accountIdOf({ actor }: Pick<Ctx, 'actor'>): string | null {
  return actor.kind === 'staff' ? actor.accountId : null;
}

/** Epoch minutes of the context's present, as core wants it (rounded up: a start in this minute has begun). */
export function nowMinute(ctx: Pick<Ctx, 'now'>): number {
  return Math.ceil(ctx.now.getTime() / 60_000);
}

/** The earliest date it is anywhere now: what ends today still holds where it is today. A site's own date is by its zone. */
export function earliestDate(ctx: Pick<Ctx, 'now'>): LocalDate {
  return epochToWall('Etc/GMT+12', nowMinute(ctx)).date;
}

/** The latest date it is anywhere now. */
export function latestDate(ctx: Pick<Ctx, 'now'>): LocalDate {
  return epochToWall('Etc/GMT-14', nowMinute(ctx)).date;
}

/** Where something is allowed. Closed by default: whoever has no right to an action has no site for it either. */
export type AllowedSites = 'none' | 'all' | ReadonlySet<string>;

/** Sites at which the caller may do something. */
export function sitesFor(ctx: Pick<Ctx, 'actor' | 'scope'>, action: Action): AllowedSites {
  if (ctx.actor.kind !== 'staff') return 'none';
  switch (ctx.scope(action)) {
    case 'all':
      return 'all';
    case 'own-sites':
      // An account that is bound to no site works at all of them.
      return ctx.actor.siteIds === null ? 'all' : new Set(ctx.actor.siteIds);
    case 'own-hours':
    case 'no':
      return 'none';
  }
}

export function includesSite(sites: AllowedSites, siteId: string): boolean {
  return sites === 'all' || (sites !== 'none' && sites.has(siteId));
}

/** The same as a list for a query: `null` for all, an empty one for none. */
export function siteList(sites: AllowedSites): readonly string[] | null {
  return sites === 'all' ? null : sites === 'none' ? [] : [...sites];
}

/** Whether the caller's role covers a site for an action. */
export function coversSite(ctx: Pick<Ctx, 'actor' | 'scope'>, action: Action, siteId: string): boolean {
  return includesSite(sitesFor(ctx, action), siteId);
}

export type { LiveEvent };

import { z } from 'zod';
import { impact } from '../availability/impact.ts';
import { defineEndpoint } from '../endpoint.ts';
import type { ErrorTag } from '../errors.ts';
import type { Action } from '../roles.ts';
import { undoable, version } from '../wire.ts';

/** Everything that is set up, each kept as one document with a version. */
export const SETUP_KINDS = [
  'clinic',
  'site',
  'person',
  'place',
  'pool',
  'visit-type',
  'payer',
  'field',
  'account',
  'register',
  'recall-plan',
  'invitation-template',
] as const;
export type SetupKind = (typeof SETUP_KINDS)[number];

export const MAX_AT_ONCE = 500;
/** Enough for the largest import. */
const MAX_BYTES = 2_000_000;

/**
 * The endpoints that every kind of set-up record has: list, save (one or many, all or nothing), archive and restore.
 * A new record has version 0 and an id made by who makes it, so that the same call twice makes one record.
 */
export function defineRecords<D extends z.ZodType>(
  kind: SetupKind,
  doc: D,
  { view, edit, errors = [] }: { view: Action; edit: Action; errors?: readonly ErrorTag[] },
) {
  const record = z.strictObject({
    id: z.uuid(),
    version,
    active: z.boolean(),
    changedAt: z.string().nullable(),
    changedBy: z.string().nullable(),
    doc,
  });
  const records = z
    .array(z.strictObject({ id: z.uuid(), version, doc }))
    .min(1)
    .max(MAX_AT_ONCE);
  const path = `/setup/${kind}`;
  return {
    kind,
    doc,
    list: defineEndpoint({
      name: `setup.${kind}.list`,
      method: 'get',
      path,
      summary: `All records of the kind ${kind}, archived ones included and marked.`,
      access: { kind: 'role', action: view },
      output: z.strictObject({ records: z.array(record), mayEdit: z.boolean() }),
      errors: [],
    }),
    save: defineEndpoint({
      name: `setup.${kind}.save`,
      method: 'post',
      path,
      summary: `Save records of the kind ${kind}: all or none. Refused if someone else changed one since it was read.`,
      access: { kind: 'role', action: edit },
      bodyLimit: MAX_BYTES,
      body: z.strictObject({
        records,
        /** Consequences that were shown and agreed to, by code. */
        agreed: z.array(z.string().max(40)).max(10).default([]),
      }),
      output: z.strictObject({ records: z.array(record), undo: undoable }),
      errors: ['ChangedMeanwhile', 'SetupRefused', 'AgreementNeeded', ...errors],
    }),
    effects: defineEndpoint({
      name: `setup.${kind}.effects`,
      method: 'post',
      path: `${path}/effects`,
      summary: `What saving records of the kind ${kind} would do to start times and to what is booked. Saves nothing.`,
      access: { kind: 'role', action: edit },
      bodyLimit: MAX_BYTES,
      body: z.strictObject({ records }),
      output: z.strictObject({
        /** `null` where it would be refused, or where no opening depends on it. */
        impact: impact.nullable(),
      }),
      errors,
      readsPatients: true,
    }),
    archive: defineEndpoint({
      name: `setup.${kind}.archive`,
      method: 'post',
      path: `${path}/archive`,
      summary: `Archive records of the kind ${kind} that nothing hangs on any more, or bring them back.`,
      access: { kind: 'role', action: edit },
      body: z.strictObject({ ids: z.array(z.uuid()).min(1).max(MAX_AT_ONCE), active: z.boolean() }),
      output: z.strictObject({ undo: undoable }),
      errors: ['NotFound', 'SetupRefused', ...errors],
    }),
  };
}

/** A record as it goes over the wire. */
export interface SetupRecord<D> {
  readonly id: string;
  readonly version: number;
  readonly active: boolean;
  readonly changedAt: string | null;
  readonly changedBy: string | null;
  readonly doc: D;
}

import type { InputOf, OutputOf } from '@zaguan/contracts';
import { patientRecord } from '@zaguan/contracts/patients';
import { answersThatCount, flatten, plainAnswers } from '@zaguan/core/intake';
import { fullName } from '@zaguan/core/patients';
import type { Ctx } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import {
  consentRows,
  contactRows,
  type FormRow,
  formRows,
  patientRow,
  sentRows,
  trailRows,
  visitRowsOf,
} from './patients.repository.ts';

const OPENS_RESTRICTED = new Set(['manager', 'coordinator']);

/** Whether the caller may open a restricted record, and whatever hangs on it. */
export function mayOpenRestricted(ctx: Ctx): boolean {
  return ctx.actor.kind === 'staff' && OPENS_RESTRICTED.has(ctx.actor.role);
}

const wire = (text: string) => new Date(text).toISOString();

/** The answers that count, in reading order, a choice by its option's words. */
function answersToRead({ title, items, answers }: FormRow) {
  const counting = answersThatCount({ title, items }, plainAnswers(answers));
  return flatten(items).flatMap(({ item }) => {
    const value = counting[item.linkId];
    return value
      ? [
          {
            question: item.text,
            value: value.map((each) => item.options?.find(({ code }) => code === each)?.text ?? each),
          },
        ]
      : [];
  });
}

async function show(
  ctx: Ctx,
  { id }: InputOf<typeof patientRecord>,
): Promise<OutputOf<typeof patientRecord> | Failure> {
  const row = await patientRow(ctx.em, id);
  if (!row) return ctx.fail('NotFound');
  if (row.restricted && !mayOpenRestricted(ctx)) return ctx.fail('NotAllowed');
  ctx.viewed([id]);
  const visits = await visitRowsOf(ctx.em, id);
  const trail = await trailRows(
    ctx.em,
    id,
    visits.map((visit) => visit.id),
  );
  return {
    record: {
      id: row.id,
      recordNumber: row.record_number,
      name: fullName(row.given_name, row.family_name),
      preferredName: row.preferred_name,
      birthDate: row.birth_date,
      sex: row.sex,
      language: row.language,
      status: row.status,
      restricted: row.restricted,
      contacts: (await contactRows(ctx.em, id)).map(({ value, opted_out }) => ({ value, optedOut: opted_out })),
      visits: visits.map((visit) => ({
        id: visit.id,
        date: visit.site_date,
        start: wire(visit.starts_at),
        timeZone: visit.time_zone,
        siteName: visit.site,
        visitType: visit.visit_type,
        provider: visit.provider,
        status: visit.status,
        origin: visit.origin,
        reason: visit.reason,
        coming: new Date(visit.ends_at) > ctx.now,
      })),
      messages: (await sentRows(ctx.em, id)).map((row) => ({
        id: row.id,
        kind: row.kind,
        step: row.step,
        contact: row.contact,
        at: wire(row.send_at),
        status: row.status,
        visitDate: row.site_date,
      })),
      forms: (await formRows(ctx.em, id)).map((row) => ({
        id: row.id,
        title: row.title,
        visitDate: row.site_date,
        at: wire(row.saved_at),
        completed: row.status === 'completed',
        answers: answersToRead(row),
      })),
      consents: (await consentRows(ctx.em, id)).map((row) => ({
        id: row.id,
        title: row.title,
        version: row.version,
        visitDate: row.site_date,
        at: wire(row.signed_at),
        signer: row.signer,
        signerName: row.signer_name,
        language: row.language,
      })),
      trail: trail.map((entry) => ({
        at: wire(entry.at),
        kind: entry.kind,
        command: entry.command,
        actor: entry.actor_kind,
        by: entry.by,
      })),
    },
  };
}

export const patientsEndpoints = [handle(patientRecord, show)];

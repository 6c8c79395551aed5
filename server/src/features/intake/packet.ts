import { createHash } from 'node:crypto';
import type { OutputOf } from '@zaguan/contracts';
import type { Packet, saveFormAtDesk, Signing, signAtDesk } from '@zaguan/contracts/intake';
import {
  type AnswerChange,
  consentFaults,
  faultOfAnswer,
  faultsOf,
  flatten,
  mergeChanges,
  plainAnswers,
  raisedFlags,
  type Prefill,
} from '@zaguan/core/intake';
import { fullName } from '@zaguan/core/patients';
import { epochToWall } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { raiseFlag } from './flags.sql.ts';
import { insertSigned, beginResponse, saveResponse, siteInfo } from './intake.repository.ts';
import { type DocumentRow, lockResponse, type VisitFactsRow } from './intake.sql.ts';
import { loadReadiness, type VisitReady } from './readiness.ts';

const dateAtSite = (ctx: Ctx, visit: VisitFactsRow) => epochToWall(visit.timeZone, nowMinute(ctx)).date;

/** The visit's own day while it is still to come; `null` once check-in is possible. Who comes on the wrong day is told so. */
export function checkInOpensOn(ctx: Ctx, visit: VisitFactsRow): string | null {
  return dateAtSite(ctx, visit) < visit.siteDate ? visit.siteDate : null;
}

/** Only what the record of a surely known person holds; for anyone else the page starts blank. */
function prefillOf(visit: VisitFactsRow, document: DocumentRow): Record<string, string> {
  if (visit.identity !== 'sure') return {};
  const contact = visit.contact ?? '';
  const known: Record<Prefill, string> = {
    'preferred-name': visit.preferredName ?? visit.givenName,
    phone: contact.includes('@') ? '' : contact,
    email: contact.includes('@') ? contact : '',
  };
  return Object.fromEntries(
    flatten(document.items ?? []).flatMap(({ item }) =>
      item.prefill && known[item.prefill] ? [[item.linkId, known[item.prefill]]] : [],
    ),
  );
}

/** Everything the visit asks for, with what was answered and signed so far. */
export function toPacket(ctx: Ctx, ready: VisitReady): Packet {
  return {
    birthDate: ready.visit.birthDate,
    today: dateAtSite(ctx, ready.visit),
    documents: ready.documents.map((document) => {
      const { id, title } = document;
      if (document.kind === 'consent') {
        const signed = ready.signed.find((each) => each.consentId === id);
        return {
          kind: 'consent' as const,
          id,
          title,
          body: document.body ?? { en: '', es: '' },
          signed: signed ? { at: new Date(signed.signedAt).toISOString(), signerName: signed.signerName } : null,
        };
      }
      const response = ready.responses.find((each) => each.formId === id);
      return {
        kind: 'form' as const,
        id,
        title,
        items: document.items ?? [],
        answers: wireAnswers(response?.answers ?? {}),
        status: response?.status ?? 'in-progress',
        prefill: prefillOf(ready.visit, document),
      };
    }),
  };
}

type WireAnswers = OutputOf<typeof saveFormAtDesk>['answers'];

function wireAnswers(stored: Readonly<Record<string, { value: readonly (string | number | boolean)[]; rev: number }>>) {
  return Object.fromEntries(
    Object.entries(stored).map(([linkId, { value, rev }]) => [linkId, { value: [...value], rev }]),
  ) satisfies WireAnswers;
}

/** The packet of one visit, or `null` if there is no such visit. */
export async function readyVisit(ctx: Ctx, appointmentId: string): Promise<VisitReady | null> {
  const [ready] = await loadReadiness(ctx.em, [appointmentId]);
  return ready ?? null;
}

/**
 * Saves what a device changed. Unfinished is fine; an answer of the wrong kind is refused whole, so that nothing half
 * is kept. A red-flag answer alerts the clinic at once, whether or not the form is ever finished.
 */
export async function saveForm(
  ctx: Ctx,
  appointmentId: string,
  formId: string,
  input: { language: 'en' | 'es'; changes: readonly AnswerChange[]; complete: boolean },
): Promise<OutputOf<typeof saveFormAtDesk> | Failure<'NotAsked' | 'InvalidInput'>> {
  const ready = await readyVisit(ctx, appointmentId);
  const document = ready?.documents.find((each) => each.id === formId && each.kind === 'form');
  if (!ready || !document) return ctx.fail('NotAsked');
  const form = { title: document.title, items: document.items ?? [] };
  const issues = input.changes.flatMap(({ linkId, value }) => {
    const fault = faultOfAnswer(form, linkId, value);
    return fault ? [{ path: linkId, code: fault }] : [];
  });
  if (issues.length) return ctx.fail('InvalidInput', { issues });
  await beginResponse(ctx.em, { id: ctx.newId(), appointmentId, formId, language: input.language, now: ctx.now });
  const row = await lockResponse(ctx.em, appointmentId, formId);
  const merged = mergeChanges(row.answers, input.changes, row.rev + 1);
  const answers = plainAnswers(merged.answers);
  const faults = input.complete && !merged.conflicts.length ? faultsOf(form, answers) : [];
  const completed = input.complete && !faults.length && !merged.conflicts.length;
  // What was handed in stays handed in while a later change leaves nothing missing.
  const status =
    completed || (row.status === 'completed' && !faultsOf(form, answers).length) ? 'completed' : 'in-progress';
  if (merged.changed.length || status !== row.status) {
    await saveResponse(ctx.em, {
      id: row.id,
      answers: merged.answers,
      rev: row.rev + 1,
      status,
      language: input.language,
      now: ctx.now,
    });
    ctx.wrote({
      subjects: subjectsOf(ready.visit),
      after: { form: formId, questions: merged.changed, status },
    });
  }
  let alerted = false;
  for (const { linkId, redFlag } of raisedFlags(form, answers))
    if (redFlag && merged.changed.includes(linkId))
      alerted =
        (await raiseFlag(ctx.em, {
          id: ctx.newId(),
          appointmentId,
          responseId: row.id,
          linkId,
          severity: redFlag.severity ?? 'urgent',
          answer: redFlag.answer,
          advice: redFlag.advice,
          at: ctx.now,
        })) || alerted;
  if (alerted) ctx.emit({ type: 'work-changed' });
  if (alerted || status !== row.status)
    ctx.emit({ type: 'visit-changed', siteId: ready.visit.siteId, date: ready.visit.siteDate });
  return {
    answers: wireAnswers(merged.answers),
    status,
    conflicts: merged.conflicts.map(({ linkId, mine }) => ({ linkId, mine: [...mine] })),
    faults,
  };
}

export function subjectsOf(visit: VisitFactsRow): { kind: string; id: string }[] {
  return [
    { kind: 'appointment', id: visit.id },
    ...(visit.patientId ? [{ kind: 'patient', id: visit.patientId }] : []),
  ];
}

/** Signs a consent: who, as what, in which language and version, and the page itself as a PDF with its hash. */
export async function signConsent(
  ctx: Ctx,
  appointmentId: string,
  consentId: string,
  input: Signing,
): Promise<OutputOf<typeof signAtDesk> | Failure<'NotAsked' | 'ConsentIncomplete' | 'SignedAlready'>> {
  const ready = await readyVisit(ctx, appointmentId);
  const document = ready?.documents.find((each) => each.id === consentId && each.kind === 'consent');
  const info = await siteInfo(ctx.em, appointmentId);
  if (!ready || !document?.body || !info) return ctx.fail('NotAsked');
  const { visit } = ready;
  const codes = consentFaults(input, visit.birthDate, dateAtSite(ctx, visit));
  if (codes.length) return ctx.fail('ConsentIncomplete', { codes });
  const id = ctx.newId();
  // Brings its fonts along; read in with the first signature.
  const { consentToPdf } = await import('../../exchange/consentPdf.ts');
  const pdf = await consentToPdf({
    id,
    clinic: info.clinic,
    site: info.site,
    timeZone: info.timeZone,
    language: input.language,
    title: document.title[input.language],
    body: document.body[input.language],
    patient: fullName(visit.givenName, visit.familyName),
    birthDate: visit.birthDate,
    signer: input.signer,
    signerName: input.signerName,
    strokes: input.signature.kind === 'drawn' ? input.signature.strokes : null,
    signedAt: ctx.now,
  });
  const kept = await insertSigned(ctx.em, {
    id,
    appointmentId,
    consentId,
    signer: input.signer,
    signerName: input.signerName,
    language: input.language,
    signature: input.signature,
    signedAt: ctx.now,
    pdf,
    pdfSha256: createHash('sha256').update(pdf).digest(),
  });
  if (!kept) return ctx.fail('SignedAlready');
  ctx.wrote({ subjects: subjectsOf(visit), after: { consent: consentId, signer: input.signer } });
  ctx.emit({ type: 'visit-changed', siteId: visit.siteId, date: visit.siteDate });
  return { signed: { at: ctx.now.toISOString(), signerName: input.signerName } };
}

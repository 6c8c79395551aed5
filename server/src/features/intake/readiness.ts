import { packetFor, type Readiness, readinessOf, waiverKey } from '@zaguan/core/intake';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { type FlagRow, flagsOf, type WaiverRow, waiversOf } from './flags.repository.ts';
import {
  type DocumentRow,
  documentRows,
  type ResponseRow,
  responsesOf,
  type SignedRow,
  signedFor,
  type VisitFactsRow,
  visitFacts,
} from './intake.repository.ts';

/** One visit with what it asks for, what was done of it, and what that comes to. */
export interface VisitReady {
  readonly visit: VisitFactsRow;
  /** The forms and consents that this visit asks for. */
  readonly documents: readonly DocumentRow[];
  readonly responses: readonly ResponseRow[];
  readonly signed: readonly SignedRow[];
  readonly flags: readonly FlagRow[];
  readonly waivers: readonly WaiverRow[];
  readonly readiness: Readiness;
}

/** Readiness of many visits in one reading, in the order of their starts. */
export async function loadReadiness(em: SqlEntityManager, ids: readonly string[]): Promise<VisitReady[]> {
  if (!ids.length) return [];
  const visits = await visitFacts(em, ids);
  const sure = visits.flatMap((visit) => (visit.identity === 'sure' && visit.patient_id ? [visit.patient_id] : []));
  const documents = await documentRows(em);
  const responses = byVisit(await responsesOf(em, ids));
  const signatures = await signedFor(em, ids, sure);
  const flags = byVisit(await flagsOf(em, ids));
  const waivers = byVisit(await waiversOf(em, ids));
  return visits.map((visit) => {
    const own = {
      responses: responses.get(visit.id) ?? [],
      signed: signatures.filter((each) => each.appointment_id === visit.id),
      flags: flags.get(visit.id) ?? [],
      waivers: waivers.get(visit.id) ?? [],
    };
    const asked = askedDocuments(visit, documents, own.signed, signatures);
    const open = own.flags.filter((flag) => !flag.cleared_at).length;
    const readiness = readinessOf({
      personKnown: visit.identity === 'sure',
      openFlags: open,
      clearedFlags: own.flags.length - open,
      documents: asked.map(({ id, kind }) => ({
        id,
        kind,
        done:
          kind === 'form'
            ? own.responses.some((each) => each.form_id === id && each.status === 'completed')
            : own.signed.some((each) => each.consent_id === id),
      })),
      contactGood: visit.contact_good,
      confirmed: visit.confirmed,
      waived: own.waivers.map(({ item }) => item),
    });
    return { visit, documents: asked, ...own, readiness };
  });
}

/** What this visit asks for: core's rule, except that what was signed for this very visit stays in sight. */
function askedDocuments(
  visit: VisitFactsRow,
  documents: readonly DocumentRow[],
  own: readonly SignedRow[],
  signatures: readonly SignedRow[],
): DocumentRow[] {
  const earlier = signatures.filter(
    (each) => each.appointment_id !== visit.id && each.patient_id !== null && each.patient_id === visit.patient_id,
  );
  const entries = packetFor(
    documents.map((row) => ({
      documentId: row.id,
      visitTypeIds: row.visit_type_ids,
      kinds: row.kinds,
      validMonths: row.valid_months,
    })),
    {
      visitTypeId: visit.visit_type_id,
      kind: visit.patient_kind,
      visitDate: visit.site_date,
      signed: visit.identity === 'sure' ? earlier.map(({ consent_id, on }) => ({ documentId: consent_id, on })) : [],
    },
  );
  return documents.filter(
    (row, i) =>
      entries[i].reason === 'asked' ||
      (entries[i].reason === 'still-valid' && own.some((each) => each.consent_id === row.id)),
  );
}

function byVisit<T extends { appointment_id: string }>(rows: readonly T[]): Map<string, T[]> {
  const all = new Map<string, T[]>();
  for (const row of rows) all.set(row.appointment_id, [...(all.get(row.appointment_id) ?? []), row]);
  return all;
}

export { waiverKey };

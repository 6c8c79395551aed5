import { packetFor, type Readiness, readinessOf, waiverKey } from '@zaguan/core/intake';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { type WaiverRow, waiversOf } from './flags.repository.ts';
import { type FlagRow, flagsOf } from './flags.sql.ts';
import { type VisitResponse, responsesOf } from './intake.repository.ts';
import {
  type DocumentRow,
  documentRows,
  type SignedRow,
  signedFor,
  type VisitFactsRow,
  visitFacts,
} from './intake.sql.ts';

/** One visit with what it asks for, what was done of it, and what that comes to. */
export interface VisitReady {
  readonly visit: VisitFactsRow;
  /** The forms and consents that this visit asks for. */
  readonly documents: readonly DocumentRow[];
  readonly responses: readonly VisitResponse[];
  readonly signed: readonly SignedRow[];
  readonly flags: readonly FlagRow[];
  readonly waivers: readonly WaiverRow[];
  readonly readiness: Readiness;
}

/** Readiness of many visits in one reading, in the order of their starts. */
export async function loadReadiness(em: SqlEntityManager, ids: readonly string[]): Promise<VisitReady[]> {
  if (!ids.length) return [];
  const visits = await visitFacts(em, ids);
  const sure = visits.flatMap((visit) => (visit.identity === 'sure' && visit.patientId ? [visit.patientId] : []));
  const documents = await documentRows(em);
  const responses = byVisit(await responsesOf(em, ids), (row) => row.appointmentId);
  const signatures = await signedFor(em, ids, sure);
  const flags = byVisit(await flagsOf(em, ids), (row) => row.appointmentId);
  const waivers = byVisit(await waiversOf(em, ids), (row) => row.appointmentId);
  return visits.map((visit) => {
    const own = {
      responses: responses.get(visit.id) ?? [],
      signed: signatures.filter((each) => each.appointmentId === visit.id),
      flags: flags.get(visit.id) ?? [],
      waivers: waivers.get(visit.id) ?? [],
    };
    const asked = askedDocuments(visit, documents, own.signed, signatures);
    const open = own.flags.filter((flag) => !flag.clearedAt).length;
    const readiness = readinessOf({
      personKnown: visit.identity === 'sure',
      openFlags: open,
      clearedFlags: own.flags.length - open,
      documents: asked.map(({ id, kind }) => ({
        id,
        kind,
        done:
          kind === 'form'
            ? own.responses.some((each) => each.formId === id && each.status === 'completed')
            : own.signed.some((each) => each.consentId === id),
      })),
      contactGood: visit.contactGood,
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
    (each) => each.appointmentId !== visit.id && each.patientId !== null && each.patientId === visit.patientId,
  );
  const entries = packetFor(
    documents.map((row) => ({
      documentId: row.id,
      visitTypeIds: row.visitTypeIds,
      kinds: row.kinds,
      validMonths: row.validMonths,
    })),
    {
      visitTypeId: visit.visitTypeId,
      kind: visit.patientKind,
      visitDate: visit.siteDate,
      signed: visit.identity === 'sure' ? earlier.map(({ consentId, on }) => ({ documentId: consentId, on })) : [],
    },
  );
  return documents.filter(
    (row, i) =>
      entries[i].reason === 'asked' ||
      (entries[i].reason === 'still-valid' && own.some((each) => each.consentId === row.id)),
  );
}

function byVisit<T>(rows: readonly T[], visitOf: (row: T) => string): Map<string, T[]> {
  const all = new Map<string, T[]>();
  for (const row of rows) all.set(visitOf(row), [...(all.get(visitOf(row)) ?? []), row]);
  return all;
}

export { waiverKey };

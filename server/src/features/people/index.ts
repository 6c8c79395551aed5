import { findCandidates, type Identity, sureMatch } from '@zaguan/core/matching';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { recordsLike } from './people.sql.ts';

export {
  addContactTo,
  contactPointIds,
  insertPatient,
  LAST_RANK,
  needsOf,
  needsOfVisit,
  partsOfVisit,
  firstPhone,
  householdOf,
  whoActsFor,
  patientExists,
  takeBackPatient,
} from './people.repository.ts';
export { nextRecordNumbers, putContactPoint, type RecordRow, recordsLike, recordsLikeEach } from './people.sql.ts';

/**
 * The one record that a self-booking is for without doubt, or `null`. The number must have been proved by this browser
 * and, before, on that record. Nothing of the answer is ever shown to who books.
 */
export async function sureRecord(ctx: Ctx, typed: Identity): Promise<string | null> {
  const records = await recordsLike(ctx.em, typed);
  const proved = records.filter((record) => record.proved).map(({ patientId }) => patientId);
  return sureMatch(findCandidates(typed, records), new Set(proved));
}

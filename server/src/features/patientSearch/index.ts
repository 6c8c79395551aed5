import type { InputOf } from '@zaguan/contracts';
import * as contract from '@zaguan/contracts/patients';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { type AnswerOf, handle } from '../../platform/endpoint/handler.ts';
import type { Sweep } from '../../platform/jobs/sweeps.sql.ts';
import { mayOpenRestricted } from '../restricted/index.ts';
import { indexNames } from './indexNames.ts';
import { findPatients } from './findPatients.ts';
import { deleteList, listPatients, savedLists, saveList } from './listPatients.ts';
import { briefs } from './patientSearch.sql.ts';
import { todayAt, toFound } from './toFound.ts';

export { type Brief, briefs } from './patientSearch.sql.ts';
export { type Ranked, findPatients } from './findPatients.ts';
export { indexNames, indexNamesOf } from './indexNames.ts';

const MAX_SHOWN = 20;

async function search(
  ctx: Ctx,
  { text }: InputOf<typeof contract.searchPatients>,
): Promise<AnswerOf<typeof contract.searchPatients>> {
  const today = await todayAt(ctx);
  const { hits, patients, isCut } = await findPatients(ctx.em, text, { restricted: mayOpenRestricted(ctx), today });
  const shown = hits.slice(0, MAX_SHOWN);
  const rows = await briefs(
    ctx.em,
    shown.map(({ patientId }) => patientId),
    ctx.now,
  );
  ctx.viewed(shown.map(({ patientId }) => patientId));
  const byId = new Map(rows.map((row) => [row.id, row]));
  return {
    patients: shown.flatMap((hit) => {
      const [patient, brief] = [patients.get(hit.patientId), byId.get(hit.patientId)];
      return patient && brief ? [toFound(hit, patient, brief, today)] : [];
    }),
    more: isCut || hits.length > MAX_SHOWN,
  };
}

export const patientSearchEndpoints = [
  handle(contract.searchPatients, search),
  handle(contract.listPatients, listPatients),
  handle(contract.savedPatientLists, savedLists),
  handle(contract.savePatientList, saveList),
  handle(contract.deletePatientList, deleteList),
];

/** One transaction, seconds of work. */
const MOST_A_SWEEP = 20_000;

/** Names whose words somebody did not write, and records from before there was a search. */
export const patientSearchSweeps: readonly Sweep[] = [
  {
    name: 'names to be found',
    run: async (em) => {
      await indexNames(em, MOST_A_SWEEP);
    },
  },
];

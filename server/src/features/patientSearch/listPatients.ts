import type { InputOf } from '@zaguan/contracts';
import type {
  deletePatientList,
  listPatients as contract,
  SavedPatientList,
  savedPatientLists,
  savePatientList,
} from '@zaguan/contracts/patients';
import type { Ctx } from '../../platform/endpoint/context.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { mayOpenRestricted } from '../restricted/index.ts';
import { findPatients } from './findPatients.ts';
import { extrasOf, listedIds } from './patientList.sql.ts';
import { briefs, findables } from './patientSearch.sql.ts';
import { deleteSavedList, putSavedList, savedListRows } from './savedLists.repository.ts';
import { todayAt, toFound } from './toFound.ts';

const PAGE_SIZE = 50;

/** Patients as a table: whom the text finds, narrowed and in order, by pages. */
export async function listPatients(ctx: Ctx, input: InputOf<typeof contract>): Promise<AnswerOf<typeof contract>> {
  const { text, page, sort, descending, ...filter } = input;
  const today = await todayAt(ctx);
  const restricted = mayOpenRestricted(ctx);
  const found = text.trim() ? await findPatients(ctx.em, text, { restricted, today }) : null;
  const fits = new Map(found?.hits.map(({ patientId, fit }) => [patientId, fit]));
  const { ids, total } = await listedIds(
    ctx.em,
    {
      ...filter,
      ids: found ? found.hits.map(({ patientId }) => patientId) : null,
      restricted,
      code: filter.code.toUpperCase().trim(),
      now: ctx.now,
    },
    { sort, descending },
    { size: PAGE_SIZE, skipped: page * PAGE_SIZE },
  );
  const [facts, rows, extras] = [
    await findables(ctx.em, ids),
    await briefs(ctx.em, ids, ctx.now),
    await extrasOf(ctx.em, ids),
  ];
  ctx.viewed(ids);
  const patients = ids.flatMap((id) => {
    const patient = facts.find(({ patientId }) => patientId === id);
    const brief = rows.find((row) => row.id === id);
    const extra = extras.find((row) => row.id === id);
    if (!patient || !brief || !extra) return [];
    return [
      {
        ...toFound({ patientId: id, fit: fits.get(id) ?? 'exact' }, patient, brief, today),
        language: extra.language,
        homeSiteName: extra.homeSite,
        codes: [...extra.codes],
      },
    ];
  });
  return { patients, total, more: found?.isCut ?? false, pageSize: PAGE_SIZE };
}

const accountOf = ({ actor }: Ctx): string => (actor.kind === 'staff' ? actor.accountId : '');

export async function savedLists(ctx: Ctx): Promise<AnswerOf<typeof savedPatientLists>> {
  const rows = await savedListRows(ctx.em, accountOf(ctx));
  // What it holds was checked when it was saved; one that does not fit any more is told as unreadable by the mount.
  return { lists: rows.map(({ id, name, query }) => ({ id, name, query }) as SavedPatientList), unreadable: [] };
}

export async function saveList(
  ctx: Ctx,
  { name, query }: InputOf<typeof savePatientList>,
): Promise<AnswerOf<typeof savePatientList>> {
  const list = { id: ctx.newId(), accountId: accountOf(ctx), name, query: { ...query }, createdAt: ctx.now };
  return { id: await putSavedList(ctx.em, list) };
}

export async function deleteList(
  ctx: Ctx,
  { id }: InputOf<typeof deletePatientList>,
): Promise<AnswerOf<typeof deletePatientList>> {
  return (await deleteSavedList(ctx.em, accountOf(ctx), id)) ? {} : ctx.fail('NotFound');
}

import type { InputOf } from '@zaguan/contracts';
import type { saveCodes as codesContract, saveDetails as contract } from '@zaguan/contracts/patients';
import { ICD_10_CM_SYSTEM } from '@zaguan/core/patients';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import { personRows, siteRows } from '../clinic/index.ts';
import { editableAt, writePatient } from './editable.ts';
import { type CodeRow, codeRows, putCodes, setPatient } from './patients.repository.ts';

/** Address, language, needs with every visit, home site and provider, notes and alert: only what is given. */
export async function saveDetails(
  ctx: Ctx,
  { id, version, ...details }: InputOf<typeof contract>,
): Promise<AnswerOf<typeof contract>> {
  const row = await editableAt(ctx, id, version);
  if (row instanceof Failure) return row;
  const issues = await unknownPlaces(ctx, details);
  if (issues.length) return ctx.fail('InvalidInput', { issues });
  return writePatient(ctx, row, details, 'details');
}

async function unknownPlaces(
  ctx: Ctx,
  { homeSiteId, homeProviderId }: Pick<InputOf<typeof contract>, 'homeSiteId' | 'homeProviderId'>,
): Promise<{ path: string; code: string }[]> {
  const sites = homeSiteId ? await siteRows(ctx.em) : [];
  const people = homeProviderId ? await personRows(ctx.em) : [];
  return [
    ...(homeSiteId && !sites.some(({ id }) => id === homeSiteId) ? [{ path: 'homeSiteId', code: 'unknown' }] : []),
    ...(homeProviderId && !people.some(({ id }) => id === homeProviderId)
      ? [{ path: 'homeProviderId', code: 'unknown' }]
      : []),
  ];
}

const listed = (codes: readonly Pick<CodeRow, 'code'>[]) => codes.map(({ code }) => code);

/** Conditions for registers, all of them as they are to stand. */
export async function saveCodes(
  ctx: Ctx,
  { id, version, codes }: InputOf<typeof codesContract>,
): Promise<AnswerOf<typeof codesContract>> {
  const row = await editableAt(ctx, id, version);
  if (row instanceof Failure) return row;
  const before = await codeRows(ctx.em, id);
  const written = await replaceCodes(ctx, id, version, before, codes);
  if (written instanceof Failure) return written;
  const undo = await ctx.undoable({
    command: 'patients.putCodes',
    input: { id, version: version + 1, codes: before.map(({ code, words }) => ({ code, words })) },
    label: { what: 'codes' },
  });
  return { version: version + 1, undo };
}

/** A code that stays keeps the day on which it came. */
async function replaceCodes(
  ctx: Ctx,
  id: string,
  version: number,
  before: readonly CodeRow[],
  codes: readonly Pick<CodeRow, 'code' | 'words'>[],
) {
  if (!(await setPatient(ctx.em, id, version, {}))) return ctx.fail('ChangedMeanwhile', { facts: { version } });
  const rows = codes.map((each) => {
    const known = before.find(({ code }) => code === each.code);
    return {
      id: known?.id ?? ctx.newId(),
      patientId: id,
      system: ICD_10_CM_SYSTEM,
      ...each,
      addedAt: known?.addedAt ?? ctx.now,
    };
  });
  await putCodes(ctx.em, id, rows);
  ctx.wrote({
    subjects: [{ kind: 'patient', id }],
    before: { conditions: listed(before) },
    after: { conditions: listed(codes) },
  });
  return null;
}

export async function putCodesBack(
  ctx: Ctx,
  { id, version, codes }: { id: string; version: number; codes: readonly Pick<CodeRow, 'code' | 'words'>[] },
): Promise<UndoAnswer> {
  const row = await editableAt(ctx, id, version);
  if (row instanceof Failure) return row;
  const written = await replaceCodes(ctx, id, version, await codeRows(ctx.em, id), codes);
  return written ?? {};
}

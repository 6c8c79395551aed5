import { fullName, restrictedName } from '@zaguan/core/patients';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { mayOpenRecord } from '../restricted/index.ts';
import type { FailedRow } from './today.sql.ts';

/** Whom an invitation was for, as the reader may know them. */
export const invitedName = ({ givenName, familyName }: FailedRow, hidden: boolean): string =>
  (hidden ? restrictedName : fullName)(givenName ?? '', familyName ?? '');

/** Which of them were for patients whose records the reader may not open. */
export async function hiddenInvitees(ctx: Ctx, rows: readonly FailedRow[]): Promise<ReadonlySet<string>> {
  const hidden = new Set<string>();
  for (const { id, invitedId, restricted } of rows)
    if (invitedId !== null && !(await mayOpenRecord(ctx, { id: invitedId, restricted }))) hidden.add(id);
  return hidden;
}

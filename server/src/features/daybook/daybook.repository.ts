import { LockMode, type SqlEntityManager } from '@mikro-orm/postgresql';
import type { LocalDate } from '@zaguan/core/time';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertIfNew, insertRow } from '../../platform/db/write.ts';
import {
  AppointmentEntity,
  type DayNote,
  DayNoteEntity,
  type ProviderDelay,
  ProviderDelayEntity,
} from '../../schema/index.ts';

const FOR_UPDATE = { lockMode: LockMode.PESSIMISTIC_WRITE } as const;

/** Where a visit is, and when it took each step; `null`: there is none. */
export function visitInShortRow(em: SqlEntityManager, id: string) {
  return findRow(
    em,
    AppointmentEntity,
    { id },
    {
      fields: [
        ...(['siteId', 'siteDate', 'createdAt', 'confirmedAt', 'arrivedAt'] as const),
        ...(['checkedInAt', 'fulfilledAt', 'noshowAt', 'cancelledAt'] as const),
      ],
    },
  );
}

/** What stands on these days, with who wrote it, in the order of its time. */
export function notesOf(em: SqlEntityManager, dates: readonly LocalDate[]) {
  return findRows(
    em,
    DayNoteEntity,
    { siteDate: { $in: [...dates] }, removedAt: null },
    {
      populate: ['writtenByAccount'],
      orderBy: [{ fromMinute: 'asc nulls first' }, { writtenAt: 'asc' }, { id: 'asc' }],
    },
  );
}

export function noteForUpdate(em: SqlEntityManager, id: string): Promise<DayNote | null> {
  return findRow(em, DayNoteEntity, { id }, FOR_UPDATE);
}

export function insertNote(em: SqlEntityManager, row: Omit<DayNote, 'version' | 'removedAt'>): Promise<void> {
  return insertRow(em, DayNoteEntity, row);
}

/** @returns the version that it has now */
export async function updateNote(
  em: SqlEntityManager,
  { id, version }: Pick<DayNote, 'id' | 'version'>,
  to: Partial<Pick<DayNote, 'text' | 'fromMinute' | 'toMinute' | 'writtenBy' | 'writtenAt' | 'removedAt'>>,
): Promise<number> {
  await em.nativeUpdate(DayNoteEntity, { id }, { ...to, version: version + 1 });
  return version + 1;
}

/** Whose delay: a provider's at a site, on a day. */
export type Of = Pick<ProviderDelay, 'siteId' | 'resourceId' | 'siteDate'>;

/** How far behind providers are said to be on these days. */
export function delaysOf(em: SqlEntityManager, dates: readonly LocalDate[]): Promise<ProviderDelay[]> {
  return findRows(em, ProviderDelayEntity, { siteDate: { $in: [...dates] }, endedAt: null });
}

export function delayForUpdate(em: SqlEntityManager, of: Of): Promise<ProviderDelay | null> {
  return findRow(em, ProviderDelayEntity, { ...of, endedAt: null }, FOR_UPDATE);
}

/** The delays that hold from a date on, but those that another process is at. */
export function delaysToTell(em: SqlEntityManager, from: LocalDate): Promise<ProviderDelay[]> {
  return findRows(
    em,
    ProviderDelayEntity,
    { siteDate: { $gte: from }, endedAt: null },
    { lockMode: LockMode.PESSIMISTIC_PARTIAL_WRITE },
  );
}

export async function endDelay(em: SqlEntityManager, id: string, now: Date): Promise<void> {
  await em.nativeUpdate(ProviderDelayEntity, { id }, { endedAt: now });
}

/** @returns `false` where somebody else has said one at the same moment */
export function insertDelay(em: SqlEntityManager, row: Omit<ProviderDelay, 'endedAt'>): Promise<boolean> {
  return insertIfNew(em, ProviderDelayEntity, row);
}

import type { OutputOf } from '@zaguan/contracts';
import type { editSchedule, WireEdit } from '@zaguan/contracts/availability';
import { useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError, type ApiError } from '../../../../shared/api/contractApi.ts';
import { useDebounced } from '../../../../shared/time/useDebounced.ts';
import { useUndoToast } from '../../undo/index.ts';
import { toast as say } from 'sonner';
import { availabilityApi } from '../availability.api.ts';
import { draftsApi } from '../drafts.api.ts';
import { signed } from '../../impact/index.ts';
import { useDraft } from './draftContext.ts';
import { useNames } from './useNames.ts';
import { useNoticeWords } from './useNoticeWords.ts';

const PAUSE_MS = 250;
/** Visit types that what was saved is told by; the rest is a number. */
const TYPES_TOLD = 3;

/**
 * What some edits would do, asked anew a moment after they change. `null` edits are none yet.
 *
 * @param replaced hours that may give way, by id
 */
export function usePreview(edits: readonly WireEdit[] | null, replaced: readonly string[] = []) {
  const draft = useDraft();
  // What goes into a draft does nothing yet: the draft as a whole is compared with what holds.
  const text = edits && !draft ? JSON.stringify({ edits, replaced }) : null;
  const settled = useDebounced(text, PAUSE_MS);
  const { currentData, error, isFetching } = availabilityApi.usePreviewQuery(
    settled ? (JSON.parse(settled) as { edits: WireEdit[]; replaced: string[] }) : { edits: [] },
    { skip: settled === null || settled !== text, refetchOnMountOrArgChange: true },
  );
  // The same edits may have been asked about before: an older answer is none.
  const isCurrent = text !== null && text === settled && !isFetching;
  const data = isCurrent ? (currentData ?? null) : null;
  const refused = isCurrent && !data ? apiError(error) : null;
  return { data, error: refused, asking: text !== null && !data && !refused };
}

interface SaveAs {
  /** Hours that may give way, by id. */
  readonly replaced?: readonly string[];
  /** Visits that no longer fit have been seen. */
  readonly agreed?: boolean;
  /** Their patients are told at once. */
  readonly tell?: boolean;
}

/** Makes edits, or puts them into the draft that is open; says what was done and what it changed, with undo. */
export function useSaveEdits() {
  const { t } = useTranslation();
  const [save, { isLoading }] = availabilityApi.useEditMutation();
  const toast = useUndoToast();
  const notice = useNoticeWords(null);
  const name = useNames(null);
  const byKind = (row: OutputOf<typeof editSchedule>['onlineByType'][number]) =>
    t('schedule.byKind', { type: name(row.visitTypeId), new: signed(row.new), established: signed(row.established) });
  const [error, setError] = useState<ApiError | null>(null);
  const running = useRef(false);
  const draft = useDraft();
  const [add, { isLoading: adding }] = draftsApi.useAddToDraftMutation();
  /** Resolves to why it was refused, or to nothing. */
  const run = async (
    edits: readonly WireEdit[],
    words: string,
    { replaced = [], agreed = false, tell = false }: SaveAs = {},
  ) => {
    if (draft) {
      const { data, error } = await add({ id: draft.id, version: draft.version, edits: [...edits] });
      if (!data) return apiError(error);
      say(t('schedule.draft.added', { count: data.draft.editCount }));
      return null;
    }
    const { data, error } = await save({ edits: [...edits], replaced: [...replaced], agreed, tell });
    if (!data) return apiError(error);
    const { toMove, told, online, onlineByType, warnings, undo } = data;
    const offered = [
      online.lost ? t('schedule.nowFewer', { count: online.lost }) : '',
      online.gained ? t('schedule.nowMore', { count: online.gained }) : '',
    ];
    const moving = toMove ? t('schedule.nowToMove', { count: toMove }) : '';
    const telling = tell && toMove ? t('schedule.told', { told, untold: toMove - told }) : '';
    const text = [words, ...offered, moving, telling].filter(Boolean).join(' ');
    const lines = [
      ...onlineByType.slice(0, TYPES_TOLD).map((row) => byKind(row)),
      ...(onlineByType.length > TYPES_TOLD
        ? [t('schedule.moreTypes', { count: onlineByType.length - TYPES_TOLD })]
        : []),
      ...warnings.map((warning) => notice(warning, 'warning')),
    ];
    toast(text, undo.id, lines);
    return null;
  };
  return {
    error,
    saving: isLoading || adding,
    run,
    /** Resolves to whether it was done. A second press while the first is under way does nothing. */
    save: async (edits: readonly WireEdit[], words: string, how: SaveAs): Promise<boolean> => {
      if (running.current) return false;
      running.current = true;
      const refused = await run(edits, words, how);
      running.current = false;
      setError(refused);
      return refused === null;
    },
  };
}

import type { WireEdit } from '@zaguan/contracts/availability';
import { useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError, type ApiError } from '../../../../shared/api/contractApi.ts';
import { useDebounced } from '../../../../shared/time/useDebounced.ts';
import { useUndoToast } from '../../undo/index.ts';
import { toast as say } from 'sonner';
import { availabilityApi } from '../availability.api.ts';
import { draftsApi } from '../drafts.api.ts';
import { useDraft } from './draftContext.ts';

const PAUSE_MS = 250;

/** What some edits would do, asked anew a moment after they change. `null` edits are none yet. */
export function usePreview(edits: readonly WireEdit[] | null) {
  const draft = useDraft();
  // What goes into a draft does nothing yet: the draft as a whole is compared with what holds.
  const text = edits && !draft ? JSON.stringify(edits) : null;
  const settled = useDebounced(text, PAUSE_MS);
  const { currentData, error, isFetching } = availabilityApi.usePreviewQuery(
    { edits: settled ? (JSON.parse(settled) as WireEdit[]) : [] },
    { skip: settled === null || settled !== text, refetchOnMountOrArgChange: true },
  );
  // The same edits may have been asked about before: an older answer is none.
  const isCurrent = text !== null && text === settled && !isFetching;
  const data = isCurrent ? (currentData ?? null) : null;
  const refused = isCurrent && !data ? apiError(error) : null;
  return { data, error: refused, asking: text !== null && !data && !refused };
}

/** Makes edits, or puts them into the draft that is open; says what was done and what it changed, with undo. */
export function useSaveEdits() {
  const { t } = useTranslation();
  const [save, { isLoading }] = availabilityApi.useEditMutation();
  const toast = useUndoToast();
  const [error, setError] = useState<ApiError | null>(null);
  const running = useRef(false);
  const draft = useDraft();
  const [add, { isLoading: adding }] = draftsApi.useAddToDraftMutation();
  /** Resolves to why it was refused, or to nothing. */
  const run = async (edits: readonly WireEdit[], words: string, { agreed = false, tell = false } = {}) => {
    if (draft) {
      const { data, error } = await add({ id: draft.id, version: draft.version, edits: [...edits] });
      if (!data) return apiError(error);
      say(t('schedule.draft.added', { count: data.draft.editCount }));
      return null;
    }
    const { data, error } = await save({ edits: [...edits], agreed, tell });
    if (!data) return apiError(error);
    const { toMove, told, online, undo } = data;
    const offered = [
      online.lost ? t('schedule.nowFewer', { count: online.lost }) : '',
      online.gained ? t('schedule.nowMore', { count: online.gained }) : '',
    ];
    const moving = toMove ? t('schedule.nowToMove', { count: toMove }) : '';
    const telling = tell && toMove ? t('schedule.told', { told, untold: toMove - told }) : '';
    toast([words, ...offered, moving, telling].filter(Boolean).join(' '), undo.id);
    return null;
  };
  return {
    error,
    saving: isLoading || adding,
    run,
    /** Resolves to whether it was done. A second press while the first is under way does nothing. */
    save: async (edits: readonly WireEdit[], words: string, agreed: boolean, tell = false): Promise<boolean> => {
      if (running.current) return false;
      running.current = true;
      const refused = await run(edits, words, { agreed, tell });
      running.current = false;
      setError(refused);
      return refused === null;
    },
  };
}

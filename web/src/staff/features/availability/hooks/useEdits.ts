import type { WireEdit } from '@zaguan/contracts/availability';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError, type ApiError } from '../../../../shared/api/contractApi.ts';
import { useUndoToast } from '../../undo/index.ts';
import { toast as say } from 'sonner';
import { availabilityApi } from '../availability.api.ts';
import { draftsApi } from '../drafts.api.ts';
import { useDraft } from './draftContext.ts';

const PAUSE_MS = 250;

/** What some acts would do, asked anew a moment after they change. `null` acts are none yet. */
export function usePreview(edits: readonly WireEdit[] | null) {
  const [ask] = availabilityApi.usePreviewMutation();
  type Data = NonNullable<Awaited<ReturnType<typeof ask>>['data']>;
  const [answer, setAnswer] = useState<{ of: string; data: Data | null; error: ApiError | null } | null>(null);
  const draft = useDraft();
  // What goes into a draft does nothing yet: the draft as a whole is compared with what holds.
  const text = edits && !draft ? JSON.stringify(edits) : null;
  useEffect(() => {
    if (!text) return;
    let gone = false;
    const wait = setTimeout(() => {
      void ask({ edits: JSON.parse(text) as WireEdit[] }).then((result) => {
        if (gone) return;
        setAnswer({ of: text, data: result.data ?? null, error: 'error' in result ? apiError(result.error) : null });
      });
    }, PAUSE_MS);
    return () => {
      gone = true;
      clearTimeout(wait);
    };
  }, [ask, text]);
  const current = text !== null && answer?.of === text ? answer : null;
  return { data: current?.data ?? null, error: current?.error ?? null, asking: text !== null && !current };
}

/** Saves acts; says what was done, with undo. */
export function useSaveEdits() {
  const { t } = useTranslation();
  const [save, { isLoading }] = availabilityApi.useEditMutation();
  const toast = useUndoToast();
  const [error, setError] = useState<ApiError | null>(null);
  const running = useRef(false);
  const draft = useDraft();
  const [add, { isLoading: adding }] = draftsApi.useAddToDraftMutation();
  const intoDraft = async (edits: readonly WireEdit[], { id, version }: { id: string; version: number }) => {
    const result = await add({ id, version, edits: [...edits] });
    setError(result.data ? null : apiError(result.error));
    if (result.data) say(t('schedule.draft.added', { count: result.data.draft.acts }));
    return result.data !== undefined;
  };
  return {
    error,
    saving: isLoading || adding,
    /** Resolves to whether it was done. A second press while the first is under way does nothing. */
    save: async (edits: readonly WireEdit[], words: string, agreed: boolean, tell = false): Promise<boolean> => {
      if (running.current) return false;
      running.current = true;
      if (draft) {
        const done = await intoDraft(edits, draft);
        running.current = false;
        return done;
      }
      const result = await save({ edits: [...edits], agreed, tell });
      running.current = false;
      if (!result.data) {
        setError(apiError(result.error));
        return false;
      }
      setError(null);
      const { toMove, told, undo } = result.data;
      const moving = toMove ? t('schedule.nowToMove', { count: toMove }) : '';
      const telling = tell && toMove ? t('schedule.told', { told, untold: toMove - told }) : '';
      toast([words, moving, telling].filter(Boolean).join(' '), undo.id);
      return true;
    },
  };
}

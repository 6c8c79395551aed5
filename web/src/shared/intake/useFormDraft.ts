import type { FormDocument, SavedForm } from '@zaguan/contracts/intake';
import { type Answers, type AnswerValue, faultOfAnswer, shownItems } from '@zaguan/core/intake';
import { useCallback, useEffect, useRef, useState } from 'react';

/** Long enough not to send every letter, short enough that nothing is lost by closing the page. */
const PAUSE_MS = 500;
const RETRY_MS = 3000;
const MAX_RETRY_MS = 30_000;

/** Sends changes; `null` when they could not be saved (they stay and are sent again with the next ones). */
export type SaveForm = (
  changes: { linkId: string; value: AnswerValue[]; base: number }[],
  complete: boolean,
) => Promise<SavedForm | null>;

export interface Conflict {
  readonly linkId: string;
  readonly mine: readonly AnswerValue[];
  readonly theirs: readonly AnswerValue[];
}

type State = 'saved' | 'saving' | 'unsaved';

const same = (a: readonly AnswerValue[] = [], b: readonly AnswerValue[] = []) =>
  a.length === b.length && a.every((value, i) => value === b[i]);

/**
 * Answers as they are typed, saved a moment later, one saving at a time. Each answer carries the state this device last
 * knew of it, so that the server can join two devices; what both changed comes back as a conflict.
 */
export function useFormDraft(document: FormDocument, save: SaveForm) {
  const [answers, setAnswers] = useState<Answers>(() => ({
    ...Object.fromEntries(Object.entries(document.prefill).map(([linkId, value]) => [linkId, [value]])),
    ...Object.fromEntries(Object.entries(document.answers).map(([linkId, { value }]) => [linkId, value])),
  }));
  const [conflicts, setConflicts] = useState<readonly Conflict[]>([]);
  const [state, setState] = useState<State>('saved');
  const known = useRef(document.answers);
  const latest = useRef(answers);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const running = useRef<Promise<SavedForm | null>>(Promise.resolve(null));
  const failures = useRef(0);
  const saveRef = useRef(save);
  saveRef.current = save;

  const flush = useCallback(
    (complete: boolean): Promise<SavedForm | null> => {
      clearTimeout(timer.current);
      running.current = running.current.then(async () => {
        const form = { title: document.title, items: document.items };
        const sent = latest.current;
        const shown = shownItems(form, sent);
        const changes = Object.entries(sent).flatMap(([linkId, value]) => {
          const before = known.current[linkId];
          // What was only filled in from the record is kept once the patient hands the form in.
          const untouched = !before && !complete && same(value, [document.prefill[linkId] ?? '']);
          return same(value, before?.value) || untouched || faultOfAnswer(form, linkId, value) || !shown.has(linkId)
            ? []
            : [{ linkId, value: [...value], base: before?.rev ?? 0 }];
        });
        if (!changes.length && !complete) {
          setState('saved');
          return null;
        }
        setState('saving');
        const result = await saveRef.current(changes, complete);
        if (!result) {
          setState('unsaved');
          // The page goes on trying by itself, less and less often, for as long as it is open.
          failures.current++;
          if (!complete)
            timer.current = setTimeout(
              () => void flushRef.current(false),
              Math.min(RETRY_MS * failures.current, MAX_RETRY_MS),
            );
          return null;
        }
        failures.current = 0;
        known.current = result.answers;
        const clashing = new Map(result.conflicts.map(({ linkId, mine }) => [linkId, mine]));
        if (clashing.size)
          setConflicts((old) => [
            ...old.filter(({ linkId }) => !clashing.has(linkId)),
            ...[...clashing].map(([linkId, mine]) => ({ linkId, mine, theirs: result.answers[linkId]?.value ?? [] })),
          ]);
        // Answers of the other device come in, except where this one has gone on typing.
        const next = { ...latest.current };
        for (const [linkId, { value }] of Object.entries(result.answers))
          if (clashing.has(linkId) || same(latest.current[linkId], sent[linkId])) next[linkId] = value;
        latest.current = next;
        setAnswers(next);
        setState('saved');
        return result;
      });
      return running.current;
    },
    [document],
  );

  const flushRef = useRef(flush);
  flushRef.current = flush;
  useEffect(() => () => clearTimeout(timer.current), []);

  const change = (linkId: string, value: readonly AnswerValue[]) => {
    latest.current = { ...latest.current, [linkId]: value };
    setAnswers(latest.current);
    setState('saving');
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void flush(false), PAUSE_MS);
  };
  const settle = (conflict: Conflict, value: readonly AnswerValue[]) => {
    setConflicts((old) => old.filter(({ linkId }) => linkId !== conflict.linkId));
    change(conflict.linkId, value);
  };
  return { answers, conflicts, state, change, settle, flush };
}

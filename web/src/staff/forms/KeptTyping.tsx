import { createContext, type ReactNode, use, useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../shared/ui/Button.tsx';
import { dropDraft, keepDraft, keptDraft } from './keptDrafts.ts';

interface Kept {
  readonly as: string;
  /** What was typed before stands in the form again. */
  readonly isResumed: boolean;
  readonly startOver: () => void;
}

const KeptContext = createContext<Kept | null>(null);

/** A panel whose fields keep what is typed, in this tab, until it is saved or begun anew: `useKeptState` in it. */
export function KeptTyping({ as: name, children }: { as: string; children: ReactNode }) {
  // As it was when it was opened: it may name a version, and what is typed does not go when that changes.
  const [as] = useState(name);
  const [round, setRound] = useState(0);
  const [isResumed, setResumed] = useState(() => keptDraft(as) !== null);
  const startOver = () => {
    dropDraft(as);
    setResumed(false);
    setRound(round + 1);
  };
  return (
    <KeptContext value={{ as, isResumed, startOver }}>
      <div key={round} className="contents">
        {children}
      </div>
    </KeptContext>
  );
}

/** State that survives a reload and a closed panel. Where there is no `KeptTyping` around, ordinary state. */
export function useKeptState<T>(name: string, initial: T | (() => T)) {
  const as = use(KeptContext)?.as;
  const [value, setValue] = useState<T>(() => {
    const kept = as ? keptDraft(as) : null;
    if (kept && name in kept) return kept[name] as T;
    return initial instanceof Function ? initial() : initial;
  });
  const isTouched = useRef(false);
  useEffect(() => {
    if (as && isTouched.current) keepDraft(as, { ...keptDraft(as), [name]: value });
  }, [as, name, value]);
  const set = (next: T | ((before: T) => T)) => {
    isTouched.current = true;
    setValue(next);
  };
  return [value, set] as const;
}

/** For whoever saved it: what was typed is done with. */
export function useForgetTyping(): () => void {
  const as = use(KeptContext)?.as;
  return () => {
    if (as) dropDraft(as);
  };
}

/** Says that a form goes on where it was left, with a way to begin anew. */
export function Resumed() {
  const { t } = useTranslation();
  const kept = use(KeptContext);
  if (!kept?.isResumed) return null;
  return (
    <p className="flex flex-wrap items-center gap-x-2 text-muted">
      {t('form.resumed')}
      <Button look="plain" onClick={kept.startOver}>
        {t('form.startOver')}
      </Button>
    </p>
  );
}

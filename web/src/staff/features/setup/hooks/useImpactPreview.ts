import type { WireImpact } from '@zaguan/contracts/availability';
import type { SetupKind } from '@zaguan/contracts/setup';
import { useEffect, useRef, useState } from 'react';
import { KINDS, setupApi } from '../setup.api.ts';

/** Typing goes on for a moment before the server is asked: it tries the change out, which takes longer than a look. */
const AFTER_MS = 600;

/**
 * What saving a record as it is typed now would do; nothing while it is as it was read, or is not whole.
 *
 * @param version the one it was read in; never 0
 */
export function useImpactPreview(kind: SetupKind, id: string, version: number, doc: unknown) {
  const [ask] = setupApi.useEffectsMutation();
  const [answer, setAnswer] = useState<{ of: string; impact: WireImpact | null } | null>(null);
  const read = KINDS[kind].doc.safeParse(doc);
  const text = read.success ? JSON.stringify(read.data) : null;
  const asRead = useRef({ version, text });
  if (asRead.current.version !== version || asRead.current.text === null) asRead.current = { version, text };
  const wanted = text !== null && text !== asRead.current.text ? text : null;
  useEffect(() => {
    if (wanted === null) return;
    let gone = false;
    const wait = setTimeout(() => {
      void ask({ kind, records: [{ id, version, doc: JSON.parse(wanted) }] }).then((result) => {
        if (!gone) setAnswer({ of: wanted, impact: result.data?.impact ?? null });
      });
    }, AFTER_MS);
    return () => {
      gone = true;
      clearTimeout(wait);
    };
  }, [ask, kind, id, version, wanted]);
  const current = wanted !== null && answer?.of === wanted ? answer : null;
  return { impact: current?.impact ?? null, asking: wanted !== null && !current };
}

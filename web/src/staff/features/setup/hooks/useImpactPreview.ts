import type { SetupKind } from '@zaguan/contracts/setup';
import { useRef } from 'react';
import { useDebounced } from '../../../../shared/time/useDebounced.ts';
import { KINDS, setupApi } from '../setup.api.ts';

/** Typing goes on for a moment before the server is asked: it tries the change out, which takes longer than a look. */
const AFTER_MS = 600;

/**
 * What saving a record as it is typed now would do; nothing while it is as it was read, or is not whole.
 *
 * @param version the one it was read in; never 0
 */
export function useImpactPreview(kind: SetupKind, id: string, version: number, doc: unknown) {
  const read = KINDS[kind].doc.safeParse(doc);
  const text = read.success ? JSON.stringify(read.data) : null;
  const asRead = useRef({ version, text });
  if (asRead.current.version !== version || asRead.current.text === null) asRead.current = { version, text };
  const wanted = text !== null && text !== asRead.current.text ? text : null;
  const settled = useDebounced(wanted, AFTER_MS);
  const { currentData, isFetching } = setupApi.useEffectsQuery(
    { kind, records: [{ id, version, doc: JSON.parse(settled ?? '{}') }] },
    { skip: settled === null || settled !== wanted, refetchOnMountOrArgChange: true },
  );
  const isCurrent = wanted !== null && wanted === settled;
  return {
    impact: isCurrent && !isFetching ? (currentData?.impact ?? null) : null,
    asking: wanted !== null && (!isCurrent || isFetching),
  };
}

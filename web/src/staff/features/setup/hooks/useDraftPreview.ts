import type { OutputOf } from '@zaguan/contracts';
import { type previewOnline, type previewVisitType, type VisitTypeDoc, visitTypeDoc } from '@zaguan/contracts/setup';
import { useDebounced } from '../../../../shared/time/useDebounced.ts';
import { setupApi } from '../setup.api.ts';

/** Typing goes on for a moment before the server is asked. */
const AFTER_MS = 450;

interface Previews {
  readonly type: OutputOf<typeof previewVisitType> | null;
  readonly online: OutputOf<typeof previewOnline> | null;
  readonly asking: boolean;
}

/** What the visit type as drafted would have, asked anew after each change; the last answer stays until the next. */
export function useDraftPreview(id: string, doc: VisitTypeDoc, wanted: 'type' | 'online'): Previews {
  const read = visitTypeDoc.safeParse({ ...doc, ...NAMED(doc) });
  const key = read.success ? JSON.stringify({ ...read.data, ...UNSEEN }) : null;
  const settled = useDebounced(key, AFTER_MS);
  const draft = { id, doc: JSON.parse(settled ?? '{}') as VisitTypeDoc };
  const type = setupApi.usePreviewTypeQuery(draft, { skip: settled === null || wanted !== 'type' });
  const online = setupApi.usePreviewOnlineQuery(draft, { skip: settled === null || wanted !== 'online' });
  return {
    type: type.data ?? null,
    online: online.data ?? null,
    asking: key !== null && (key !== settled || type.isFetching || online.isFetching),
  };
}

/** Names that are still missing stand in nobody's way here. */
const NAMED = (doc: VisitTypeDoc) => ({
  code: doc.code || 'draft',
  name: doc.name || '–',
  publicNameEn: doc.publicNameEn || '–',
  publicNameEs: doc.publicNameEs || '–',
});
/** Words change nothing that is counted. */
const UNSEEN = {
  code: 'draft',
  name: '–',
  publicNameEn: '–',
  publicNameEs: '–',
  descriptionEn: '',
  descriptionEs: '',
  preparationEn: '',
  preparationEs: '',
  priceNoteEn: '',
  priceNoteEs: '',
  reasons: [],
};

import type { OutputOf } from '@zaguan/contracts';
import { type previewOnline, type previewVisitType, type VisitTypeDoc, visitTypeDoc } from '@zaguan/contracts/setup';
import { useEffect, useState } from 'react';
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
  const [askType] = setupApi.usePreviewTypeMutation();
  const [askOnline] = setupApi.usePreviewOnlineMutation();
  const [previews, setPreviews] = useState<Previews>({ type: null, online: null, asking: false });
  const read = visitTypeDoc.safeParse({ ...doc, ...NAMED(doc) });
  const key = read.success ? JSON.stringify({ ...read.data, ...UNSEEN }) : null;
  useEffect(() => {
    if (key === null) return;
    const draft = { id, doc: JSON.parse(key) as VisitTypeDoc };
    let gone = false;
    const timer = setTimeout(async () => {
      setPreviews((before) => ({ ...before, asking: true }));
      const result = wanted === 'type' ? await askType(draft) : await askOnline(draft);
      if (gone) return;
      const data = 'data' in result ? result.data : null;
      setPreviews((before) => ({ ...before, asking: false, ...(data && { [wanted]: data }) }));
    }, AFTER_MS);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [id, key, wanted, askType, askOnline]);
  return previews;
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

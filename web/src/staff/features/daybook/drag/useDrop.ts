import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { type ApiError, apiError } from '../../../../shared/api/contractApi.ts';
import { bookingApi, useNames } from '../../booking/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import { daybookApi } from '../daybook.api.ts';
import type { Over, Picked } from './drag.slice.ts';

/** What a drop comes to at the server; each can be taken back. */
export function useDrop() {
  const { t } = useTranslation();
  const undoable = useUndoToast();
  const { whenOf } = useNames();
  const [move] = daybookApi.useMoveVisitMutation();
  const [bench] = bookingApi.usePutOnBenchMutation();
  const refuse = (refused: ApiError | null) =>
    void toast.error(
      [
        t(`error.${refused?.tag ?? 'Unexpected'}`, { ...refused?.facts, requestId: refused?.requestId }),
        ...(refused?.codes ?? []).map((code) => `${t(`whyNot.code.${code}` as 'whyNot.code.busy')}.`),
      ].join(' '),
    );
  const whenMoved = (picked: Picked, to: Pick<Over, 'siteId' | 'providerId' | 'start' | 'lengthMin'>) => {
    if (to.lengthMin !== null) return t('drag.lengthSet', { name: picked.name, minutes: to.lengthMin });
    const start = new Date(to.start * 60_000).toISOString();
    return t('visit.movedTo', { name: picked.name, when: whenOf({ ...to, start }) });
  };
  return {
    refuse,
    /** Says why it can't be put down there at all. */
    refusePlace: (words: readonly string[]) => void toast.error(words.join(' ')),
    whenMoved,
    onBench: async (picked: Picked) => {
      const { visitId, version } = picked;
      const { data, error } = await bench({ appointmentId: visitId as never, version, freeNow: false, note: '' });
      if (data) undoable(t('bench.placed'), data.undo.id);
      else refuse(apiError(error));
    },
    onPlace: async (picked: Picked, to: Over) => {
      const { visitId, version } = picked;
      const { data, error } = await move({
        ...{ id: visitId as never, version, siteId: to.siteId as never, providerId: to.providerId as never },
        start: new Date(to.start * 60_000).toISOString(),
        ...(to.lengthMin !== null && { lengthMin: to.lengthMin }),
      });
      if (data) undoable(whenMoved(picked, to), data.undo.id);
      else refuse(apiError(error));
    },
  };
}

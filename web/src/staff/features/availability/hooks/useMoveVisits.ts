import type { VisitToMove } from '@zaguan/contracts/availability';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { useUndoToast } from '../../undo/index.ts';
import { availabilityApi } from '../availability.api.ts';
import { timeFrom } from '../components/otherTime.ts';

/** Visits with the times that are chosen for them, as they are sent. */
export const asTimes = (visits: readonly VisitToMove[], timeOf: (visit: VisitToMove) => string) =>
  visits.map((visit) => ({
    appointmentId: visit.appointmentId as never,
    version: visit.version,
    ...timeFrom(timeOf(visit)),
  }));

/** Moves some of the list, and says what was moved, with undo. */
export function useMoveVisits(timeOf: (visit: VisitToMove) => string) {
  const { t } = useTranslation();
  const { refetch } = availabilityApi.useVisitsToMoveQuery({});
  const [accept] = availabilityApi.useAcceptTimesMutation();
  const undoable = useUndoToast();
  /** From pressing until the list without what was moved is here. News from others stops nobody's press. */
  const [moving, setMoving] = useState(false);
  const take = async (some: readonly VisitToMove[]) => {
    const result = await accept({ times: asTimes(some, timeOf) });
    if (!result.data) {
      const refused = apiError(result.error);
      toast.error(t(`error.${refused?.tag ?? 'Unexpected'}`, { requestId: refused?.requestId }));
      return;
    }
    const { moved, refused, undo } = result.data;
    if (undo) undoable(t('schedule.done.moved', { count: moved }), undo.id);
    if (refused.length) toast.error(t('schedule.notMoved', { count: refused.length }));
  };
  return {
    moving,
    move: async (some: readonly VisitToMove[]) => {
      setMoving(true);
      await take(some);
      await refetch();
      setMoving(false);
    },
  };
}

import type { WireEdit } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { useUndoToast } from '../../undo/index.ts';
import { availabilityApi } from '../availability.api.ts';
import { draftsApi } from '../drafts.api.ts';
import { type Lane, rectangle } from '../grid/geometry.ts';
import type { CellAt } from '../grid/useGridDrag.ts';
import type { Brush, Span } from '../panel.ts';
import { useDraft } from './draftContext.ts';

/** The brush paints at once: it strands nobody, and a stroke is taken back with one press. */
export function usePaint(lanes: readonly Lane[]) {
  const { t } = useTranslation();
  const [save] = availabilityApi.useEditMutation();
  const undoable = useUndoToast();
  const draft = useDraft();
  const [add] = draftsApi.useAddToDraftMutation();
  const complain = (error: ReturnType<typeof apiError>) =>
    toast.error(
      error?.tag === 'ScheduleRefused'
        ? t(`schedule.fault.${error.codes?.[0]}`)
        : t(`error.${error?.tag}`, { requestId: error?.requestId }),
    );
  const run = async (strokes: { lane: Lane; date: string; span: Span }[], value: Brush) => {
    const bySite = new Map<string, typeof strokes>();
    for (const stroke of strokes) bySite.set(stroke.lane.siteId, [...(bySite.get(stroke.lane.siteId) ?? []), stroke]);
    const edits: WireEdit[] = [...bySite].map(([siteId, here]) => ({
      do: 'brush',
      siteId,
      strokes: here.map(({ lane, date, span }) => ({ resourceId: lane.resourceId, date, ...span })),
      value,
    }));
    if (!edits.length) return toast(t('schedule.fault.nothing-to-brush'));
    if (draft) {
      const added = await add({ id: draft.id, version: draft.version, edits });
      if (added.data) return toast(t('schedule.draft.added', { count: added.data.draft.acts }));
      return complain(apiError(added.error));
    }
    const result = await save({ edits });
    if (result.data) return undoable(t('schedule.done.painted'), result.data.undo.id);
    complain(apiError(result.error));
  };
  return {
    /** One stretch of the clock over all lanes and days between two cells. */
    stretch: (from: CellAt, to: CellAt, span: Span, value: Brush) =>
      run(
        rectangle(lanes, from, to).map(({ lane, day }) => ({ lane, date: lane.days[day].date, span })),
        value,
      ),
    /** All hours of the lanes and days between two cells. */
    hours: (from: CellAt, to: CellAt, value: Brush) =>
      run(
        rectangle(lanes, from, to).flatMap(({ lane, day }) =>
          lane.days[day].hours.map(({ fromMinute, toMinute }) => ({
            lane,
            date: lane.days[day].date,
            span: { fromMinute, toMinute },
          })),
        ),
        value,
      ),
  };
}

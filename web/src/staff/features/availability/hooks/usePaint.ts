import type { InputOf } from '@zaguan/contracts';
import type { scheduleWeek, WireEdit } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { codeWords } from '../../../../shared/i18n/codeWords.ts';
import type { ApiError } from '../../../../shared/api/contractApi.ts';
import { useAppDispatch } from '../../../store.ts';
import { availabilityApi } from '../availability.api.ts';
import { type Lane, laneKey, rectangle } from '../grid/geometry.ts';
import { painted } from '../grid/stroke.ts';
import type { CellAt } from '../grid/useGridDrag.ts';
import type { Brush, Span } from '../panel.ts';
import { useSaveEdits } from './useEdits.ts';

/** The brush paints at once: no visit has to move for it, and a stroke is taken back with one press. */
/** @param week the question whose answer is painted on at once, before the server has answered */
export function usePaint(lanes: readonly Lane[], week: InputOf<typeof scheduleWeek>) {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const { run: paint } = useSaveEdits();
  const complain = (error: ApiError) =>
    toast.error(
      error.tag === 'ScheduleRefused'
        ? codeWords(t, 'schedule.fault', error.codes?.[0] ?? '', error.facts, t('error.ScheduleRefused'))
        : t(`error.${error.tag}`, { requestId: error.requestId }),
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
    const drawn = dispatch(
      availabilityApi.util.updateQueryData('scheduleWeek', week, (shown) => {
        if (value === 'by-rule') return;
        for (const { lane, date, span } of strokes) {
          const at = shown.lanes.find((row) => laneKey(row) === laneKey(lane));
          const i = at?.days.findIndex((day) => day.date === date) ?? -1;
          const site = shown.sites.find(({ id }) => id === lane.siteId)?.days[i];
          if (at && site) at.days[i] = painted(at.days[i], site, span, value);
        }
      }),
    );
    const refused = await paint(edits, t('schedule.done.painted'));
    if (!refused) return;
    drawn.undo();
    complain(refused);
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

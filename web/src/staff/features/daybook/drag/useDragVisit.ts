import type { DragEndEvent, DragMoveEvent, DragStartEvent } from '@dnd-kit/core';
import type { Plate } from '@zaguan/contracts/daybook';
import { type RefObject, useEffect, useMemo, useRef } from 'react';
import { useStore } from 'react-redux';
import { dateAt } from '../../../../shared/time/format.ts';
import type { ApiError } from '../../../../shared/api/contractApi.ts';
import { type State, useAppDispatch } from '../../../store.ts';
import { minuteOf, type LaneSection } from '../layout.ts';
import { findLane, laneAround } from '../laneAround.ts';
import { judgePlace } from './askJudge.ts';
import { type Box, drag, type Over, type Picked, type Verdict } from './drag.slice.ts';
import { loadFits } from './loadFits.ts';
import { placeKey } from './moveJudge.ts';
import { lengthUnder, MIN_PX, placeUnder, scaleOf } from './placeUnder.ts';

/** A judgment that takes longer is said to be asked for. */
const SLOW_MS = 80;

/** A plate that was grabbed, before it is dragged anywhere. */
export interface Grabbed {
  readonly picked: Picked;
  readonly barLeft: number;
  readonly height: number;
  readonly drawnAfterMin: number;
  /** Where its end was grabbed: what it is pulled from. */
  readonly end: { readonly at: Omit<Over, 'start' | 'lengthMin'>; readonly bar: Box } | null;
}

/** So near to its end a press pulls the end. */
const END_PX = 7;

/**
 * Whether a press on a plate is on the end of its minutes, so that it is pulled longer or shorter; `null`: it is not. Only
 * where the whole visit is drawn: on the lane of a nurse who leaves before its end, its end isn't there.
 *
 * @param at where it is pressed; missing for a key
 */
function grabbedEnd(button: HTMLElement, plate: Plate, at: { x: number; y: number } | null): Box | null {
  const board = button.closest<HTMLElement>('[data-axis]');
  if (!board || !at || plate.drawn.end !== plate.end || plate.drawn.start !== plate.start) return null;
  const { axis, pxPerMin } = scaleOf(board);
  const { left, top, width, height } = button.getBoundingClientRect();
  const px = Math.max(MIN_PX, ((Date.parse(plate.end) - Date.parse(plate.start)) / 60_000) * pxPerMin - 2);
  const bar =
    axis === 'across'
      ? { left: left + Number(button.dataset.barLeft ?? 0), top, width: px, height }
      : { left, top, width, height };
  const past = axis === 'across' ? bar.left + bar.width - at.x : bar.top + bar.height - at.y;
  return past >= 0 && past <= END_PX ? bar : null;
}

/** The visit of a plate that can be dragged; `null` for a hold, and for who is here already. */
export function grab(
  element: Element,
  sections: readonly LaneSection[],
  pressed: { x: number; y: number } | null = null,
): Grabbed | null {
  const button = element.closest<HTMLElement>('[data-plate]');
  const at = button && laneAround(button);
  const found = at && findLane(sections, at);
  const plate = found?.lane.plates.find(({ id }) => id === button?.dataset.plate);
  if (!button || !found || !plate || !isMovable(plate)) return null;
  const bar = grabbedEnd(button, plate, pressed);
  const { site, lane } = found;
  return {
    end: bar && {
      bar,
      at: {
        ...{ laneId: lane.id, dayStart: site.dayStart, siteId: site.id, providerId: plate.providerId },
        date: dateAt(site.dayStart, site.timeZone),
      },
    },
    picked: {
      visitId: plate.id,
      version: plate.version,
      name: button.querySelector('[data-plate-name]')?.textContent ?? '',
      siteId: found.site.id,
      providerId: plate.providerId,
      start: plate.start,
      end: plate.end,
      fromBench: false,
      toBook: null,
    },
    barLeft: Number(button.dataset.barLeft ?? 0),
    height: button.offsetHeight,
    drawnAfterMin: minuteOf(found.site, plate.drawn.start) - minuteOf(found.site, plate.start),
  };
}

function isMovable({ kind, status }: Pick<Plate, 'kind' | 'status'>): boolean {
  return kind === 'visit' && (status === 'booked' || status === 'pending');
}

/**
 * Drags a visit over the board: what it hangs over, whether it fits there, and why not. Nothing is asked of the server
 * from move to move: the worker has what one date depends on.
 */
export function useDragVisit(
  board: RefObject<HTMLElement | null>,
  sections: readonly LaneSection[],
  whenFailed: (error: ApiError | null) => void,
) {
  const store = useStore<State>();
  const dispatch = useAppDispatch();
  const onFailed = useRef(whenFailed);
  onFailed.current = whenFailed;
  const grabbed = useRef<Grabbed | null>(null);
  const asking = useRef(0);
  const loading = useRef(new Set<string>());
  const latest = useRef(sections);
  latest.current = sections;
  useEffect(() => () => void dispatch(drag.actions.ended()), [dispatch]);
  return useMemo(() => {
    const load = async (picked: Picked, date: string) => {
      const key = keyOf(picked, date);
      if (loading.current.has(key)) return;
      loading.current.add(key);
      const { fits, error = null } = await loadFits(dispatch, key, picked, date, latest.current);
      loading.current.delete(key);
      if (!fits) onFailed.current(error);
      // A date of which nothing is known has no place to put it: said once, and not asked at each move.
      dispatch(drag.actions.fitted({ visitId: picked.visitId, date, fits: fits ?? {} }));
      const { over } = store.getState().drag;
      if (over?.date === date) judge(over, over.box, true);
    };
    const judge = (over: Over, box: Box, anew = false) => {
      const { picked, fits, over: before } = store.getState().drag;
      if (!picked) return;
      if (!anew && before && isSame(before, over)) {
        // The board was scrolled under it.
        if (before.box.top !== box.top || before.box.left !== box.left) dispatch(drag.actions.over({ ...before, box }));
        return;
      }
      const n = ++asking.current;
      const say = (verdict: Verdict) => dispatch(drag.actions.over({ ...over, verdict, box }));
      if (isOwn(picked, over)) return say({ is: 'own' });
      const known = fits[over.date];
      if (!known) {
        say({ is: 'asking' });
        void load(picked, over.date);
        return;
      }
      const isMoved = over.lengthMin === null;
      if (isMoved && known[placeKey(over.siteId, over.providerId)]?.includes(over.start)) return say({ is: 'fits' });
      if (picked.toBook) return say({ is: 'unsearched' });
      // An answer comes within milliseconds: to show first that it is asked for would draw everything twice.
      const slow = setTimeout(() => n === asking.current && say({ is: 'asking' }), SLOW_MS);
      void judgePlace(keyOf(picked, over.date), over)
        .catch(() => null)
        .then((judgment) => {
          clearTimeout(slow);
          if (n !== asking.current) return;
          if (!judgment) say({ is: 'elsewhere' });
          else if (judgment.refused.length) say({ is: 'refused', ...judgment });
          else say({ is: 'fits' });
        });
    };
    return {
      grabbed,
      onDragStart: (_: DragStartEvent) => {
        const { current } = grabbed;
        if (!current) return;
        const { picked } = current;
        dispatch(drag.actions.picked(picked));
        for (const { site } of latest.current)
          if (picked.fromBench || (site.dayStart <= picked.start && picked.start < site.dayEnd))
            void load(picked, dateAt(site.dayStart, site.timeZone));
      },
      onDragMove: ({ active, over, delta }: DragMoveEvent) => {
        const rect = active.rect.current.translated;
        const { picked } = store.getState().drag;
        if (!rect || !picked || !grabbed.current || !board.current) return;
        const { end } = grabbed.current;
        const place = end
          ? lengthUnder(board.current, { picked, ...end }, delta)
          : over
            ? null
            : placeUnder(board.current, { left: rect.left, top: rect.top, ...grabbed.current }, picked, latest.current);
        if (place) return judge(place.over, place.box);
        asking.current++;
        if (store.getState().drag.over) dispatch(drag.actions.over(null));
      },
      /** Whatever it was dropped on, it is not dragged any more. */
      onDragEnd: (_: DragEndEvent) => {
        const { picked, over } = store.getState().drag;
        asking.current++;
        grabbed.current = null;
        dispatch(drag.actions.ended());
        return { picked, over };
      },
    };
  }, [store, dispatch, board]);
}

const keyOf = (picked: Picked, date: string): string => `${picked.visitId} ${picked.version} ${date}`;

const isSame = (a: Over, b: Over): boolean =>
  a.laneId === b.laneId &&
  a.dayStart === b.dayStart &&
  a.start === b.start &&
  a.providerId === b.providerId &&
  a.lengthMin === b.lengthMin;

const isOwn = (picked: Picked, over: Over): boolean =>
  over.start * 60_000 === Date.parse(picked.start) &&
  (over.lengthMin === null || over.lengthMin * 60_000 === Date.parse(picked.end) - Date.parse(picked.start)) &&
  over.siteId === picked.siteId &&
  over.providerId === picked.providerId;

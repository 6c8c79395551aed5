import {
  type Announcements,
  DndContext,
  DragOverlay,
  KeyboardSensor,
  MouseSensor,
  pointerWithin,
  TouchSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { type ReactNode, type RefObject, useCallback, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from 'react-redux';
import { scopeOf } from '@zaguan/contracts';
import { useAppSelector, type State } from '../../../store.ts';
import { accountsApi } from '../../accounts/index.ts';
import type { LaneSection } from '../layout.ts';
import { AgainstRules, type Dropped } from './AgainstRules.tsx';
import { BENCH } from './DropStrip.tsx';
import type { Over, ToBook } from './drag.slice.ts';
import { DragContext } from './dragContext.ts';
import { placeKey } from './moveJudge.ts';
import { stepTo } from './placeUnder.ts';
import { useDragVisit } from './useDragVisit.ts';
import { useDrop } from './useDrop.ts';
import { usePlaceWords } from './usePlaceWords.ts';

/** The keys that pick a visit up, put it down and give it up. */
const KEYS = { start: ['KeyM'], end: ['Enter', 'Space', 'KeyM'], cancel: ['Escape'] };
/** A press that moves less is a click. */
const CLICK_PX = 5;
/** Only close to the edge does the board scroll by itself. */
const AUTO_SCROLL = { threshold: { x: 0.06, y: 0.08 }, interval: 20 };
/** A finger that moves at once scrolls. */
const HOLD_MS = 300;

/**
 * The board with visits that can be dragged: by mouse, by a held finger, or by `m`, arrows and Enter. Everything is
 * delegated to the board, so that hundreds of plates cost nothing.
 */
export function DragVisits({
  board,
  sections,
  onBook,
  children,
}: {
  board: RefObject<HTMLElement | null>;
  sections: readonly LaneSection[];
  /** A visit of the Bench that has no time is put down somewhere; missing where nothing is booked. */
  onBook?: (what: ToBook, to: Over) => void;
  children: ReactNode;
}) {
  const { t } = useTranslation();
  const store = useStore<State>();
  const drop = useDrop();
  const wordsOf = usePlaceWords(sections);
  const dragging = useDragVisit(board, sections, drop.refuse);
  const { data: who } = accountsApi.useWhoAmIQuery({});
  const mayMove = !!who?.me && scopeOf(who.me.role, 'appointment.move') !== 'no';
  const [dropped, setDropped] = useState<Dropped | null>(null);
  const announced = useRef('');
  const coordinateGetter = useCallback(
    (event: KeyboardEvent, { currentCoordinates }: { currentCoordinates: { x: number; y: number } }) => {
      const { over, fits, picked } = store.getState().drag;
      const starts = over && picked ? fits[over.date]?.[placeKey(over.siteId, over.providerId)] : undefined;
      return board.current ? stepTo(event, board.current, currentCoordinates, over, starts) : undefined;
    },
    [store, board],
  );
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: CLICK_PX } }),
    useSensor(TouchSensor, { activationConstraint: { delay: HOLD_MS, tolerance: 8 } }),
    useSensor(KeyboardSensor, { coordinateGetter, keyboardCodes: KEYS, scrollBehavior: 'auto' }),
  );
  const announcements: Announcements = {
    onDragStart: () => t('drag.pickedUp', { name: store.getState().drag.picked?.name ?? '' }),
    onDragMove: () => {
      const { over } = store.getState().drag;
      const words = over ? wordsOf(over).join(' ') : '';
      if (words === announced.current) return undefined;
      announced.current = words;
      return words || undefined;
    },
    onDragOver: () => undefined,
    onDragEnd: () => t('drag.putDown'),
    onDragCancel: () => t('drag.givenUp'),
  };
  return (
    <DragContext value={mayMove ? dragging : null}>
      <DndContext
        sensors={sensors}
        collisionDetection={pointerWithin}
        autoScroll={AUTO_SCROLL}
        accessibility={{ announcements, screenReaderInstructions: { draggable: t('drag.howTo') } }}
        onDragStart={dragging.onDragStart}
        onDragMove={dragging.onDragMove}
        onDragCancel={dragging.onDragEnd}
        onDragEnd={(event) => {
          const { picked, over } = dragging.onDragEnd(event);
          if (!picked) return;
          if (event.over?.id === BENCH) return void (picked.fromBench || drop.onBench(picked));
          if (!over || over.verdict.is === 'own' || over.verdict.is === 'elsewhere') return;
          if (picked.toBook) return onBook?.(picked.toBook, over);
          if (over.verdict.is !== 'refused') return void drop.onPlace(picked, over);
          if (over.verdict.byReason) {
            const broken = over.verdict.refused.map((one) => ({ code: one.code, lines: wordsOf.lines(over, one) }));
            setDropped({ picked, to: over, broken });
          } else drop.refusePlace(wordsOf(over));
        }}
      >
        {children}
        <DropMark />
        <DragOverlay dropAnimation={null} zIndex={60} className="pointer-events-none">
          <Dragged wordsOf={wordsOf} />
        </DragOverlay>
      </DndContext>
      {dropped && <AgainstRules dropped={dropped} onClose={() => setDropped(null)} />}
    </DragContext>
  );
}

/**
 * While a visit is dragged: the place it hangs over, drawn above the board and not in it, so that no lane is painted again;
 * and over all a sheet that spares the browser the search for what lies under the pointer.
 */
function DropMark() {
  const isDragged = useAppSelector((state) => state.drag.picked !== null);
  const over = useAppSelector((state) => state.drag.over);
  if (!isDragged) return null;
  const isRefused = over?.verdict.is === 'refused' || over?.verdict.is === 'elsewhere';
  return (
    <div className="fixed inset-0 z-50 cursor-grabbing">
      {over && (
        <span
          data-drop-at={over.start}
          data-verdict={over.verdict.is}
          className={`absolute top-0 left-0 rounded-sm border-2 will-change-transform ${isRefused ? 'border-dashed border-danger' : 'border-accent'}`}
          style={{
            ...{ width: over.box.width, height: over.box.height },
            transform: `translate3d(${over.box.left}px, ${over.box.top}px, 0)`,
          }}
        />
      )}
    </div>
  );
}

/** What hangs at the pointer: who, and below what putting it down here would come to. */
function Dragged({ wordsOf }: { wordsOf: ReturnType<typeof usePlaceWords> }) {
  const picked = useAppSelector((state) => state.drag.picked);
  const over = useAppSelector((state) => state.drag.over);
  if (!picked) return null;
  const refused = over?.verdict.is === 'refused' || over?.verdict.is === 'elsewhere';
  return (
    <div data-dragged className="relative w-max">
      {/* Where it came from, without drawing its lane again. */}
      <style>{`[data-plate="${CSS.escape(picked.visitId)}"] { opacity: 0.45 }`}</style>
      <p className="w-max rounded-sm border-l-[3px] border-accent bg-panel px-2 py-1 font-bold shadow-lg">
        {picked.name}
      </p>
      {over && (
        <p
          data-place-words
          className={`mt-1 w-max max-w-72 rounded-sm px-2 py-1 shadow-lg ${refused ? 'bg-danger text-on-fill' : 'bg-chrome text-white'}`}
        >
          {wordsOf(over).map((line) => (
            <span key={line} className="block">
              {line}
            </span>
          ))}
        </p>
      )}
    </div>
  );
}

import type { Plate, SiteDay } from '@zaguan/contracts/daybook';
import { Popover } from 'radix-ui';
import {
  type FocusEvent,
  type KeyboardEvent,
  type PointerEvent,
  type RefObject,
  useEffect,
  useRef,
  useState,
} from 'react';
import { useTranslation } from 'react-i18next';
import { timeOf } from '../../../../shared/time/format.ts';
import { useAppSelector } from '../../../store.ts';
import type { LaneSection } from '../layout.ts';
import type { TypeNames } from './LaneView.tsx';
import { readyWords, statusWords } from './PlateView.tsx';

/** A pointer that only passes opens nothing; one on its way to the card does not close it. */
const OPEN_AFTER_MS = 350;
const CLOSE_AFTER_MS = 150;

interface Shown {
  readonly element: HTMLElement;
  readonly plate: Plate;
  readonly site: SiteDay;
}

/** The plate under the pointer or in focus. One for all plates: a card of its own for each would be made hundreds of times. */
export function usePlateCard(sections: readonly LaneSection[]) {
  const [shown, setShown] = useState<Shown | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const find = (target: EventTarget): Shown | null => {
    const element = target instanceof Element ? target.closest<HTMLElement>('[data-plate]') : null;
    const laneId = element?.closest('[data-lane]')?.getAttribute('data-lane');
    if (!element || !laneId) return null;
    for (const { site } of sections)
      for (const lane of site.lanes) {
        const plate = lane.id === laneId && lane.plates.find(({ id }) => id === element.dataset.plate);
        if (plate && element.closest(`[data-day-start="${site.dayStart}"]`)) return { element, plate, site };
      }
    return null;
  };
  const later = (what: Shown | null, ms: number) => {
    clearTimeout(timer.current);
    timer.current = setTimeout(() => setShown(what), ms);
  };
  return {
    shown,
    keep: () => clearTimeout(timer.current),
    leave: () => later(null, CLOSE_AFTER_MS),
    handlers: {
      onPointerOver: (event: PointerEvent) => {
        const found = find(event.target);
        if (found && found.element !== shown?.element) later(found, shown ? 0 : OPEN_AFTER_MS);
        else if (found) clearTimeout(timer.current);
        else later(null, CLOSE_AFTER_MS);
      },
      onPointerLeave: () => later(null, CLOSE_AFTER_MS),
      onPointerDown: () => later(null, 0),
      onFocus: (event: FocusEvent) => {
        // By keyboard only: a click shows the panel, which says more.
        if (event.target.matches(':focus-visible')) later(find(event.target), 0);
      },
      onBlur: () => later(null, 0),
      onScroll: () => setShown(null),
    },
    escape: (event: KeyboardEvent) => {
      if (event.key === 'Escape') later(null, 0);
    },
  };
}

/** What the plate has no room for. */
export function PlateCard({
  card: { shown, keep, leave },
  types,
}: {
  card: Pick<ReturnType<typeof usePlateCard>, 'shown' | 'keep' | 'leave'>;
  types: TypeNames;
}) {
  const { t } = useTranslation();
  const namesHidden = useAppSelector((state) => state.prefs.namesHidden);
  const anchor = useRef<HTMLElement | null>(null);
  if (!shown || shown.plate.kind === 'hold') return null;
  const { plate, site } = shown;
  anchor.current = shown.element;
  const ready = readyWords(plate, t);
  return (
    <Popover.Root open>
      <Popover.Anchor virtualRef={anchor as RefObject<HTMLElement>} />
      <Popover.Portal>
        <Popover.Content
          role="tooltip"
          side="bottom"
          sideOffset={4}
          collisionPadding={8}
          onOpenAutoFocus={(event) => event.preventDefault()}
          onCloseAutoFocus={(event) => event.preventDefault()}
          onPointerEnter={keep}
          onPointerLeave={leave}
          className="z-40 max-w-xs rounded-md border border-line-strong bg-panel px-3 py-2 leading-snug"
        >
          <p className="font-bold">{namesHidden ? t('lens.someone') : plate.name}</p>
          <p>
            {timeOf(plate.drawn.start, site.timeZone)} to {timeOf(plate.drawn.end, site.timeZone)} ·{' '}
            {types[plate.visitTypeId]?.name}
          </p>
          <p>
            {statusWords(plate, t)}
            {plate.origin && ` · ${t(`visit.origin.${plate.origin}`)}`}
          </p>
          {ready && <p className={ready.held ? 'font-bold text-brick' : 'text-ochre'}>{ready.words}</p>}
          {plate.reason && !namesHidden && <p className="mt-1">“{plate.reason}”</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

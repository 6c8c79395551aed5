import type { Plate, SiteDay } from '@zaguan/contracts/daybook';
import { Popover } from 'radix-ui';
import { type FocusEvent, type PointerEvent, useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { timeOf } from '../../../../shared/time/format.ts';
import { useAppSelector } from '../../../store.ts';
import { accountsApi } from '../../accounts/index.ts';
import type { LaneSection } from '../layout.ts';
import type { TypeNames } from './useLane.ts';
import { findLane, type LaneAt, laneAround } from '../laneAround.ts';
import { formatStatus, signsOf } from '../plateFace.ts';
import type { Sign } from '../plateLayout.ts';
import { useView } from '../views/viewContext.ts';

const SIGN_COLORS: Record<Sign['kind'], string> = {
  ...{ held: 'font-bold text-danger', 'too-late': 'font-bold text-danger', late: 'font-bold text-danger' },
  ...{ 'waits-long': 'font-bold text-warning', waits: 'text-muted', open: 'text-warning' },
};

/** A pointer that only passes opens nothing; one on its way to the card does not close it. */
const OPEN_AFTER_MS = 350;
const CLOSE_AFTER_MS = 150;

/** Which plate: the element, and where it stands in the data. What it says is looked up anew each time it is drawn. */
interface At extends LaneAt {
  readonly element: HTMLElement;
  readonly plateId: string;
}

function plateUnder(target: EventTarget): At | null {
  const element = target instanceof Element ? target.closest<HTMLElement>('[data-plate]') : null;
  const plateId = element?.dataset.plate;
  const where = element && laneAround(element);
  return where && plateId ? { element, plateId, ...where } : null;
}

function lookUp(sections: readonly LaneSection[], at: At): { plate: Plate; site: SiteDay } | null {
  const found = findLane(sections, at);
  const plate = found?.lane.plates.find(({ id }) => id === at.plateId);
  return found && plate ? { plate, site: found.site } : null;
}

/** The plate under the pointer or in focus. One for all plates: a card of its own for each would be made hundreds of times. */
export function usePlateCard() {
  const [at, setAt] = useState<At | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  // What the timer will show, so that moving about on one plate does not put it off.
  const upcoming = useRef<HTMLElement | null>(null);
  useEffect(() => () => clearTimeout(timer.current), []);
  const later = (what: At | null, ms: number) => {
    clearTimeout(timer.current);
    upcoming.current = what?.element ?? null;
    timer.current = setTimeout(() => setAt(what), ms);
  };
  const keep = () => {
    clearTimeout(timer.current);
    upcoming.current = null;
  };
  return {
    at,
    keep,
    leave: () => later(null, CLOSE_AFTER_MS),
    close: () => later(null, 0),
    /** For the element that holds the plates; the card itself must stand outside it. */
    handlers: {
      // A plate that scrolling brings under a resting pointer is not pointed at: only a move opens.
      onPointerMove: (event: PointerEvent) => {
        const found = plateUnder(event.target);
        if (!found) {
          if (at || upcoming.current) later(null, CLOSE_AFTER_MS);
        } else if (found.element === at?.element) keep();
        else if (found.element !== upcoming.current) later(found, at ? 0 : OPEN_AFTER_MS);
      },
      onPointerLeave: () => later(null, CLOSE_AFTER_MS),
      onPointerDown: () => later(null, 0),
      onFocus: (event: FocusEvent) => {
        // By keyboard only: a click shows the panel, which says more.
        if (event.target.matches(':focus-visible')) later(plateUnder(event.target), 0);
      },
      onBlur: () => later(null, 0),
      onScroll: () => {
        keep();
        setAt(null);
      },
    },
  };
}

/** What the plate has no room for. */
export function PlateCard({
  card: { at, keep, leave, close },
  sections,
  types,
  now,
}: {
  card: ReturnType<typeof usePlateCard>;
  sections: readonly LaneSection[];
  types: TypeNames;
  now: string;
}) {
  const { t } = useTranslation();
  const { namesHidden } = useView();
  const lateAfterMin = accountsApi.useClinicQuery({}).data?.lateAfterMin ?? null;
  // What hangs at the pointer says what matters then.
  const isDropMark = useAppSelector((state) => state.drag.picked !== null);
  const found = at && lookUp(sections, at);
  if (!found || isDropMark || found.plate.kind === 'hold') return null;
  const { plate, site } = found;
  return (
    <Popover.Root open onOpenChange={close}>
      <Popover.Anchor virtualRef={{ current: at.element }} />
      <Popover.Portal>
        <Popover.Content
          role="tooltip"
          side="bottom"
          sideOffset={4}
          collisionPadding={8}
          onOpenAutoFocus={(event) => event.preventDefault()}
          onCloseAutoFocus={(event) => event.preventDefault()}
          // Escape closes it wherever the focus is; pointer and focus are followed by the plates themselves.
          onInteractOutside={(event) => event.preventDefault()}
          onPointerEnter={keep}
          onPointerLeave={leave}
          className="z-40 max-w-xs rounded-md border border-line-strong bg-panel px-3 py-2 leading-snug"
        >
          <p className="font-bold">{namesHidden ? t('daybookView.someone') : plate.name}</p>
          <p>
            {t('daybook.range', {
              from: timeOf(plate.drawn.start, site.timeZone),
              until: timeOf(plate.drawn.end, site.timeZone),
            })}{' '}
            · {types[plate.visitTypeId]?.name}
          </p>
          <p>
            {formatStatus(plate, t)}
            {plate.origin && ` · ${t(`visit.origin.${plate.origin}`)}`}
          </p>
          {signsOf(plate, { now, delays: site.delays, lateAfterMin }, t).map(({ kind, words }) => (
            <p key={kind} className={SIGN_COLORS[kind]}>
              {words}
            </p>
          ))}
          {plate.reason && !namesHidden && <p className="mt-1">“{plate.reason}”</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

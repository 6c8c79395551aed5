import type { ViewSettings } from '@zaguan/contracts/daybook';
import { type RefObject, startTransition, useEffect, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from 'react-redux';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';
import type { State } from '../../../store.ts';
import { SiteColumns } from '../columns/SiteColumns.tsx';
import { Grip } from '../drag/Grip.tsx';
import type { BoardPart } from '../hooks/useBoardParts.ts';
import type { Panel } from '../hooks/useDaybookAddress.ts';
import { movesAmongPlates } from '../hooks/useDaybookKeys.ts';
import { useTextWidth } from '../hooks/useTextWidth.ts';
import { isInUse, type LaneSection, minuteOf, type Shown } from '../layout.ts';
import { alikeNames } from '../plateLayout.ts';
import { useView } from '../views/viewContext.ts';
import { PlateCard, usePlateCard } from './PlateCard.tsx';
import { ToCome } from './ToCome.tsx';
import { SiteLanes, type SiteProps } from './SiteLanes.tsx';
import { Skeleton } from './Skeleton.tsx';
import type { TypeNames } from './useLane.ts';

/** What stands before the hours: the lanes' names beside rows, their heads above columns. */
const HEAD_PX = { across: 131, down: 84 } as const;
/** A column's hour is never lower: ten minutes are as high as can be hit (WCAG 2.5.8: 24 px). */
const LEAST_HOUR_DOWN_PX = 144;
/** As many lanes as a tall window shows: they are drawn before the others. */
const DRAWN_FIRST = 8;

/** A site's day, or what stands in its place while it is loaded. */
type Part = Pick<BoardPart, 'key' | 'title' | 'section' | 'query'>;

interface Props {
  /** The part that scrolls. */
  readonly board: RefObject<HTMLElement | null>;
  /** All that is to be drawn, loaded or not. */
  readonly parts: readonly Part[];
  /** Those of them that are loaded. */
  readonly sections: readonly LaneSection[];
  /** A part that isn't loaded has come into sight. */
  readonly onSee?: (key: string) => void;
  /** The part to begin with where the board is opened, such as today in a week; -1 or missing: the first. */
  readonly openAt?: number;
  /** Missing while it is loaded. */
  readonly shown: Shown | undefined;
  readonly now: string;
  readonly types: TypeNames;
  /** The panel at the right: its plate is marked, and brought into sight. */
  readonly panel: Panel | null;
  readonly onOpen: (panel: Panel) => void;
  readonly query: { readonly error?: unknown; readonly isFetching: boolean; refetch(): unknown };
}

/** Lanes below each other or side by side, as the Lens has it: as large as the whole day fits, or larger, then it scrolls. */
export function Board({
  board: box,
  parts,
  sections,
  onSee,
  openAt = -1,
  shown,
  now,
  types,
  panel,
  onOpen,
  query,
}: Props) {
  const { t } = useTranslation();
  const store = useStore<State>();
  const view = useView();
  const { axis } = view;
  const pxPerMin = useScale(box, shown, view);
  const widthOf = useTextWidth();
  const alike = useAlike(sections);
  const chosen = panel?.kind === 'visit' ? panel.visitId : null;
  useScrollToNow(box, sections, shown, { axis, pxPerMin, now, skip: chosen !== null });
  useFirstLane(box, view);
  useOpenAt(box, openAt, shown !== undefined && chosen === null, hasSettled(parts, openAt));
  const card = usePlateCard();
  const isAll = sections.length === parts.length;
  const empty = shown && isAll && sections.every(({ site }) => !site.lanes.some(isInUse));
  const toSite = ({ site, title, titleLink, linkOf }: LaneSection, of: Shown): SiteProps => ({
    ...{ site, title, titleLink, shown: of, pxPerMin, now, types, alike, widthOf, chosen, onOpen, linkOf },
  });
  const above = (i: number) =>
    parts.slice(0, i).reduce((sum, { section }) => sum + (section?.site.lanes.length ?? 0), 0);
  return (
    <>
      <ScrollRegion
        sideways
        ref={box}
        className="min-w-0 flex-1 "
        data-axis={axis}
        data-px-per-min={pxPerMin}
        data-from-min={shown?.fromMin}
        aria-busy={!shown}
        aria-label={t('daybook.title')}
        // A visit that is dragged by keys takes the arrows.
        onKeyDown={(event) => !store.getState().drag.picked && movesAmongPlates(event, axis)}
        {...(view.card ? card.handlers : {})}
      >
        {!shown && <QueryFrame query={query} skeleton={<Skeleton />} />}
        {empty && (
          <div className="m-4 max-w-md">
            <Notice tone="warning">
              <p className="font-bold">{t('daybook.emptyTitle')}</p>
              <p>{t('daybook.emptyHint')}</p>
            </Notice>
          </div>
        )}
        <Grip sections={sections} className={axis === 'down' ? 'flex w-max min-w-full' : undefined}>
          {shown &&
            parts.map(({ section, ...part }, i) =>
              !section ? (
                <ToCome key={part.key} of={part} board={box} onSee={onSee} />
              ) : axis === 'across' ? (
                // Each day is drawn from its beginning on.
                <SiteLanes
                  key={`${section.key} ${section.site.dayStart}`}
                  {...toSite(section, shown)}
                  first={DRAWN_FIRST - above(i)}
                />
              ) : (
                <SiteColumns key={`${section.key} ${section.site.dayStart}`} {...toSite(section, shown)} />
              ),
            )}
        </Grip>
      </ScrollRegion>
      {view.card && <PlateCard card={card} sections={sections} types={types} now={now} />}
    </>
  );
}

/** Names that several people of the board share; the same set as long as they are the same, so that news of one lane draws no other. */
function useAlike(sections: readonly LaneSection[]): ReadonlySet<string> {
  const names = useMemo(() => [...alikeNames(sections.flatMap(({ site }) => site.lanes))].join('\n'), [sections]);
  return useMemo(() => new Set(names.split('\n')), [names]);
}

/** Pixels of a minute along the time: as the whole day fits, never less than the Lens says, times its zoom. */
function useScale(box: RefObject<HTMLElement | null>, shown: Shown | undefined, view: ViewSettings): number {
  const { axis, zoom, leastHourPx } = view;
  const [size, setSize] = useState({ width: 1000, height: 700 });
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    // Drawing the whole board anew gives way to what made it narrower, such as a panel that opens.
    const watch = new ResizeObserver(
      ([
        {
          contentRect: { width, height },
        },
      ]) => startTransition(() => setSize({ width, height })),
    );
    watch.observe(element);
    return () => watch.disconnect();
  }, [box]);
  const isAcross = axis === 'across';
  const least = (isAcross ? leastHourPx : Math.max(leastHourPx, LEAST_HOUR_DOWN_PX)) / 60;
  const room = (isAcross ? size.width : size.height) - HEAD_PX[axis] - 2;
  const pxPerMin = (shown ? Math.max(least, room / (shown.toMin - shown.fromMin)) : 1) * zoom;
  // The minute in the middle stays there while the hours grow or shrink.
  const drawn = useRef({ axis, pxPerMin });
  useEffect(() => {
    const element = box.current;
    const before = drawn.current;
    drawn.current = { axis, pxPerMin };
    if (!element || before.axis !== axis || before.pxPerMin === pxPerMin) return;
    const grown = pxPerMin / before.pxPerMin - 1;
    if (axis === 'across')
      element.scrollLeft += (element.scrollLeft + (element.clientWidth - HEAD_PX.across) / 2) * grown;
    else element.scrollTop += (element.scrollTop + (element.clientHeight - HEAD_PX.down) / 2) * grown;
  }, [box, axis, pxPerMin]);
  return pxPerMin;
}

/** Other lanes, or the same in another order, are seen from the first one on, not from where the ones before were scrolled to. */
function useFirstLane(box: RefObject<HTMLElement | null>, { axis, lanes, order, only }: ViewSettings): void {
  const listed = [axis, lanes, order, only?.join()].join(' ');
  const before = useRef(listed);
  useEffect(() => {
    const element = box.current;
    if (!element || before.current === listed) return;
    before.current = listed;
    if (axis === 'across') element.scrollTop = 0;
    else element.scrollLeft = 0;
  });
}

/** Whether a part is there, and nothing else is being loaded that would move it. */
const hasSettled = (parts: readonly Part[], at: number) =>
  Boolean(parts[at]?.section) && parts.every(({ section, query }) => section !== null || !query?.isFetching);

const BY_HAND = ['wheel', 'pointerdown', 'keydown'] as const;

/** Brings the part that it is opened at into sight, and keeps it there until all around it is loaded or somebody scrolls. */
function useOpenAt(box: RefObject<HTMLElement | null>, at: number, isReady: boolean, isSettled: boolean): void {
  const done = useRef(false);
  useEffect(() => {
    const element = box.current;
    const end = () => {
      done.current = true;
    };
    for (const type of BY_HAND) element?.addEventListener(type, end);
    return () => {
      for (const type of BY_HAND) element?.removeEventListener(type, end);
    };
  }, [box]);
  useEffect(() => {
    if (done.current || at < 0 || !isReady) return;
    done.current = isSettled;
    box.current?.querySelector('[data-board-parts]')?.children[at]?.scrollIntoView({ block: 'start', inline: 'start' });
  });
}

/** How much of the board lies before the present when a day is opened. */
const BEFORE_NOW = 0.25;

/** A day that does not fit opens at the present; another day at its first hours. */
function useScrollToNow(
  box: RefObject<HTMLElement | null>,
  sections: readonly LaneSection[],
  shown: Shown | undefined,
  { axis, pxPerMin, now, skip }: Pick<ViewSettings, 'axis'> & { pxPerMin: number; now: string; skip: boolean },
): void {
  const first = sections[0]?.site;
  const opened = shown && first ? `${first.dayStart} ${axis}` : null;
  const done = useRef<string | null>(null);
  useEffect(() => {
    const element = box.current;
    if (!element || opened === null || done.current === opened || !shown || !first) return;
    done.current = opened;
    // A visit that is opened is brought into sight itself.
    if (skip) return;
    const nowMin = minuteOf(first, now);
    const isToday = nowMin >= shown.fromMin && nowMin < shown.toMin;
    const starts = sections.flatMap(({ site }) =>
      site.lanes.flatMap((lane) => lane.hoursBands.map(({ start }) => minuteOf(site, start))),
    );
    const minute = isToday ? nowMin : Math.max(shown.fromMin, Math.min(...starts, shown.toMin));
    const to = (minute - shown.fromMin) * pxPerMin;
    if (axis === 'across') element.scrollLeft = to - (isToday ? element.clientWidth * BEFORE_NOW : 0);
    else element.scrollTop = to - (isToday ? element.clientHeight * BEFORE_NOW : 0);
  });
}

import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import { type RefObject, startTransition, useEffect, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from 'react-redux';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { type State, useAppSelector } from '../../../store.ts';
import { Grip } from '../drag/Grip.tsx';
import { movesAmongPlates } from '../hooks/useDaybookKeys.ts';
import type { Panel } from '../hooks/useDaybookAddress.ts';
import { useTextWidth } from '../hooks/useTextWidth.ts';
import type { LaneSection, Shown } from '../layout.ts';
import { alikeNames } from '../plateLayout.ts';
import type { TypeNames } from './LaneView.tsx';
import { PlateCard, usePlateCard } from './PlateCard.tsx';
import { SiteLanes } from './SiteLanes.tsx';

const LABEL_PX = 131;
const MIN_PX_PER_MIN = 1.25;
/** As many lanes as a tall window shows: they are drawn before the others. */
const DRAWN_FIRST = 8;

interface Props {
  /** The part that scrolls. */
  readonly board: RefObject<HTMLElement | null>;
  readonly sections: readonly LaneSection[];
  /** Missing while it is loaded. */
  readonly shown: Shown | undefined;
  readonly now: string;
  readonly types: TypeNames;
  /** The panel at the right: its plate is marked, and brought into sight. */
  readonly panel: Panel | null;
  readonly onOpen: (panel: Panel) => void;
  readonly query: { readonly error?: unknown; readonly isFetching: boolean; refetch(): unknown };
}

/** Lanes under each other on one width: as the whole day fits, or wider, then it scrolls. */
export function Lanes({ board: box, sections, shown, now, types, panel, onOpen, query }: Props) {
  const { t } = useTranslation();
  const store = useStore<State>();
  const zoom = useAppSelector((state) => state.prefs.zoom);
  const [width, setWidth] = useState(1000);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    // Drawing the whole board anew gives way to what made it narrower, such as a panel that opens.
    const watch = new ResizeObserver(([entry]) => startTransition(() => setWidth(entry.contentRect.width)));
    watch.observe(element);
    return () => watch.disconnect();
  }, [box]);
  const fits = shown ? Math.max(MIN_PX_PER_MIN, (width - LABEL_PX - 2) / (shown.toMin - shown.fromMin)) : 1;
  const pxPerMin = fits * zoom;
  // The minute in the middle stays there while the hours grow or shrink.
  const drawn = useRef(pxPerMin);
  useEffect(() => {
    const element = box.current;
    if (!element || drawn.current === pxPerMin) return;
    const middle = element.scrollLeft + (element.clientWidth - LABEL_PX) / 2;
    element.scrollLeft += middle * (pxPerMin / drawn.current - 1);
    drawn.current = pxPerMin;
  }, [box, pxPerMin]);
  const widthOf = useTextWidth();
  const alike = useMemo(() => alikeNames(sections.flatMap(({ site }) => site.lanes)), [sections]);
  const chosen = panel?.kind === 'visit' ? panel.visitId : null;
  const card = usePlateCard();
  const empty =
    shown && sections.every(({ site }) => site.lanes.every((lane) => !lane.hoursBands.length && !lane.plates.length));
  return (
    <>
      <ScrollRegion
        sideways
        ref={box}
        className="min-w-0 flex-1 "
        data-px-per-min={pxPerMin}
        data-from-min={shown?.fromMin}
        aria-busy={!shown}
        aria-label={t('daybook.title')}
        // A visit that is dragged by keys takes the arrows.
        onKeyDown={(event) => !store.getState().drag.picked && movesAmongPlates(event)}
        {...card.handlers}
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
        <Grip sections={sections}>
          {shown &&
            sections.map(({ key, site, linkOf }, i) => (
              <SiteLanes
                // Each day is drawn from its top on.
                key={`${key} ${site.dayStart}`}
                site={site}
                first={DRAWN_FIRST - sections.slice(0, i).reduce((sum, above) => sum + above.site.lanes.length, 0)}
                shown={shown}
                pxPerMin={pxPerMin}
                now={now}
                types={types}
                alike={alike}
                widthOf={widthOf}
                chosen={chosen}
                onOpen={onOpen}
                linkOf={linkOf}
              />
            ))}
        </Grip>
      </ScrollRegion>
      <PlateCard card={card} sections={sections} types={types} now={now} />
    </>
  );
}

function Skeleton() {
  return [0, 1].map((site) => (
    <div key={site}>
      <div className="h-[22px] bg-highlight" />
      {[0, 1, 2].map((lane) => (
        <div key={lane} className="flex h-[50px] items-center gap-3 border-b border-line px-2">
          <span className="h-4 w-24 animate-pulse rounded-sm bg-highlight" />
          <span className="h-8 flex-1 animate-pulse rounded-sm bg-surface-deep" />
        </div>
      ))}
    </div>
  ));
}

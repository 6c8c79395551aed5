import type { Lane, SiteDay } from '@zaguan/contracts/daybook';
import { memo, useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { useAppSelector } from '../../../store.ts';
import { NEW_BOOKING, type Panel } from '../hooks/useDaybookAddress.ts';
import { BAND_PX, instantOf, minuteOf, ROW_PX, type Shown } from '../layout.ts';
import { faceOf } from '../plateFace.ts';
import { placePlates } from '../plateLayout.ts';
import { accountsApi } from '../../accounts/index.ts';
import { type ChosenTime, useMayBook } from '../../booking/index.ts';
import { acceptsInWords, LaneBackground } from './LaneBackground.tsx';
import { dateAt } from '../../../../shared/time/format.ts';
import { DragLights } from '../drag/DragLights.tsx';
import { LaneNotes } from '../notes/LaneNotes.tsx';
import { ABOVE_PX, NOTE_PX, placeNotes } from '../notes/placeNotes.ts';
import { LaneHead } from './LaneHead.tsx';
import { LIT_PX, LitTimes } from './LitTimes.tsx';
import { PlateView } from './PlateView.tsx';

export interface TypeNames {
  readonly [id: string]: { readonly name: string; readonly color: string } | undefined;
}

interface Props {
  readonly site: SiteDay;
  readonly lane: Lane;
  readonly shown: Shown;
  readonly pxPerMin: number;
  readonly now: string;
  /** Where the now-line crosses, from the left of the hours; `null` where it is not shown. */
  readonly nowLeft: number | null;
  readonly types: TypeNames;
  /** Short names that two people of the day have. */
  readonly alike: ReadonlySet<string>;
  readonly widthOf: (words: string) => number;
  /** The visit that is open at the right, if it is in this lane: other lanes are not drawn again for it. */
  readonly chosen: string | null;
  readonly onOpen: (panel: Panel) => void;
  /** Times at which the visit that is being booked could be. */
  readonly lit: readonly string[];
  /** Chooses a time for the booking that is open; `false`: none is. */
  readonly onPick: (time: ChosenTime) => boolean;
  /** Where the lane's name leads. */
  readonly link: string;
}

/** Lines closer than this would be a gray field. */
const MIN_UNIT_PX = 14;

const FIVE_MIN_MS = 300_000;

/** One row of the Daybook: the strip of hours above, the plates below. A click on free time books it, or asks *Why not?* of who may not. */
export const LaneView = memo(function LaneView(props: Props) {
  const { site, lane, shown, pxPerMin, now, nowLeft, types, alike, widthOf, chosen, onOpen, lit, onPick, link } = props;
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const mayBook = useMayBook();
  const lateAfterMin = clinic?.lateAfterMin ?? null;
  const rowPx = ROW_PX[clinic?.density ?? 'roomy'];
  const unitPx = (clinic?.baseUnitMin ?? 5) * pxPerMin;
  const color = clinic?.people.find(({ id }) => id === lane.resourceId)?.color;
  const namesHidden = useAppSelector((state) => state.prefs.namesHidden);
  // When only the width changes, as for a panel that opens, the words stay.
  const plates = useMemo(() => {
    const facts = { now, timeZone: site.timeZone, alike, namesHidden, delays: site.delays, lateAfterMin };
    return lane.plates.map((plate) => ({
      plate,
      face: faceOf(plate, { ...facts, typeName: types[plate.visitTypeId]?.name ?? '' }, t),
    }));
  }, [lane.plates, now, site.timeZone, site.delays, lateAfterMin, alike, namesHidden, types, t]);
  const { placed, rows } = placePlates(site, plates, shown, pxPerMin, widthOf);
  const wordsPx = lane.hoursBands.some((band) => acceptsInWords(band, t)) ? 15 : 3;
  const isLit = lit.length > 0;
  const at = (instant: string) => (minuteOf(site, instant) - shown.fromMin) * pxPerMin;
  const widthPx = (shown.toMin - shown.fromMin) * pxPerMin;
  // The clock's minutes are those that went by since midnight, but on the two days of the year when clocks change.
  const atMinute = (minute: number) => at(instantOf(site, minute));
  const notes = placeNotes(lane.notes, atMinute, widthPx, widthOf);
  const notesPx = notes.rows && ABOVE_PX + notes.rows * NOTE_PX;
  const height = rows * rowPx + BAND_PX + wordsPx + notesPx + (isLit ? LIT_PX : 0);
  const ask = (x: number) => {
    const instant = Date.parse(site.dayStart) + (shown.fromMin + x / pxPerMin) * 60_000;
    const start = new Date(Math.floor(instant / FIVE_MIN_MS) * FIVE_MIN_MS).toISOString();
    const at = { siteId: site.id, resourceId: lane.resourceId, start };
    if (onPick({ siteId: site.id, providerId: lane.resourceId, start })) return;
    onOpen(mayBook && Date.parse(start) > Date.parse(now) ? { ...NEW_BOOKING, at } : { kind: 'why-not', ...at });
  };
  return (
    <section
      aria-label={t('daybook.laneLabel', { name: lane.name, site: site.name })}
      data-lane={lane.id}
      // Each lane is drawn, and searched for what lies under the pointer, by itself; out of sight it is neither.
      className="relative flex [content-visibility:auto]"
      style={{ containIntrinsicHeight: `auto ${height}px` }}
    >
      <LaneHead {...{ site, lane, now, color, link, onOpen }} />
      {/* Pointer shortcut only: the same question is asked by keyboard from the strip's "Why not?" button. */}
      <div
        data-hours
        // Lines of the base unit where there is room between them.
        className="relative border-b border-line"
        style={{
          ...(unitPx >= MIN_UNIT_PX && {
            backgroundImage: `repeating-linear-gradient(to right, transparent 0 ${unitPx - 1}px, var(--color-highlight) ${unitPx - 1}px ${unitPx}px)`,
          }),
          width: widthPx,
          minHeight: height,
        }}
        onPointerUp={(event) =>
          event.target === event.currentTarget && lane.kind === 'provider' && ask(event.nativeEvent.offsetX)
        }
      >
        <LaneBackground site={site} lane={lane} at={at} widthPx={widthPx} />
        {nowLeft !== null && (
          <span
            aria-hidden="true"
            data-now-line
            className="pointer-events-none absolute inset-y-0 z-10 w-[2px] bg-primary"
            style={{ left: nowLeft - 1 }}
          />
        )}
        <DragLights
          siteId={site.id}
          date={dateAt(site.dayStart, site.timeZone)}
          providerId={lane.kind === 'provider' ? lane.resourceId : null}
          at={at}
        />
        {notes.rows > 0 && (
          <LaneNotes
            placed={notes.placed}
            bottom={wordsPx}
            height={notesPx}
            onOpen={({ id }) => onOpen({ kind: 'note', noteId: id })}
          />
        )}
        {isLit && (
          <LitTimes
            bottom={wordsPx + notesPx}
            starts={lit}
            at={at}
            timeZone={site.timeZone}
            onPick={(start) => void onPick({ siteId: site.id, providerId: lane.resourceId, start })}
          />
        )}
        <div className="pointer-events-none absolute inset-x-0" style={{ top: BAND_PX }}>
          {placed.map((row) => (
            <PlateView
              key={row.plate.id}
              placed={row}
              rowPx={rowPx}
              site={site}
              color={types[row.plate.visitTypeId]?.color}
              chosen={chosen === row.plate.id}
              past={row.plate.drawn.end <= now}
              onOpen={() => onOpen({ kind: 'visit', visitId: row.plate.id })}
            />
          ))}
        </div>
      </div>
    </section>
  );
});

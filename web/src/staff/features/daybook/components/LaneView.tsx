import { memo } from 'react';
import { useTranslation } from 'react-i18next';
import { BAND_PX, ROW_PX } from '../layout.ts';
import { LaneNotes } from '../notes/LaneNotes.tsx';
import { ABOVE_PX, NOTE_PX, placeNotes } from '../notes/placeNotes.ts';
import { placePlates } from '../plateLayout.ts';
import { useView } from '../views/viewContext.ts';
import { Hours } from './Hours.tsx';
import { acceptsInWords } from './LaneBackground.tsx';
import { LaneHead } from './LaneHead.tsx';
import { LIT_PX } from './LitTimes.tsx';
import { PlateView } from './PlateView.tsx';
import { type LaneProps, useLane } from './useLane.ts';

/** One row of the Daybook: the strip of hours above, the plates below. A click on free time books it, or asks *Why not?* of who may not. */
export const LaneView = memo(function LaneView(props: LaneProps) {
  const { site, lane, shown, pxPerMin, now, widthOf, chosen, onOpen, lit, link } = props;
  const { t } = useTranslation();
  const { density } = useView();
  const of = useLane('across', props);
  const { lengthPx } = of;
  const rowPx = ROW_PX[density === 'clinic' ? of.density : density];
  const drawn = of.plates.filter(({ plate }) => !of.isOutside(plate));
  const { placed, rows } = placePlates(site, drawn, shown, pxPerMin, widthOf);
  const wordsPx = lane.hoursBands.some((band) => acceptsInWords(band, t)) ? 15 : 3;
  const notes = placeNotes(lane.notes, of.atMinute, lengthPx, widthOf);
  const notesPx = notes.rows && ABOVE_PX + notes.rows * NOTE_PX;
  const height = rows * rowPx + BAND_PX + wordsPx + notesPx + (lit.length > 0 ? LIT_PX : 0);
  return (
    <section
      aria-label={t('daybook.laneLabel', { name: lane.name, site: site.name })}
      data-lane={lane.id}
      // Each lane is drawn, and searched for what lies under the pointer, by itself; out of sight it is neither.
      className="relative flex [content-visibility:auto]"
      style={{ containIntrinsicHeight: `auto ${height}px` }}
    >
      <LaneHead {...{ site, lane, now, link, onOpen }} color={of.laneColor} axis="across" />
      <Hours
        axis="across"
        litFromEnd={wordsPx + notesPx}
        className="border-b border-line"
        style={{ width: lengthPx, minHeight: height }}
        {...{ props, of }}
      >
        {notes.rows > 0 && (
          <LaneNotes
            placed={notes.placed}
            bottom={wordsPx}
            height={notesPx}
            onOpen={({ id }) => onOpen({ kind: 'note', noteId: id })}
          />
        )}
        <div className="pointer-events-none absolute inset-x-0" style={{ top: BAND_PX }}>
          {placed.map((row) => (
            <PlateView
              key={row.plate.id}
              placed={row}
              rowPx={rowPx}
              site={site}
              color={of.colorOf(row.plate.id)}
              chosen={chosen === row.plate.id}
              past={row.plate.drawn.end <= now}
              onOpen={() => onOpen({ kind: 'visit', visitId: row.plate.id })}
            />
          ))}
        </div>
      </Hours>
    </section>
  );
});

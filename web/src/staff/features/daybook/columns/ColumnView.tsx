import { memo } from 'react';
import { useTranslation } from 'react-i18next';
import { Hours } from '../components/Hours.tsx';
import { LaneHead } from '../components/LaneHead.tsx';
import { LIT_PX } from '../components/LitTimes.tsx';
import { type LaneProps, useLane } from '../components/useLane.ts';
import { BAND_PX } from '../layout.ts';
import { ColumnPlate } from './ColumnPlate.tsx';
import { placeColumn } from './columnLayout.ts';

interface Props extends LaneProps {
  /** The same for all columns of a site, so that their hours begin side by side. */
  readonly headPx: number;
}

/** One column of the Daybook: the strip of hours at the left, the plates beside it; notes stand in its head. */
export const ColumnView = memo(function ColumnView(props: Props) {
  const { site, lane, shown, pxPerMin, now, widthOf, chosen, onOpen, lit, link, headPx } = props;
  const { t } = useTranslation();
  const of = useLane('down', props);
  const { lengthPx } = of;
  const drawn = of.plates.filter(({ plate }) => !of.isOutside(plate));
  const inset = { left: BAND_PX, right: lit.length > 0 ? LIT_PX : 4 };
  const { placed, width } = placeColumn(site, drawn, shown, pxPerMin, widthOf, inset);
  return (
    <section
      aria-label={t('daybook.laneLabel', { name: lane.name, site: site.name })}
      data-lane={lane.id}
      // Each column is drawn, and searched for what lies under the pointer, by itself; out of sight it is neither.
      className="relative shrink-0 border-r border-line [content-visibility:auto]"
      style={{ width, height: headPx + lengthPx, containIntrinsicSize: `${width}px ${headPx + lengthPx}px` }}
    >
      <LaneHead {...{ site, lane, now, link, onOpen }} color={of.laneColor} axis="down" heightPx={headPx} />
      <Hours axis="down" litFromEnd={0} className="" style={{ height: lengthPx }} {...{ props, of }}>
        <span
          aria-hidden="true"
          className="pointer-events-none absolute inset-0"
          style={{
            backgroundImage: `repeating-linear-gradient(to bottom, transparent 0 ${60 * pxPerMin - 1}px, var(--color-line) ${60 * pxPerMin - 1}px ${60 * pxPerMin}px)`,
          }}
        />
        {placed.map((each) => (
          <ColumnPlate
            key={each.plate.id}
            placed={each}
            site={site}
            color={of.colorOf(each.plate.id)}
            chosen={chosen === each.plate.id}
            past={each.plate.drawn.end <= now}
            onOpen={() => onOpen({ kind: 'visit', visitId: each.plate.id })}
          />
        ))}
      </Hours>
    </section>
  );
});

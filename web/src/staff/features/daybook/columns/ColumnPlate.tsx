import type { SiteDay } from '@zaguan/contracts/daybook';
import type { CSSProperties } from 'react';
import { ArchMark } from '../../../../shared/arch/ArchMark.tsx';
import { archFor } from '../../../../shared/arch/archFor.ts';
import { colorOf } from '../components/colors.ts';
import { SignMark } from '../components/PlateView.tsx';
import { minuteOf } from '../layout.ts';
import type { PlateInColumn } from './columnLayout.ts';

interface Props {
  readonly placed: PlateInColumn;
  readonly site: SiteDay;
  readonly color: string | null | undefined;
  readonly chosen: boolean;
  readonly past: boolean;
  readonly onOpen: () => void;
}

/** One visit in a column: as high as its minutes, the mark, the name and what needs an eye first, the rest below. */
export function ColumnPlate({ placed, site, color, chosen, past, onOpen }: Props) {
  const { plate, top, height, left, width, name, signs, detail, lines } = placed;
  const look = colorOf(color);
  const tentative = plate.kind === 'hold' || plate.identity === 'unknown';
  return (
    <button
      type="button"
      data-plate={plate.id}
      data-status={plate.status}
      data-origin={plate.origin ?? 'hold'}
      data-bar-left={0}
      aria-pressed={chosen}
      onClick={onOpen}
      className={`pointer-events-auto absolute flex flex-col items-start overflow-hidden rounded-sm bg-no-repeat py-[3px] pr-1 pl-[6px] text-left leading-tight text-foreground ${past ? 'bg-surface-deep' : look.fill} ${tentative ? `border border-dashed ${look.border}` : `border-l-[3px] ${look.border}`} ${chosen ? 'z-[12] outline-2 outline-foreground' : 'z-[11]'}`}
      style={{ top, height, left, width, ...presentIn(placed, site, look.paint) }}
    >
      <span className="sr-only">{placed.words}</span>
      <span aria-hidden="true" className="flex max-w-full items-center gap-[4px] text-plate whitespace-nowrap">
        <ArchMark shape={archFor({ ...plate, status: plate.status })} label="" size={15} className={look.text} />
        <span data-plate-name className={past ? 'font-normal' : 'font-bold'}>
          {name}
        </span>
        {signs.map((sign) => (
          <SignMark key={sign.kind} sign={sign} />
        ))}
      </span>
      {detail && (
        <span
          aria-hidden="true"
          className="w-full overflow-hidden text-sm leading-[16px] text-muted"
          style={{ display: '-webkit-box', WebkitBoxOrient: 'vertical', WebkitLineClamp: lines }}
        >
          {detail}
        </span>
      )}
    </button>
  );
}

/** The minutes in which the lane's person is really there, as a line down the left of the plate. */
function presentIn({ plate, height }: PlateInColumn, site: SiteDay, paint: string): CSSProperties {
  const from = minuteOf(site, plate.drawn.start);
  const pxPerMin = height / (minuteOf(site, plate.drawn.end) - from);
  const y = (instant: string) => (minuteOf(site, instant) - from) * pxPerMin;
  return {
    backgroundImage: plate.present.map(() => `linear-gradient(${paint}, ${paint})`).join(),
    backgroundPosition: plate.present.map(({ start }) => `0 ${y(start)}px`).join(),
    backgroundSize: plate.present.map(({ start, end }) => `3px ${y(end) - y(start)}px`).join(),
  };
}

import { cva } from 'class-variance-authority';
import type { SiteDay } from '@zaguan/contracts/daybook';
import type { CSSProperties } from 'react';
import { ArchMark } from '../../../../shared/arch/ArchMark.tsx';
import { archFor } from '../../../../shared/arch/archFor.ts';
import { minuteOf } from '../layout.ts';
import type { PlacedPlate, Sign } from '../plateLayout.ts';
import { colorOf } from './colors.ts';

interface Props {
  readonly placed: PlacedPlate;
  /** Height of a row. */
  readonly rowPx: number;
  readonly site: SiteDay;
  readonly color: string | null | undefined;
  readonly chosen: boolean;
  readonly past: boolean;
  readonly onOpen: () => void;
}

/**
 * One visit on a lane: a bar as long as its minutes, the mark, the name running on, and what needs an eye. Hundreds of
 * them are drawn at once and looked through at every move of the pointer: no element more than it takes, and none but
 * the plate itself placed, for what is placed is a layer of its own to the browser.
 */
export function PlateView({ placed, rowPx, site, color, chosen, past, onOpen }: Props) {
  const { plate, left, width, row, bar, isMirrored, name, detail, signs } = placed;
  const look = colorOf(color);
  const tentative = plate.kind === 'hold' || plate.identity === 'unknown';
  return (
    <button
      type="button"
      data-plate={plate.id}
      data-status={plate.status}
      data-origin={plate.origin ?? 'hold'}
      data-bar-left={bar.left}
      aria-pressed={chosen}
      onClick={onOpen}
      className={`pointer-events-auto absolute grid text-left leading-none [grid-template:100%/100%] text-foreground ${chosen ? 'z-[12] rounded-sm bg-panel outline-2 outline-foreground' : 'z-[11]'}`}
      style={{ left, width, top: row * rowPx, height: rowPx }}
    >
      <span className="sr-only">{placed.words}</span>
      <span
        className={`my-px rounded-sm bg-no-repeat [grid-area:1/1] ${past ? 'bg-surface-deep' : look.fill} ${tentative ? `border border-dashed ${look.border}` : `border-l-[3px] ${look.border}`}`}
        style={{ marginLeft: bar.left, width: bar.width, ...presentOn(placed, site, look.paint, tentative ? 2 : 3) }}
      />
      {/* Behind words that run on: neither the line of now nor hatching is read through them. */}
      {width > bar.width && (
        <span
          className="my-[3px] rounded-sm bg-panel [grid-area:1/1]"
          style={{ marginLeft: isMirrored ? 0 : bar.width, width: width - bar.width }}
        />
      )}
      <span
        aria-hidden="true"
        className={`flex items-center gap-[4px] pl-[4px] text-plate whitespace-nowrap [grid-area:1/1] ${isMirrored ? 'flex-row-reverse' : ''}`}
        // The mark stands at the beginning of the bar on either side.
        style={isMirrored ? { justifySelf: 'end', marginRight: width - bar.left - 19 } : { marginLeft: bar.left }}
      >
        <ArchMark shape={archFor({ ...plate, status: plate.status })} label="" size={15} className={look.text} />
        {signs
          .filter(({ kind }) => kind === 'held')
          .map((sign) => (
            <SignMark key={sign.kind} sign={sign} />
          ))}
        <span data-plate-name className={past ? 'font-normal' : 'font-bold'}>
          {name}
        </span>
        {signs
          .filter(({ kind }) => kind !== 'held')
          .map((sign) => (
            <SignMark key={sign.kind} sign={sign} />
          ))}
        {detail && <span className="text-muted">{detail}</span>}
      </span>
    </button>
  );
}

/** The minutes in which the lane's person is really there, as a line along the top of the bar. */
export function presentOn({ plate, bar }: PlacedPlate, site: SiteDay, paint: string, bordersPx: number): CSSProperties {
  const from = minuteOf(site, plate.drawn.start);
  const pxPerMin = (bar.width - bordersPx) / (minuteOf(site, plate.drawn.end) - from);
  const x = (instant: string) => (minuteOf(site, instant) - from) * pxPerMin;
  return {
    backgroundImage: plate.present.map(() => `linear-gradient(${paint}, ${paint})`).join(),
    backgroundPosition: plate.present.map(({ start }) => `${x(start)}px 0`).join(),
    backgroundSize: plate.present.map(({ start, end }) => `${x(end) - x(start)}px 3px`).join(),
  };
}

const signMark = cva('font-bold', {
  variants: {
    kind: {
      held: 'rounded-sm bg-danger px-[5px] py-px text-on-fill',
      'too-late': 'rounded-sm border border-danger bg-danger-subtle px-[3px] text-danger',
      late: 'rounded-sm bg-danger-subtle px-[3px] py-px text-danger',
      'waits-long': 'rounded-sm bg-warning-subtle px-[3px] py-px text-warning',
      waits: 'px-[3px] font-normal text-muted',
      open: 'px-[3px] text-warning tabular-nums',
    } satisfies Record<Sign['kind'], string>,
  },
});

export function SignMark({ sign }: { sign: Sign }) {
  return (
    <span data-sign={sign.kind} className={signMark({ kind: sign.kind })}>
      {sign.short}
    </span>
  );
}

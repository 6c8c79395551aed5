import { cva } from 'class-variance-authority';
import type { SiteDay } from '@zaguan/contracts/daybook';
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
  readonly color: string | undefined;
  readonly chosen: boolean;
  readonly past: boolean;
  readonly onOpen: () => void;
}

/**
 * One visit on a lane: a bar as long as its minutes, the mark, the name running on, and what needs an eye. Hundreds of
 * them are drawn at once and looked through at every move of the pointer: no element more than it takes.
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
      aria-pressed={chosen}
      onClick={onOpen}
      className={`pointer-events-auto absolute text-left leading-none text-foreground ${chosen ? 'z-[12] rounded-sm bg-panel outline-2 outline-foreground' : 'z-[11]'}`}
      style={{ left, width, top: row * rowPx, height: rowPx }}
    >
      <span className="sr-only">{placed.words}</span>
      <span
        className={`absolute inset-y-px rounded-sm ${past ? 'bg-surface-deep' : look.fill} ${tentative ? `border border-dashed ${look.border}` : `border-l-[3px] ${look.border}`}`}
        style={{ left: bar.left, width: bar.width }}
      >
        <Present placed={placed} site={site} edge={look.edge} />
      </span>
      {/* Behind words that run on: neither the line of now nor hatching is read through them. */}
      {width > bar.width && (
        <span
          className="absolute inset-y-[3px] rounded-sm bg-panel"
          style={{ left: isMirrored ? 0 : bar.width, width: width - bar.width }}
        />
      )}
      <span
        aria-hidden="true"
        className={`absolute inset-y-0 flex items-center gap-[4px] pl-[4px] text-plate whitespace-nowrap ${isMirrored ? 'flex-row-reverse' : ''}`}
        // The mark stands at the beginning of the bar on either side.
        style={isMirrored ? { right: width - bar.left - 19 } : { left: bar.left }}
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

/** The minutes in which the lane's person is really there. */
function Present({ placed: { plate }, site, edge }: { placed: PlacedPlate; site: SiteDay; edge: string }) {
  const from = minuteOf(site, plate.drawn.start);
  const length = minuteOf(site, plate.drawn.end) - from;
  return plate.present.map((run) => (
    <span
      key={run.start}
      className={`absolute top-0 h-[3px] ${edge}`}
      style={{
        left: `${((minuteOf(site, run.start) - from) / length) * 100}%`,
        width: `${((minuteOf(site, run.end) - minuteOf(site, run.start)) / length) * 100}%`,
      }}
    />
  ));
}

const signMark = cva('font-bold', {
  variants: {
    kind: {
      held: 'rounded-sm bg-danger px-[5px] py-px text-on-fill',
      late: 'rounded-sm bg-danger-subtle px-[3px] py-px text-danger',
      open: 'px-[3px] text-warning tabular-nums',
    } satisfies Record<Sign['kind'], string>,
  },
});

function SignMark({ sign }: { sign: Sign }) {
  return (
    <span data-sign={sign.kind} className={signMark({ kind: sign.kind })}>
      {sign.short}
    </span>
  );
}

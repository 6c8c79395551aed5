import type { Plate, SiteDay } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { ArchMark } from '../../../../shared/arch/ArchMark.tsx';
import { archFor } from '../../../../shared/arch/archFor.ts';
import { timeOf } from '../../../../shared/time/format.ts';
import { useAppSelector } from '../../../store.ts';
import { minuteOf, type PlacedPlate } from '../layout.ts';
import { colorOf } from './colors.ts';

const NAME_FITS_PX = 66;
const WORDS_FIT_PX = 120;

interface Props {
  readonly placed: PlacedPlate;
  /** Height of a row. */
  readonly rowPx: number;
  readonly site: SiteDay;
  readonly typeName: string;
  readonly color: string | undefined;
  readonly chosen: boolean;
  readonly past: boolean;
  readonly onOpen: () => void;
}

/** One visit on a lane: mark, name, and the minutes in which the lane's person is really there. */
export function PlateView({
  placed: { plate, left, width, row },
  rowPx,
  site,
  typeName,
  color,
  chosen,
  past,
  onOpen,
}: Props) {
  const { t } = useTranslation();
  const look = colorOf(color);
  const shape = archFor({ ...plate, status: plate.status });
  const status = formatStatus(plate, t);
  const hidden = useAppSelector((state) => state.prefs.namesHidden) && plate.kind === 'visit';
  const name = plate.kind === 'hold' ? t('daybook.hold') : hidden ? t('daybookView.someone') : plate.name;
  const reason = hidden ? '' : plate.reason;
  const span = `${timeOf(plate.drawn.start, site.timeZone)} to ${timeOf(plate.drawn.end, site.timeZone)}`;
  const length = minuteOf(site, plate.drawn.end) - minuteOf(site, plate.drawn.start);
  const ready = formatReadiness(plate, t);
  const dashed = plate.kind === 'hold' || plate.identity === 'unknown';
  return (
    <button
      type="button"
      data-plate={plate.id}
      data-status={plate.status}
      data-origin={plate.origin ?? 'hold'}
      aria-pressed={chosen}
      onClick={onOpen}
      className={`absolute overflow-hidden rounded-sm border text-left leading-none ${past ? 'border-line-strong bg-surface-deep text-foreground' : `${look.plate} ${dashed ? 'bg-panel' : ''} text-foreground`} ${dashed ? 'border-dashed' : ''} ${chosen ? 'outline-2 outline-offset-1 outline-foreground' : ''}`}
      style={{ left, width, top: row * rowPx, height: rowPx - 3 }}
    >
      <span className="sr-only">{`${name}, ${span}, ${typeName}, ${status}${plate.origin ? `, ${t(`visit.origin.${plate.origin}`)}` : ''}${reason ? `, ${t('visit.reason')}: ${reason}` : ''}${ready ? `, ${ready.words}` : ''}`}</span>
      {plate.present.map((run) => (
        <span
          key={run.start}
          aria-hidden="true"
          className={`absolute top-0 h-[3px] ${look.edge}`}
          style={{
            left: `${((minuteOf(site, run.start) - minuteOf(site, plate.drawn.start)) / length) * 100}%`,
            width: `${((minuteOf(site, run.end) - minuteOf(site, run.start)) / length) * 100}%`,
          }}
        />
      ))}
      <span
        aria-hidden="true"
        className={`absolute inset-x-1 flex items-center gap-1 ${width < NAME_FITS_PX ? 'top-[5px] justify-center' : 'top-[6px]'}`}
      >
        <span className={look.text}>
          <ArchMark shape={shape} label="" size={15} />
        </span>
        <span className="truncate text-[0.86rem] font-bold">{width >= NAME_FITS_PX ? name : ''}</span>
        {width >= 170 && <span className="ml-auto shrink-0 text-[0.75rem] text-muted">{status}</span>}
        {ready && width >= NAME_FITS_PX && width < 170 && <ReadyMark ready={ready} />}
      </span>
      {width < NAME_FITS_PX && (
        <span aria-hidden="true" className="absolute inset-x-0 bottom-[2px] text-center text-[0.75rem] font-bold">
          {hidden ? '' : plate.initials}
        </span>
      )}
      {width >= NAME_FITS_PX && (
        <span
          aria-hidden="true"
          className="absolute inset-x-1 bottom-[3px] truncate pl-[19px] text-[0.75rem] text-muted"
        >
          {width >= WORDS_FIT_PX ? typeName : typeName.split(' ')[0]}
          {plate.origin === 'self' && ` · ${t('visit.originShort.self')}`}
        </span>
      )}
      {ready && width < NAME_FITS_PX && (
        <span
          aria-hidden="true"
          data-ready-mark={ready.held ? 'held' : 'open'}
          className={
            ready.held
              ? 'absolute top-[4px] right-[1px] rounded-sm bg-danger px-[3px] py-px text-[0.7rem] font-bold text-on-fill'
              : 'absolute right-0 bottom-0 h-full w-[3px] bg-warning'
          }
        >
          {ready.held && ready.short}
        </span>
      )}
      {ready && width >= 170 && (
        <span aria-hidden="true" className="absolute right-1 bottom-[3px] flex">
          <ReadyMark ready={ready} />
        </span>
      )}
    </button>
  );
}

export interface Ready {
  readonly short: string;
  readonly words: string;
  readonly held: boolean;
}

/** What a plate says about readiness: nothing once it is ready or inside. */
export function formatReadiness(
  plate: Plate,
  t: (key: string, facts?: Record<string, unknown>) => string,
): Ready | null {
  const { readiness, status } = plate;
  if (!readiness || readiness.ready || status === 'checked-in') return null;
  const { done, total, held } = readiness;
  return {
    held,
    short: held ? '!' : `${done}/${total}`,
    words: held ? t('readiness.held') : t('readiness.onPlate', { done, total }),
  };
}

function ReadyMark({ ready }: { ready: Ready }) {
  return (
    <span
      data-ready-mark={ready.held ? 'held' : 'open'}
      className={`ml-auto shrink-0 rounded-sm text-[0.75rem] font-bold tabular-nums ${ready.held ? 'bg-danger px-1 text-on-fill' : 'text-warning'}`}
    >
      {ready.short}
    </span>
  );
}

/** The status in words, as it stands beside the mark. */
export function formatStatus(
  plate: Pick<Plate, 'kind' | 'status' | 'confirmed' | 'identity'>,
  t: (key: string) => string,
): string {
  if (plate.kind === 'hold') return t('visit.held');
  if (plate.status === 'booked' && plate.identity === 'unknown')
    return `${t('visit.status.booked')}, ${t('visit.notKnown').toLowerCase()}`;
  return plate.status === 'booked' && plate.confirmed ? t('visit.confirmed') : t(`visit.status.${plate.status}`);
}

import type { TFunction } from 'i18next';
import type { Delay, Plate, PlateDetail } from '@zaguan/contracts/daybook';
import { latenessOf, waitOf } from '@zaguan/core/daybook';
import { timeOf } from '../../../shared/time/format.ts';
import type { PlateFace, Sign } from './plateLayout.ts';
import { detailsOf } from './views/plateDetails.ts';

interface Facts {
  readonly now: string;
  readonly typeName: string;
  readonly providerName: string;
  /** What stands behind the name, in this order. */
  readonly details: readonly PlateDetail[];
  readonly timeZone: string;
  readonly alike: ReadonlySet<string>;
  readonly namesHidden: boolean;
  /** Providers who are behind. */
  readonly delays: readonly Delay[];
  /** Minutes after which somebody comes too late; `null`: the clinic has no rule for it. */
  readonly lateAfterMin: number | null;
}

/** What is written on a plate, and said of it. Where names are hidden none is; a hold has none. */
export function faceOf(plate: Plate, facts: Facts, t: TFunction): PlateFace {
  const signs = plate.kind === 'hold' ? [] : signsOf(plate, facts, t);
  return {
    ...namesOn(plate, facts, t),
    signs,
    details: detailsOf(plate, facts.details, facts, t),
    words: inWords(plate, signs, facts, t),
  };
}

function namesOn(plate: Plate, { namesHidden, alike }: Facts, t: TFunction): { name: string; longName: string } {
  if (plate.kind === 'hold') return { name: t('daybook.hold'), longName: holdName(plate, t) };
  if (namesHidden) return { name: t('daybookView.someone'), longName: t('daybookView.someone') };
  return { name: alike.has(plate.shortName) ? plate.familyFirst : plate.shortName, longName: plate.familyFirst };
}

/** Everything a plate says, for who hears it. */
function inWords(plate: Plate, signs: readonly Sign[], facts: Facts, t: TFunction): string {
  const { namesHidden, timeZone, typeName } = facts;
  const name = plate.kind === 'hold' ? holdName(plate, t) : namesHidden ? t('daybookView.someone') : plate.name;
  const reason = namesHidden || plate.kind === 'hold' ? '' : plate.reason;
  return [
    name,
    t('daybook.range', { from: timeOf(plate.drawn.start, timeZone), until: timeOf(plate.drawn.end, timeZone) }),
    typeName,
    formatStatus(plate, t),
    plate.origin && t(`visit.origin.${plate.origin}`),
    reason && `${t('visit.reason')}: ${reason}`,
    ...signs.map(({ words }) => words),
  ]
    .filter(Boolean)
    .join(', ');
}

/** The status in words, as it stands beside the mark. */
export function formatStatus(plate: Pick<Plate, 'kind' | 'status' | 'confirmed' | 'identity'>, t: TFunction): string {
  if (plate.kind === 'hold') return t('visit.held');
  if (plate.status === 'booked' && plate.identity === 'unknown')
    return `${t('visit.status.booked')}, ${t('visit.notKnown').toLowerCase()}`;
  return plate.status === 'booked' && plate.confirmed ? t('visit.confirmed') : t(`visit.status.${plate.status}`);
}

/** A time that somebody books just now: who, where it is somebody of the staff. */
export function holdName({ bookedBy }: Pick<Plate, 'bookedBy'>, t: TFunction): string {
  return bookedBy ? t('visit.hold.atDesk', { name: bookedBy }) : t('daybook.hold');
}

/** What the eye should find first: something only a clinician may clear, who is late, what is not ready yet. */
export function signsOf(plate: Plate, facts: LateFacts, t: TFunction): Sign[] {
  return [readinessSign(plate, t), lateSign(plate, facts, t), waitSign(plate, facts.now, t)]
    .filter((sign) => sign !== null)
    .sort(byGravity);
}

const GRAVITY = ['held', 'too-late', 'late', 'waits-long', 'waits', 'open'] as const;
const byGravity = (a: Sign, b: Sign) => GRAVITY.indexOf(a.kind) - GRAVITY.indexOf(b.kind);

/** What is missing before check-in; nothing once it is ready or the person is inside. */
export function readinessSign({ readiness, status }: Plate, t: TFunction): Sign | null {
  if (!readiness || readiness.ready || status === 'checked-in') return null;
  const { done, total, held } = readiness;
  return held
    ? { kind: 'held', short: '!', words: t('readiness.held') }
    : { kind: 'open', short: `${done}/${total}`, words: t('readiness.onPlate', { done, total }) };
}

type LateFacts = Pick<Facts, 'now' | 'delays' | 'lateAfterMin'>;

const minuteOf = (instant: string) => Date.parse(instant) / 60_000;

/** Booked, begun and not here. When the visit is over it is no longer late: its outcome is missing, as Today says. */
function lateSign(plate: Plate, { now, delays, lateAfterMin }: LateFacts, t: TFunction): Sign | null {
  const { kind, status, start, end, providerId } = plate;
  if (kind !== 'visit' || status !== 'booked' || now >= end) return null;
  const delayMin = delays.find(({ resourceId }) => resourceId === providerId)?.minutes ?? 0;
  const late = latenessOf(minuteOf(start), minuteOf(now), delayMin, lateAfterMin);
  if (!late) return null;
  const { minutes } = late;
  if (late.isPastLimit)
    return {
      kind: 'too-late',
      short: t('daybook.tooLateShort', { minutes }),
      words: t('daybook.tooLate', { minutes }),
    };
  const words = t('daybook.late', { minutes });
  return { kind: 'late', short: words, words };
}

/** Here, and nobody has checked them in. */
function waitSign({ waitingSince }: Plate, now: string, t: TFunction): Sign | null {
  const wait = waitingSince === null ? null : waitOf(minuteOf(waitingSince), minuteOf(now));
  if (!wait) return null;
  const words = t('daybook.waits', { minutes: wait.minutes });
  return { kind: wait.isLong ? 'waits-long' : 'waits', short: words, words };
}

import type { TFunction } from 'i18next';
import type { Plate } from '@zaguan/contracts/daybook';
import type { PlateFace, Sign } from './plateLayout.ts';

/** What is written on a plate. Where names are hidden none is; a hold has none. */
export function faceOf(
  plate: Plate,
  facts: {
    readonly now: string;
    readonly typeName: string;
    readonly alike: ReadonlySet<string>;
    readonly namesHidden: boolean;
  },
  t: TFunction,
): PlateFace {
  const online = plate.origin === 'self' ? ` · ${t('visit.originShort.self')}` : '';
  const details = [`${facts.typeName}${online}`, facts.typeName];
  if (plate.kind === 'hold') return { name: t('daybook.hold'), longName: holdName(plate, t), signs: [], details };
  const signs = signsOf(plate, facts.now, t);
  if (facts.namesHidden) return { name: t('daybookView.someone'), longName: t('daybookView.someone'), signs, details };
  return {
    name: facts.alike.has(plate.shortName) ? plate.familyFirst : plate.shortName,
    longName: plate.familyFirst,
    signs,
    details,
  };
}

/** A time that somebody books just now: who, where it is somebody of the staff. */
export function holdName({ bookedBy }: Pick<Plate, 'bookedBy'>, t: TFunction): string {
  return bookedBy ? t('visit.hold.atDesk', { name: bookedBy }) : t('daybook.hold');
}

/** What the eye should find first: something only a clinician may clear, who is late, what is not ready yet. */
export function signsOf(plate: Plate, now: string, t: TFunction): Sign[] {
  return [readinessSign(plate, t), lateSign(plate, now, t)].filter((sign) => sign !== null).sort(byGravity);
}

const GRAVITY = ['held', 'late', 'open'] as const;
const byGravity = (a: Sign, b: Sign) => GRAVITY.indexOf(a.kind) - GRAVITY.indexOf(b.kind);

/** What is missing before check-in; nothing once it is ready or the person is inside. */
export function readinessSign({ readiness, status }: Plate, t: TFunction): Sign | null {
  if (!readiness || readiness.ready || status === 'checked-in') return null;
  const { done, total, held } = readiness;
  return held
    ? { kind: 'held', short: '!', words: t('readiness.held') }
    : { kind: 'open', short: `${done}/${total}`, words: t('readiness.onPlate', { done, total }) };
}

/** Booked, begun and not here. When the visit is over it is no longer late: its outcome is missing, as Today says. */
function lateSign({ kind, status, start, end }: Plate, now: string, t: TFunction): Sign | null {
  const minutes = Math.floor((Date.parse(now) - Date.parse(start)) / 60_000);
  if (kind !== 'visit' || status !== 'booked' || minutes < 1 || now >= end) return null;
  const words = t('daybook.late', { minutes });
  return { kind: 'late', short: words, words };
}

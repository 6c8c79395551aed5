import type { ColoredBy, Plate } from '@zaguan/contracts/daybook';
import type { COLORS as COLOR_NAMES } from '@zaguan/contracts/setup';
import type { AppointmentStatus, Origin } from '@zaguan/core/visits';

export type ColorName = (typeof COLOR_NAMES)[number];

interface Look {
  readonly fill: string;
  readonly border: string;
  readonly edge: string;
  readonly text: string;
  /** The edge's color, for gradients. */
  readonly paint: string;
}

/** A visit's color as a quiet wash, its edge and its text; every pair is at least 4.5:1. */
const COLORS: Record<ColorName, Look> = {
  clay: {
    fill: 'bg-visit-clay-subtle',
    border: 'border-visit-clay',
    edge: 'bg-visit-clay',
    text: 'text-visit-clay-strong',
    paint: 'var(--color-visit-clay)',
  },
  plum: {
    fill: 'bg-visit-plum-subtle',
    border: 'border-visit-plum',
    edge: 'bg-visit-plum',
    text: 'text-visit-plum',
    paint: 'var(--color-visit-plum)',
  },
  ochre: {
    fill: 'bg-visit-ochre-subtle',
    border: 'border-visit-ochre',
    edge: 'bg-visit-ochre',
    text: 'text-visit-ochre',
    paint: 'var(--color-visit-ochre)',
  },
  blue: {
    fill: 'bg-visit-blue-subtle',
    border: 'border-visit-blue',
    edge: 'bg-visit-blue',
    text: 'text-visit-blue',
    paint: 'var(--color-visit-blue)',
  },
  moss: {
    fill: 'bg-visit-moss-subtle',
    border: 'border-visit-moss',
    edge: 'bg-visit-moss',
    text: 'text-visit-moss',
    paint: 'var(--color-visit-moss)',
  },
};

export function colorOf(name: string | null | undefined): Look {
  return COLORS[name as ColorName] ?? COLORS.clay;
}

/** What a color says besides a type's or a person's own. The marks and words say it too: never the color alone. */
export const STATUS_COLORS = {
  ...{ proposed: 'ochre', pending: 'ochre', waitlist: 'ochre', booked: 'blue', arrived: 'plum' },
  ...{ 'checked-in': 'moss', fulfilled: 'moss', noshow: 'clay', cancelled: 'clay', 'entered-in-error': 'clay' },
} as const satisfies Record<AppointmentStatus, ColorName>;

export const ORIGIN_COLORS = {
  ...{ desk: 'blue', self: 'moss', invitation: 'plum', waitlist: 'ochre', import: 'clay' },
} as const satisfies Record<Origin, ColorName>;

export const READINESS_COLORS = { held: 'clay', open: 'ochre', ready: 'moss', none: 'blue' } as const;
export type ReadinessColor = keyof typeof READINESS_COLORS;

export function readinessColor({ readiness }: Pick<Plate, 'readiness'>): ReadinessColor {
  if (!readiness) return 'none';
  return readiness.held ? 'held' : readiness.ready ? 'ready' : 'open';
}

/** The color of a plate, by what a Lens gives colors to. */
export function colorOfPlate(
  plate: Plate,
  by: ColoredBy,
  of: { type(id: string): string | undefined; person(id: string | null): string | null | undefined },
): string | null | undefined {
  switch (by) {
    case 'type':
      return of.type(plate.visitTypeId);
    case 'provider':
      return of.person(plate.providerId ?? plate.resourceId);
    case 'status':
      return STATUS_COLORS[plate.status];
    case 'origin':
      return plate.origin && ORIGIN_COLORS[plate.origin];
    case 'readiness':
      return READINESS_COLORS[readinessColor(plate)];
  }
}

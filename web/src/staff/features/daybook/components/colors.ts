interface Look {
  readonly fill: string;
  readonly border: string;
  readonly edge: string;
  readonly text: string;
  /** The edge's color, for gradients. */
  readonly paint: string;
}

/** A visit type's color as a quiet wash, its edge and its text; every pair is at least 4.5:1. */
const COLORS: Record<string, Look> = {
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

export function colorOf(name: string | undefined): Look {
  return COLORS[name ?? 'clay'] ?? COLORS.clay;
}

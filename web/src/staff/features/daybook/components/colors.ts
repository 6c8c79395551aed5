/** A visit type's color as a quiet wash, its edge and its text; every pair is at least 4.5:1. */
const COLORS: Record<string, { plate: string; edge: string; text: string }> = {
  clay: { plate: 'bg-visit-clay-subtle border-visit-clay', edge: 'bg-visit-clay', text: 'text-visit-clay-strong' },
  plum: { plate: 'bg-visit-plum-subtle border-visit-plum', edge: 'bg-visit-plum', text: 'text-visit-plum' },
  ochre: { plate: 'bg-visit-ochre-subtle border-visit-ochre', edge: 'bg-visit-ochre', text: 'text-visit-ochre' },
  blue: { plate: 'bg-visit-blue-subtle border-visit-blue', edge: 'bg-visit-blue', text: 'text-visit-blue' },
  moss: { plate: 'bg-visit-moss-subtle border-visit-moss', edge: 'bg-visit-moss', text: 'text-visit-moss' },
};

export function colorOf(name: string | undefined): { plate: string; edge: string; text: string } {
  return COLORS[name ?? 'clay'] ?? COLORS.clay;
}

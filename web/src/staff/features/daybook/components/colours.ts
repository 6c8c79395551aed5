/** A visit type's colour as a quiet wash, its edge and its text; every pair is at least 4.5:1. */
const COLOURS: Record<string, { plate: string; edge: string; text: string }> = {
  clay: { plate: 'bg-clay-wash border-clay', edge: 'bg-clay', text: 'text-clay-deep' },
  plum: { plate: 'bg-plum-wash border-plum', edge: 'bg-plum', text: 'text-plum' },
  ochre: { plate: 'bg-ochre-wash border-ochre', edge: 'bg-ochre', text: 'text-ochre' },
  blue: { plate: 'bg-blue-wash border-blue', edge: 'bg-blue', text: 'text-blue' },
  moss: { plate: 'bg-moss-wash border-moss', edge: 'bg-moss', text: 'text-moss' },
};

export function colourOf(name: string | undefined): { plate: string; edge: string; text: string } {
  return COLOURS[name ?? 'clay'] ?? COLOURS.clay;
}

import type { LocalDate } from '../time/index.ts';

/** Why somebody gets no invitation, in the order in which it is said. */
export const NOT_INVITED = [
  'deceased',
  'inactive',
  'invitation-live',
  'booked-already',
  'not-due',
  'no-way-to-reach',
  'opted-out',
] as const;
export type NotInvited = (typeof NOT_INVITED)[number];

/** What decides whether a visit that is booked otherwise makes an invitation needless. */
export interface BookedOtherwise<V extends { readonly typeId: string; readonly date: LocalDate }> {
  readonly coming: readonly V[];
  /** Coming visits of these types count; `null`: of any. */
  readonly comingTypeIds: readonly string[] | null;
  /** The invitation gives a visit another time: that they have one is why they are invited. */
  readonly moves: boolean;
  /** How many visits it may book in all: one that books several is wanted beside others. */
  readonly uses: number;
}

/** The first coming visit that makes an invitation needless; `null`: there is none. */
export function visitInstead<V extends { readonly typeId: string; readonly date: LocalDate }>({
  coming,
  comingTypeIds,
  moves,
  uses,
}: BookedOtherwise<V>): V | null {
  if (moves || uses > 1) return null;
  const counting = coming.filter(({ typeId }) => comingTypeIds === null || comingTypeIds.includes(typeId));
  return counting.reduce<V | null>((first, visit) => (first && first.date <= visit.date ? first : visit), null);
}

export interface WantedFacts extends BookedOtherwise<{ readonly typeId: string; readonly date: LocalDate }> {
  readonly status: 'new' | 'active' | 'inactive' | 'deceased' | 'archived';
  /** They hold an invitation to the same thing that can still be used. */
  readonly holdsOne: boolean;
  /** Of a plan: whether they are on its list; `null`: of no plan. */
  readonly isDue: boolean | null;
  readonly reach: 'open' | 'opted-out' | 'none';
}

/** Why somebody gets no invitation now; `null`: nothing stands in the way. */
export function whyNotInvited(facts: WantedFacts): NotInvited | null {
  if (facts.status === 'deceased') return 'deceased';
  if (facts.status === 'inactive' || facts.status === 'archived') return 'inactive';
  if (facts.holdsOne) return 'invitation-live';
  if (visitInstead(facts)) return 'booked-already';
  if (facts.isDue === false) return 'not-due';
  if (facts.reach === 'none') return 'no-way-to-reach';
  return facts.reach === 'opted-out' ? 'opted-out' : null;
}

/**
 * Whether a template books what an invitation is to: a plan's visits that count, a request's type, the type of a visit to
 * move. Something else would be booked, and they would be invited again.
 *
 * @param asked `null`: whatever it books
 */
export function booksWhatIsAsked(typeIds: readonly string[], asked: readonly string[] | null): boolean {
  return asked === null || typeIds.some((id) => asked.includes(id));
}

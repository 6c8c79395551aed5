import type { ClinicStore } from '../openings/index.ts';
import { needsTogether, type VisitNeeds } from '../patients/index.ts';
import { CELL_MIN } from '../time/index.ts';
import { lengthOf, type Part, type VisitType } from '../visits/index.ts';
import { withAccess } from './access.ts';

/** Who comes for what, with what they need. */
export interface NeedsOfVisit {
  readonly visitTypeId: string;
  readonly needs: VisitNeeds;
}

/**
 * The clinic as it is for people with needs: only rooms that have what they need, and visits that take the time they take.
 * Of several who come for one type, the longest counts. Shares what is taken with the given store.
 */
export function withNeeds(store: ClinicStore, visits: readonly NeedsOfVisit[]): ClinicStore {
  const extra = new Map<string, number>();
  for (const { visitTypeId, needs } of visits)
    extra.set(visitTypeId, Math.max(needs.extraMin, extra.get(visitTypeId) ?? 0));
  const able = withAccess(store, needsTogether(visits.map(({ needs }) => needs)).access);
  if (![...extra.values()].some(Boolean)) return able;
  const visitTypes = able.plan.visitTypes.map((type) => longer(type, extra.get(type.id) ?? 0));
  return able.withSchedule({ visitTypes });
}

/**
 * The parts a visit takes for somebody: its own, if it has some; else the type's, made longer for who needs more time.
 *
 * @returns `null` where they are the type's
 */
export function partsFor(type: VisitType, own: readonly Part[] | null, extraMin: number): readonly Part[] | null {
  return own ?? (extraMin ? longer(type, extraMin).parts : null);
}

/** What is wrong with a visit's own parts. */
export type PartsFault = 'no-such-resource' | 'no-such-need' | 'provider-stays';

/**
 * Own parts may be longer, fewer or elsewhere; whether a provider is needed stays the type's to say.
 *
 * @param known rooms, devices and people there are
 * @returns `null` where nothing is wrong
 */
export function faultOfParts(
  known: { has(id: string): boolean },
  type: Pick<VisitType, 'parts'>,
  parts: readonly Part[],
): PartsFault | null {
  const needs = parts.flatMap((part) => part.needs);
  if (needs.some((need) => need.what === 'resource' && !known.has(need.resourceId))) return 'no-such-resource';
  const keys = new Set(needs.map(({ key }) => key));
  if (needs.some(({ sameAs, differentFrom }) => [sameAs, differentFrom].some((key) => key && !keys.has(key))))
    return 'no-such-need';
  const isProvider = ({ what }: { what: string }) => what === 'provider';
  return needs.some(isProvider) === type.parts.some((part) => part.needs.some(isProvider)) ? null : 'provider-stays';
}

/** The visit with its main part longer. */
function longer(type: VisitType, extraMin: number): VisitType {
  if (!extraMin || !type.parts.length) return type;
  const main = mainPart(type.parts);
  const parts = type.parts.map(
    (part): Part => (part === main ? { ...part, lengthMin: part.lengthMin + extraMin } : part),
  );
  return { ...type, parts };
}

/** What a visit is about: the longest part with the provider, or the longest of all where there is none. */
function mainPart(parts: readonly Part[]): Part {
  const withProvider = parts.filter(({ needs }) => needs.some(({ what }) => what === 'provider'));
  const among = withProvider.length ? withProvider : parts;
  return among.reduce((longest, part) => (part.lengthMin > longest.lengthMin ? part : longest));
}

/**
 * A visit's parts when the whole takes so long: its main part becomes longer or shorter, the others stay.
 *
 * @param lengthMin minutes, a multiple of five
 * @returns `null` where nothing would be left of the main part
 */
export function resizedParts(parts: readonly Part[], lengthMin: number): readonly Part[] | null {
  const main = mainPart(parts);
  const left = main.lengthMin + lengthMin - lengthOf({ parts });
  if (left < CELL_MIN) return null;
  return parts.map((part): Part => (part === main ? { ...part, lengthMin: left } : part));
}

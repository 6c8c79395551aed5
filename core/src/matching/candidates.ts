import type { LocalDate } from '../time/index.ts';
import { jaroWinkler } from './jaroWinkler.ts';

/** What is known of a person for comparing: as typed, or as recorded. */
export interface Identity {
  readonly givenName: string;
  readonly familyName: string;
  readonly preferredName?: string | null;
  /** Empty while it is not known yet. */
  readonly birthDate: LocalDate;
  /** E.164 numbers and addresses. */
  readonly contacts: readonly string[];
}

export const MATCH_FIELDS = ['family-name', 'given-name', 'birth-date', 'contact'] as const;
export type MatchField = (typeof MATCH_FIELDS)[number];

/** How a field compares: `alike` is close, such as a slip of the pen or two names in each other's field. */
export type Likeness = 'agrees' | 'alike' | 'differs' | 'unknown';

export interface Candidate {
  readonly patientId: string;
  /** Sum of log2 weights; above `LIKELY` it is likely the same person. */
  readonly weight: number;
  readonly fields: Readonly<Record<MatchField, Likeness>>;
  readonly verdict: Verdict;
}

/**
 * `likely`: likely the same person. `relative`: another first name with everything else the same, a twin or relative.
 * `possible`: to be looked at.
 */
export type Verdict = 'likely' | 'relative' | 'possible';

/**
 * Weights after Fellegi and Sunter, "A Theory for Record Linkage" (JASA 1969): log2(m/u) where a field agrees,
 * log2((1-m)/(1-u)) where it differs; m: how often it agrees for one person, u: how often by chance for two.
 * The rates are estimates for a clinic of some thousand people (common practice), not measured here.
 */
const RATES: Record<MatchField, { m: number; u: number }> = {
  'family-name': { m: 0.93, u: 0.004 },
  'given-name': { m: 0.95, u: 0.01 },
  'birth-date': { m: 0.97, u: 0.00004 },
  contact: { m: 0.7, u: 0.0005 },
};
/** From here the desk is told "likely the same person"; below `WORTH_SHOWING` a candidate is not shown. */
export const LIKELY = 15;
const WORTH_SHOWING = 4;
/** Winkler's own threshold region for "same name, written differently" (common practice). */
const ALIKE = 0.88;

function plain(name: string): string {
  return name
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/[^\p{L}]/gu, '');
}

function compareNames(a: string, b: string): Likeness {
  const one = plain(a);
  const two = plain(b);
  if (!one || !two) return 'unknown';
  if (one === two) return 'agrees';
  return jaroWinkler(one, two) >= ALIKE ? 'alike' : 'differs';
}

const ORDER: Record<Likeness, number> = { agrees: 3, alike: 2, unknown: 1, differs: 0 };
const better = (a: Likeness, b: Likeness): Likeness => (ORDER[a] >= ORDER[b] ? a : b);

/** Slips of a date: one figure is another, two neighbors have changed places, or day and month have. */
function compareDates(a: LocalDate, b: LocalDate): Likeness {
  if (!a || !b) return 'unknown';
  if (a === b) return 'agrees';
  const swapped = `${b.slice(0, 4)}-${b.slice(8)}-${b.slice(5, 7)}`;
  const [one, other] = [a.replaceAll('-', ''), b.replaceAll('-', '')];
  const apart = [...one].flatMap((figure, i) => (figure === other[i] ? [] : [i]));
  const [i, j] = apart;
  const neighbors = apart.length === 2 && j === i + 1 && one[i] === other[j] && one[j] === other[i];
  return a === swapped || apart.length === 1 || neighbors ? 'alike' : 'differs';
}

/** How two identities compare, field by field. */
export function compareIdentities(typed: Identity, record: Identity): Record<MatchField, Likeness> {
  // A name somebody goes by counts only where there is one: its absence makes another first name no less another.
  const legal = compareNames(typed.givenName, record.givenName);
  const given = record.preferredName ? better(legal, compareNames(typed.givenName, record.preferredName)) : legal;
  const family = compareNames(typed.familyName, record.familyName);
  // First and last name in each other's field count as alike, both of them.
  const swapped =
    compareNames(typed.givenName, record.familyName) === 'agrees' &&
    compareNames(typed.familyName, record.givenName) === 'agrees';
  const known = typed.contacts.length > 0 && record.contacts.length > 0;
  return {
    'family-name': swapped ? better(family, 'alike') : family,
    'given-name': swapped ? better(given, 'alike') : given,
    'birth-date': compareDates(typed.birthDate, record.birthDate),
    contact: !known ? 'unknown' : typed.contacts.some((each) => record.contacts.includes(each)) ? 'agrees' : 'differs',
  };
}

function weightOf(fields: Record<MatchField, Likeness>): number {
  return MATCH_FIELDS.reduce((sum, field) => {
    const { m, u } = RATES[field];
    const agree = Math.log2(m / u);
    const differ = Math.log2((1 - m) / (1 - u));
    // Alike stands between the two, nearer to agreement.
    const byLikeness: Record<Likeness, number> = { agrees: agree, alike: agree * 0.6, differs: differ, unknown: 0 };
    return sum + byLikeness[fields[field]];
  }, 0);
}

/**
 * Vetoes stand above the weights: agreement in names and numbers is what relatives have too. Another birth date that is no
 * slip of this one is another person, however much else agrees (parent and child of one name). The same family name and
 * birth date, or nearly, with another given name is a twin, or a sibling born a year apart on one day.
 */
function judge(fields: Record<MatchField, Likeness>, weight: number): Verdict {
  if (fields['birth-date'] === 'differs') return 'possible';
  if (fields['given-name'] === 'differs' && (fields['family-name'] === 'agrees' || fields['family-name'] === 'alike'))
    return 'relative';
  return weight >= LIKELY ? 'likely' : 'possible';
}

/** Records that may be the person, likeliest first, with what agrees and what differs. */
export function findCandidates(
  typed: Identity,
  records: readonly (Identity & { readonly patientId: string })[],
  limit = 5,
): Candidate[] {
  return records
    .map((record) => {
      const fields = compareIdentities(typed, record);
      const weight = weightOf(fields);
      return { patientId: record.patientId, weight, fields, verdict: judge(fields, weight) };
    })
    .filter((candidate) => candidate.weight >= WORTH_SHOWING)
    .sort((a, b) => b.weight - a.weight || (a.patientId < b.patientId ? -1 : 1))
    .slice(0, limit);
}

/**
 * Sure only when date of birth and names agree, the contact just verified is already verified on that record, and
 * there is exactly one candidate like that. Everything else is for the desk to decide.
 */
export function sureMatch(candidates: readonly Candidate[], verifiedOn: ReadonlySet<string>): string | null {
  const exact = candidates.filter(
    ({ fields }) =>
      fields['birth-date'] === 'agrees' && fields['family-name'] === 'agrees' && fields['given-name'] === 'agrees',
  );
  const [only] = exact;
  return exact.length === 1 &&
    candidates.filter(({ verdict }) => verdict === 'likely').length === 1 &&
    verifiedOn.has(only.patientId)
    ? only.patientId
    : null;
}

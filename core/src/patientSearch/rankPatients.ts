import type { DateOrder } from '../patients/index.ts';
import type { LocalDate } from '../time/index.ts';
import { foldWord, isUnspaced, wordsOf } from './fold.ts';
import { isOneSlip } from './oneSlip.ts';
import { type Item, type Reading, readQuery } from './readQuery.ts';

/** What is known of a patient for being found. */
export interface Findable {
  readonly patientId: string;
  readonly recordNumber: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly preferredName: string | null;
  /** Names had before; a part that did not change is empty. */
  readonly formerNames: readonly { readonly givenName: string; readonly familyName: string }[];
  readonly birthDate: LocalDate;
  /** E.164. */
  readonly phones: readonly string[];
  readonly emails: readonly string[];
  /** When something last happened: any number that grows with time. */
  readonly recency: number;
}

/** How well a patient fits; the first is the best. */
export const FITS = ['exact', 'prefix', 'swapped', 'slip'] as const;
export type Fit = (typeof FITS)[number];

export interface Hit {
  readonly patientId: string;
  readonly fit: Fit;
}

/** Where a word of a name stands; `place` tells words apart. */
interface NameWord {
  readonly word: string;
  readonly field: 'given' | 'family' | 'whole';
  readonly place: number;
}

/**
 * Patients whom a text finds, best first: every word of it must fit something of the patient. What fits exactly comes
 * before what only begins so, then names of which the family name was written first, then those with one slip of the
 * finger; among equals, the one with whom something happened last.
 *
 * @param today the date at the clinic
 * @param order how a date of figures is written here
 */
export function rankPatients(
  text: string,
  patients: readonly Findable[],
  { today, order }: { readonly today: LocalDate; readonly order: DateOrder },
): Hit[] {
  const readings = readQuery(text, today, order);
  return patients
    .flatMap((patient) => {
      const fit = fitOf(readings, patient);
      return fit === null ? [] : [{ patient, fit }];
    })
    .sort(
      (a, b) =>
        a.fit - b.fit || b.patient.recency - a.patient.recency || (a.patient.patientId < b.patient.patientId ? -1 : 1),
    )
    .map(({ patient, fit }) => ({ patientId: patient.patientId, fit: FITS[fit] }));
}

/** Place in `FITS` of the best reading, `null` where none fits. */
function fitOf(readings: readonly Reading[], patient: Findable): number | null {
  const words = nameWords(patient);
  let best: number | null = null;
  for (const reading of readings) {
    const fit = fitOfReading(reading, patient, words);
    if (fit !== null && (best === null || fit < best)) best = fit;
  }
  return best;
}

const [EXACT, PREFIX, SWAPPED, SLIP] = [0, 1, 2, 3];

function fitOfReading({ items, familyFirst }: Reading, patient: Findable, words: readonly NameWord[]): number | null {
  let worst = EXACT;
  const names: string[] = [];
  for (const item of items) {
    if (item.is === 'name') {
      names.push(item.word);
      continue;
    }
    const fit = fitOfItem(item, patient);
    if (fit === null) return null;
    worst = Math.max(worst, fit);
  }
  const fit = fitOfNames(names, words, familyFirst);
  return fit === null ? null : Math.max(worst, fit);
}

function fitOfItem(item: Exclude<Item, { is: 'name' }>, patient: Findable): number | null {
  switch (item.is) {
    case 'born':
      return patient.birthDate === item.date ? EXACT : null;
    case 'born-in':
      return patient.birthDate.startsWith(item.start) ? PREFIX : null;
    case 'phone':
      return best(patient.phones.map((phone) => fitOfPhone(item.digits, phone)));
    case 'email':
      return best(patient.emails.map((email) => fitOfStart(item.text, email.toLowerCase())));
    case 'record':
      return fitOfRecord(item.text, patient.recordNumber);
  }
}

function best(fits: readonly (number | null)[]): number | null {
  const found = fits.filter((fit) => fit !== null);
  return found.length ? Math.min(...found) : null;
}

function fitOfStart(typed: string, whole: string): number | null {
  if (typed === whole) return EXACT;
  return whole.startsWith(typed) ? PREFIX : null;
}

/** North American numbers are told without +1: their last figures, four at least, or their first ones. */
function fitOfPhone(typed: string, phone: string): number | null {
  const all = phone.replace(/\D/g, '');
  const national = phone.startsWith('+1') ? all.slice(1) : all;
  if (typed === all || typed === national) return EXACT;
  if (national.startsWith(typed) || all.startsWith(typed)) return PREFIX;
  return typed.length >= 4 && national.endsWith(typed) ? PREFIX : null;
}

/** With or without its letters and the zeros in front. */
function fitOfRecord(typed: string, recordNumber: string): number | null {
  const whole = foldWord(recordNumber.replace(/[^\p{L}\p{N}]/gu, ''));
  const figures = whole.replace(/\D/g, '').replace(/^0+/, '');
  return best([fitOfStart(typed, whole), /^\d+$/.test(typed) && typed.replace(/^0+/, '') === figures ? EXACT : null]);
}

/** All words of all names a patient has or had. */
export function nameWords(
  patient: Pick<Findable, 'givenName' | 'familyName' | 'preferredName' | 'formerNames'>,
): NameWord[] {
  const names = [
    { given: patient.givenName, family: patient.familyName },
    { given: patient.preferredName ?? '', family: '' },
    ...patient.formerNames.map(({ givenName, familyName }) => ({ given: givenName, family: familyName })),
  ];
  const found: NameWord[] = [];
  let place = 0;
  const add = (text: string, field: NameWord['field']) => {
    for (const word of wordsOf(text)) found.push({ word, field, place: place++ });
  };
  for (const { given, family } of names) {
    add(given, 'given');
    add(family, 'family');
    // Written without a space, both names are one word, in either order.
    const [one, other] = [given, family].map((part) => foldWord(part.replace(/\s+/gu, '')));
    if (one && other && isUnspaced(one) && isUnspaced(other))
      for (const word of [other + one, one + other]) found.push({ word, field: 'whole', place: place++ });
  }
  return found;
}

interface Placed extends NameWord {
  readonly fit: number;
}

/** Each typed word on a word of its own; the best way to do so. */
function fitOfNames(typed: readonly string[], words: readonly NameWord[], familyFirst: boolean): number | null {
  if (!typed.length) return EXACT;
  const choices = typed.map((each) => placesFor(each, words));
  if (choices.some((places) => !places.length)) return null;
  let found: number | null = null;
  const taken: Placed[] = [];
  const place = (i: number, worst: number): void => {
    if (found !== null && worst >= found) return;
    if (i === typed.length) {
      const fit = Math.max(worst, isSwapped(taken, familyFirst) ? SWAPPED : EXACT);
      if (found === null || fit < found) found = fit;
      return;
    }
    for (const choice of choices[i]) {
      if (taken.some((other) => other.place === choice.place)) continue;
      taken.push(choice);
      place(i + 1, Math.max(worst, choice.fit));
      taken.pop();
    }
  };
  place(0, EXACT);
  return found;
}

function placesFor(typed: string, words: readonly NameWord[]): Placed[] {
  return words.flatMap((each) => {
    const fit = fitOfStart(typed, each.word) ?? (isOneSlip(typed, each.word) ? SLIP : null);
    return fit === null ? [] : [{ ...each, fit }];
  });
}

/** A family name before a given one; after a comma the other way about. */
function isSwapped(taken: readonly Placed[], familyFirst: boolean): boolean {
  const [first, then] = familyFirst ? ['given', 'family'] : ['family', 'given'];
  const at = taken.findIndex(({ field }) => field === first);
  return at >= 0 && taken.slice(at).some(({ field }) => field === then);
}

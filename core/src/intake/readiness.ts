/** What an appointment needs before check-in, in the order of showing. */
export const READINESS_CODES = ['person', 'red-flag', 'form', 'consent', 'contact', 'confirmed'] as const;
export type ReadinessCode = (typeof READINESS_CODES)[number];

export interface ReadinessFacts {
  readonly personKnown: boolean;
  readonly openFlags: number;
  readonly clearedFlags: number;
  /** Forms and consents that this visit asks for. */
  readonly documents: readonly { readonly id: string; readonly kind: 'form' | 'consent'; readonly done: boolean }[];
  /** A number or address to send to, which has not failed or said stop. */
  readonly contactGood: boolean;
  readonly confirmed: boolean;
  /** What staff let through with a reason: `code` or `code:document`. */
  readonly waived: readonly string[];
}

export interface ReadinessItem {
  readonly code: ReadinessCode;
  /** The document, where the item is about one. */
  readonly documentId: string | null;
  readonly state: 'done' | 'missing' | 'waived';
  /** Check-in waits for it. */
  readonly needed: boolean;
  /** May be let through with a reason. A red flag never, nor an unknown person. */
  readonly waivable: boolean;
}

export interface Readiness {
  readonly items: readonly ReadinessItem[];
  readonly done: number;
  readonly total: number;
  /** Nothing that check-in waits for is missing. */
  readonly ready: boolean;
  /** A red flag holds check-in until a clinician clears it. */
  readonly held: boolean;
}

const NEEDED: ReadonlySet<ReadinessCode> = new Set(['person', 'red-flag', 'form', 'consent']);
const WAIVABLE: ReadonlySet<ReadinessCode> = new Set(['form', 'consent', 'contact', 'confirmed']);

/** Whether staff may let an item of this kind through. The one place of the rule. */
export function mayWaive(code: ReadinessCode): boolean {
  return WAIVABLE.has(code);
}

/** The name under which a waiver of an item is kept. */
export function waiverKey(code: ReadinessCode, documentId: string | null): string {
  return documentId ? `${code}:${documentId}` : code;
}

/** What is done and what is missing before check-in, item by item. */
export function readinessOf(facts: ReadinessFacts): Readiness {
  const item = (code: ReadinessCode, done: boolean, documentId: string | null = null): ReadinessItem => ({
    code,
    documentId,
    state: done ? 'done' : mayWaive(code) && facts.waived.includes(waiverKey(code, documentId)) ? 'waived' : 'missing',
    needed: NEEDED.has(code),
    waivable: mayWaive(code),
  });
  const items = [
    item('person', facts.personKnown),
    ...(facts.openFlags + facts.clearedFlags > 0 ? [item('red-flag', facts.openFlags === 0)] : []),
    ...facts.documents.map(({ id, kind, done }) => item(kind, done, id)),
    item('contact', facts.contactGood),
    item('confirmed', facts.confirmed),
  ];
  return {
    items,
    done: items.filter(({ state }) => state !== 'missing').length,
    total: items.length,
    ready: items.every(({ needed, state }) => !needed || state !== 'missing'),
    held: facts.openFlags > 0,
  };
}

/** Two of these are asked at check-in (two patient identifiers: common practice, Joint Commission NPSG.01.01.01 from memory). */
export const IDENTIFIERS = ['name', 'birth-date', 'phone', 'record-number'] as const;
export type Identifier = (typeof IDENTIFIERS)[number];
export const MIN_IDENTIFIERS = 2;

import { z } from 'zod';

/** What all FHIR endpoints have in common. */
export const fhirRead = { access: { kind: 'role', action: 'fhir.read' }, answers: 'fhir' } as const;

/** FHIR R4 resources leave as the standard has them; here stands only what they are. */
export const resource = <T extends string>(type: T) => z.looseObject({ resourceType: z.literal(type), id: z.string() });
export const bundle = z.looseObject({
  resourceType: z.literal('Bundle'),
  type: z.literal('searchset'),
  total: z.number(),
});

const MAX_CHOICES = 100;

/** One of several, with commas between (FHIR R4 §3.1.1.4.2). */
export function anyOf<T extends z.ZodType<string, string>>(item: T) {
  return z
    .string()
    .transform((text) => text.split(',').map((each) => each.trim()))
    .pipe(z.array(item).min(1).max(MAX_CHOICES));
}

const UUID_LENGTH = 36;

/** References to a type of resource: an id, a relative or an absolute address of it. */
export function references(...types: readonly string[]) {
  const form = new RegExp(`^(?:https?://[^,\\s]+/)?(?:(?:${types.join('|')})/)?[0-9a-f-]{${UUID_LENGTH}}$`);
  const one = z.string().regex(form, { error: 'not-a-reference' });
  return anyOf(one).transform((all) => all.map((each) => each.slice(-UUID_LENGTH)));
}

/** The same where its type counts: `Practitioner/…` and `Location/…` are two things. */
export function typedReferences(...types: readonly string[]) {
  const form = new RegExp(`^(?:https?://[^,\\s]+/)?(?:${types.join('|')})/[0-9a-f-]{${UUID_LENGTH}}$`);
  const one = z.string().regex(form, { error: 'not-a-reference' });
  return anyOf(one).transform((all) => all.map((each) => each.split('/').slice(-2).join('/')));
}

const DATE =
  /^(?:eq|ne|gt|lt|ge|le|sa|eb)?(\d{4})(?:-(\d{2})(?:-(\d{2})(T\d{2}:\d{2}(?::\d{2}(?:\.\d{1,6})?)?(?:Z|[+-]\d{2}:\d{2}))?)?)?$/;

/** A date search (§3.1.1.4.7): a prefix, then a year, a month, a day or an instant. `ne` and `ap` are not supported. */
const dateSearch = z
  .string()
  .regex(DATE, { error: 'not-a-date-search' })
  .refine((text) => !text.startsWith('ne'), { error: 'prefix-not-supported' })
  .refine((text) => !Number.isNaN(Date.parse(text.replace(/^[a-z]{2}/, ''))), { error: 'no-such-date' });

/** Several hold together, as in `date=ge2026-12-01&date=lt2026-12-08`. */
export const dateSearches = z
  .union([dateSearch, z.array(dateSearch).min(1).max(4)])
  .transform((found) => (Array.isArray(found) ? found : [found]));

const MAX_PAGE = 500;

/** Where a page begins, taken from a `next` link: so far into a list, or after a visit by its start and id. */
const pageNumber = z.string().regex(/^\d{1,7}$/, { error: 'not-a-page' });
export const pageAfter = z.string().regex(/^-?\d{1,15}~[0-9a-f-]{36}$/, { error: 'not-a-page' });

/** What every search understands. */
export const commonSearch = {
  _count: z.coerce.number().int().min(1).max(MAX_PAGE).default(100),
  _page: pageNumber.optional(),
  _format: z.enum(['json', 'application/json', 'application/fhir+json']).optional(),
};

/** Tokens with or without their system (§3.1.1.4.10). */
export const tokens = anyOf(z.string().min(1).max(200));

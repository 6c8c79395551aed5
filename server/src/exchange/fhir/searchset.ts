import type { Bundle, FhirResource } from 'fhir/r4.js';

/** FHIR knows neither empty lists nor empty texts nor objects that say nothing (R4 §2.6.2): they are left away. */
export function withoutEmpty<T>(value: T): T {
  if (Array.isArray(value)) return value.map(withoutEmpty).filter((each) => !isEmpty(each)) as T;
  if (typeof value !== 'object' || value === null) return value;
  const left = Object.entries(value).map(([key, each]) => [key, withoutEmpty(each)] as const);
  return Object.fromEntries(left.filter(([, each]) => !isEmpty(each))) as T;
}

function isEmpty(value: unknown): boolean {
  if (value === undefined || value === null || value === '') return true;
  return typeof value === 'object' && Object.keys(value).length === 0;
}

/** A page of what was found. */
export interface FoundPage {
  readonly resources: readonly FhirResource[];
  readonly total: number;
  /** This page's own address, and the next one's. */
  readonly self: string;
  readonly next: string | null;
}

/** Resources as the answer to a search; each can be read at its `fullUrl`. */
export function toSearchset({ resources, total, self, next }: FoundPage, base: string): Bundle<FhirResource> {
  return withoutEmpty({
    resourceType: 'Bundle',
    type: 'searchset',
    total,
    link: [{ relation: 'self', url: self }, ...(next ? [{ relation: 'next', url: next }] : [])],
    entry: resources.map((resource) => ({
      fullUrl: `${base}/${resource.resourceType}/${resource.id}`,
      resource,
      search: { mode: 'match' as const },
    })),
  });
}

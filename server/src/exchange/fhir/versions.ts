import type { Meta } from 'fhir/r4.js';

/** The version of what is stored, and when it got it. */
export interface Versioned {
  readonly version: number;
  readonly changedAt: Date | null;
}

export function metaOf({ version, changedAt }: Versioned): { meta: Meta } {
  return { meta: { versionId: String(version), ...(changedAt && { lastUpdated: changedAt.toISOString() }) } };
}

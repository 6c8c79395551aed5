import { isNpi } from '@zaguan/core/setup';
import { z } from 'zod';
import { id, line, optionalLine, paragraph, slug } from './fields.ts';
import { COLORS } from './visitType.ts';
import { defineRecords } from './record.ts';

/** Languages spoken with patients, ISO 639-1. */
export const SPOKEN = ['en', 'es', 'ar', 'fr', 'hi', 'ko', 'pl', 'pt', 'ru', 'so', 'tl', 'uk', 'vi', 'zh'] as const;

/** A provider (FHIR Practitioner) or a member of a staff pool: who works at which sites, and what patients read. */
export const personDoc = z
  .strictObject({
    kind: z.enum(['provider', 'staff']),
    name: line(80),
    /** How Spanish-speaking patients read the name; empty where it is the same. */
    publicNameEs: optionalLine(80),
    shortName: line(40),
    color: z.enum(COLORS).nullable(),
    siteIds: z.array(id).max(50),
    capabilities: z.array(slug).max(20),
    bookableOnline: z.boolean(),
    shownInDaybook: z.boolean(),
    mayEditOwnHours: z.boolean(),
    credentials: optionalLine(40),
    specialty: optionalLine(80),
    npi: z.string().trim().refine(isNpi, { error: 'npi-check-digit' }).nullable(),
    licenses: z
      .array(
        z.strictObject({
          region: z.string().regex(/^[A-Z]{2}$/, { error: 'not-a-state' }),
          number: line(30),
        }),
      )
      .max(20),
    languages: z.array(z.enum(SPOKEN)).min(1, { error: 'no-language' }).max(SPOKEN.length),
    acceptsNew: z.boolean(),
    bioEn: paragraph(400),
    bioEs: paragraph(400),
    sortOrder: z.number().int().min(0).max(9999),
  })
  .superRefine((person, check) => {
    const regions = person.licenses.map(({ region }) => region);
    if (new Set(regions).size !== regions.length)
      check.addIssue({ code: 'custom', path: ['licenses'], message: 'twice' });
  });
export type PersonDoc = z.output<typeof personDoc>;

export const people = defineRecords('person', personDoc, { view: 'setup.view', edit: 'setup.edit' });

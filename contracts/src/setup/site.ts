import { z } from 'zod';
import { access, id, ianaZone, line, optionalLine, paragraph, phone, span, weekly } from './fields.ts';
import { defineRecords } from './record.ts';

/** More are refused: what is closed every week is no closure. */
export const MAX_CLOSURES = 400;

const latitude = z.number().min(-90).max(90);
const longitude = z.number().min(-180).max(180);

/** A site (FHIR Location). `name` is the in-house name, `publicName` what patients read. */
export const siteDoc = z
  .strictObject({
    name: line(60),
    publicName: line(80),
    code: z
      .string()
      .trim()
      .regex(/^[A-Z0-9-]{2,12}$/, { error: 'not-a-code' }),
    addressLine: line(120),
    city: line(60),
    region: z
      .string()
      .trim()
      .regex(/^[A-Z]{2}$/, { error: 'not-a-state' }),
    postalCode: z
      .string()
      .trim()
      .regex(/^\d{5}(-\d{4})?$/, { error: 'not-a-zip' }),
    phone,
    morePhones: z.array(z.strictObject({ label: line(30), phone })).max(6),
    email: z.email({ error: 'not-an-email' }).max(200).nullable(),
    timeZone: ianaZone,
    latitude: latitude.nullable(),
    longitude: longitude.nullable(),
    directionsEn: paragraph(1000),
    directionsEs: paragraph(1000),
    bookableOnline: z.boolean(),
    /** What the whole site has, and so each of its rooms. */
    access,
    sortOrder: z.number().int().min(0).max(9999),
    hours: z.array(weekly).max(40),
    closures: z
      .array(span.safeExtend({ reason: optionalLine(80), uid: z.string().max(300).nullable() }))
      .max(MAX_CLOSURES),
    travel: z.array(z.strictObject({ siteId: id, minutes: z.number().int().min(0).max(1440) })).max(100),
  })
  .superRefine((site, check) => {
    if ((site.latitude === null) !== (site.longitude === null))
      check.addIssue({ code: 'custom', path: ['latitude'], message: 'point-half' });
    if (new Set(site.travel.map(({ siteId }) => siteId)).size !== site.travel.length)
      check.addIssue({ code: 'custom', path: ['travel'], message: 'twice' });
  });
export type SiteDoc = z.output<typeof siteDoc>;

export const sites = defineRecords('site', siteDoc, { view: 'setup.view', edit: 'setup.edit' });

import { z } from 'zod';
import { patientKind } from '../wire.ts';
import { id, line, optionalLine, paragraph, slug } from './fields.ts';
import { defineRecords } from './record.ts';

/** What a type is drawn in; blue-green is kept for what is shown online. */
export const COLORS = ['clay', 'ochre', 'plum', 'blue', 'moss'] as const;

const multipleOf5 = (min: number, max: number) => z.number().int().min(min).max(max).multipleOf(5);
const needKey = z
  .string()
  .max(40)
  .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, { error: 'not-a-slug' });

export const needDoc = z.strictObject({
  key: needKey,
  what: z.enum(['provider', 'pool', 'resource', 'present']),
  poolKind: slug.nullable(),
  resourceId: id.nullable(),
  capability: slug.nullable(),
  sameAs: needKey.nullable(),
  differentFrom: needKey.nullable(),
  turnaroundMin: multipleOf5(0, 120),
});
export type NeedDoc = z.output<typeof needDoc>;

export const partDoc = z.strictObject({
  name: optionalLine(40),
  lengthMin: multipleOf5(5, 720),
  needs: z.array(needDoc).max(12),
});
export type PartDoc = z.output<typeof partDoc>;

/** One level of the online policy: `null` leaves a value to the next wider level. */
export const policyDoc = z.strictObject({
  siteId: id.nullable(),
  providerId: id.nullable(),
  offered: z.boolean().nullable(),
  kinds: z.array(patientKind).min(1).max(2).nullable(),
  leadMin: z.number().int().min(0).max(525_600).nullable(),
  leadWorkingDays: z.number().int().min(1).max(30).nullable(),
  leadByMinute: z.number().int().min(0).max(1435).nullable(),
  windowDays: z.number().int().min(0).max(730).nullable(),
  gridMin: z
    .union([z.literal(5), z.literal(10), z.literal(15), z.literal(20), z.literal(30), z.literal(60)])
    .nullable(),
  approval: z.enum(['none', 'new', 'all']).nullable(),
  showLength: z.boolean().nullable(),
});
export type PolicyDoc = z.output<typeof policyDoc>;

/** A level that leaves everything to the wider one. */
export const EMPTY_POLICY: PolicyDoc = {
  siteId: null,
  providerId: null,
  offered: null,
  kinds: null,
  leadMin: null,
  leadWorkingDays: null,
  leadByMinute: null,
  windowDays: null,
  gridMin: null,
  approval: null,
  showLength: null,
};

/** What is booked (FHIR HealthcareService), with its parts, limits, words for patients and online policy. */
export const visitTypeDoc = z
  .strictObject({
    code: slug,
    name: line(60),
    publicNameEn: line(80),
    publicNameEs: line(80),
    descriptionEn: paragraph(600),
    descriptionEs: paragraph(600),
    preparationEn: paragraph(1000),
    preparationEs: paragraph(1000),
    priceNoteEn: optionalLine(160),
    priceNoteEs: optionalLine(160),
    color: z.enum(COLORS),
    mode: z.enum(['in-person', 'video', 'phone']),
    beforeMin: multipleOf5(0, 240),
    afterMin: multipleOf5(0, 240),
    parts: z.array(partDoc).min(1, { error: 'no-part' }).max(8),
    /** `null`: every provider; every site. */
    providerIds: z.array(id).min(1, { error: 'nobody' }).nullable(),
    siteIds: z.array(id).min(1, { error: 'nowhere' }).nullable(),
    spacing: z
      .array(
        z.strictObject({
          /** `null`: this type itself. */
          otherTypeId: id.nullable(),
          minDays: z.number().int().min(1).max(730).nullable(),
          maxDays: z.number().int().min(1).max(730).nullable(),
        }),
      )
      .max(20),
    links: z.array(z.strictObject({ followTypeId: id, offsetMin: z.number().int().min(5).max(525_600) })).max(10),
    reasons: z.array(z.strictObject({ en: line(80), es: line(80) })).max(40),
    caps: z
      .array(
        z.strictObject({
          bucket: z.enum(['provider-type-day', 'site-type-day']),
          providerId: id.nullable(),
          siteId: id.nullable(),
          max: z.number().int().min(0).max(500),
        }),
      )
      .max(40),
    policies: z.array(policyDoc).max(200),
    formIds: z.array(id).max(30),
    consentIds: z.array(id).max(30),
    /** Until so many hours before may a patient cancel by link. */
    cancelUntilHours: z.number().int().min(0).max(336),
    asksToConfirm: z.boolean(),
    /** What such a visit is expected to bring in, in whole US dollars; the Daybook adds it up. */
    expectedFeeUsd: z.number().int().min(0).max(1_000_000).nullable(),
    sortOrder: z.number().int().min(0).max(9999),
  })
  .superRefine((type, check) => {
    const fault = (path: (string | number)[], message: string) => check.addIssue({ code: 'custom', path, message });
    checkNeeds(type.parts, fault);
    type.spacing.forEach((row, i) => {
      if (row.minDays === null && row.maxDays === null) fault(['spacing', i, 'minDays'], 'needed');
      else if (row.minDays !== null && row.maxDays !== null && row.maxDays < row.minDays)
        fault(['spacing', i, 'maxDays'], 'max-below-min');
    });
    const levels = type.policies.map((row) => `${row.siteId}|${row.providerId}`);
    if (new Set(levels).size !== levels.length) fault(['policies'], 'twice');
    type.policies.forEach((row, i) => {
      if ((row.leadWorkingDays === null) !== (row.leadByMinute === null))
        fault(['policies', i, 'leadByMinute'], 'lead-half');
    });
  });
export type VisitTypeDoc = z.output<typeof visitTypeDoc>;

function checkNeeds(parts: readonly PartDoc[], fault: (path: (string | number)[], message: string) => void): void {
  const keys = parts.flatMap((part) => part.needs.map(({ key }) => key));
  parts.forEach((part, p) => {
    part.needs.forEach((need, n) => {
      const at = (field: string) => ['parts', p, 'needs', n, field];
      if (keys.filter((key) => key === need.key).length > 1) fault(at('key'), 'twice');
      if ((need.what === 'pool') !== (need.poolKind !== null)) fault(at('poolKind'), 'needed');
      if ((need.what === 'resource') !== (need.resourceId !== null)) fault(at('resourceId'), 'needed');
      if ((need.what === 'present') !== (need.capability !== null)) fault(at('capability'), 'needed');
      for (const field of ['sameAs', 'differentFrom'] as const) {
        const other = need[field];
        if (other !== null && (other === need.key || !keys.includes(other))) fault(at(field), 'no-such-need');
      }
    });
  });
}

export const visitTypes = defineRecords('visit-type', visitTypeDoc, { view: 'setup.view', edit: 'setup.edit' });

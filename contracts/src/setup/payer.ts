import { z } from 'zod';
import { id, line } from './fields.ts';
import { defineRecords } from './record.ts';

/** Whom a visit is billed to, and what they accept where and with whom; the narrowest row that says something decides. */
export const payerDoc = z
  .strictObject({
    name: line(80),
    rules: z
      .array(
        z.strictObject({
          visitTypeId: id.nullable(),
          siteId: id.nullable(),
          providerId: id.nullable(),
          accepted: z.boolean().nullable(),
          referral: z.boolean().nullable(),
          authorization: z.boolean().nullable(),
        }),
      )
      .max(200),
    sortOrder: z.number().int().min(0).max(9999),
  })
  .superRefine((payer, check) => {
    const levels = payer.rules.map((row) => `${row.visitTypeId}|${row.siteId}|${row.providerId}`);
    if (new Set(levels).size !== levels.length) check.addIssue({ code: 'custom', path: ['rules'], message: 'twice' });
  });
export type PayerDoc = z.output<typeof payerDoc>;

export const payers = defineRecords('payer', payerDoc, { view: 'setup.view', edit: 'setup.edit' });

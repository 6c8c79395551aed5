import { ACCESS } from '@zaguan/core/availability';
import { readPhone } from '@zaguan/core/patients';
import { isZone } from '@zaguan/core/time';
import { z } from 'zod';
import { localDate, wallMinute, weekday } from '../wire.ts';

/** Fields that several kinds of record share. Every message is a code; the words stand in the interface. */

/** One line, needed. */
export const line = (maxLength: number) =>
  z
    .string()
    .trim()
    .min(1, { error: 'needed' })
    .max(maxLength, { error: 'too-long' })
    .regex(/^[^\p{Cc}]*$/u, { error: 'one-line' });

/** One line that may be left out. */
export const optionalLine = (maxLength: number) =>
  z
    .string()
    .trim()
    .max(maxLength, { error: 'too-long' })
    .regex(/^[^\p{Cc}]*$/u, { error: 'one-line' });

/** Several lines that may be left out. */
export const paragraph = (maxLength: number) =>
  z
    .string()
    .trim()
    .max(maxLength, { error: 'too-long' })
    .regex(/^(?:[^\p{Cc}]|\n)*$/u, { error: 'no-control-characters' });

/** A North American telephone number as people write it. */
export const phone = z
  .string()
  .trim()
  .max(40)
  .refine((text) => readPhone(text).ok, { error: 'not-a-phone' });

export const ianaZone = z.string().max(60).refine(isZone, { error: 'no-such-zone' });

/** What records of other kinds are called by: lower-case words joined by hyphens. */
export const slug = z
  .string()
  .max(40)
  .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, { error: 'not-a-slug' });

export const id = z.uuid();

const stretch = z.strictObject({ fromMinute: wallMinute.max(1435), toMinute: wallMinute.min(5) });

function checkStretch(row: z.output<typeof stretch>, check: z.RefinementCtx): void {
  if (row.toMinute < row.fromMinute) check.addIssue({ code: 'custom', path: ['toMinute'], message: 'across-midnight' });
  else if (row.toMinute === row.fromMinute)
    check.addIssue({ code: 'custom', path: ['toMinute'], message: 'empty-stretch' });
}

/** A weekly stretch on the site's clock, in force between dates. */
export const weekly = stretch
  .extend({
    weekdays: z.array(weekday).min(1, { error: 'no-weekday' }).max(7),
    everyWeeks: z.number().int().min(1).max(8),
    effectiveFrom: localDate,
    effectiveUntil: localDate.nullable(),
  })
  .superRefine((row, check) => {
    checkStretch(row, check);
    if (row.effectiveUntil !== null && row.effectiveUntil < row.effectiveFrom)
      check.addIssue({ code: 'custom', path: ['effectiveUntil'], message: 'until-before-from' });
  });

/** From a minute of a date to a minute of a date, on the site's clock. */
export const span = z
  .strictObject({
    startDate: localDate,
    startMinute: wallMinute.max(1435),
    endDate: localDate,
    endMinute: wallMinute,
  })
  .refine((row) => `${row.startDate} ${pad(row.startMinute)}` < `${row.endDate} ${pad(row.endMinute)}`, {
    path: ['endDate'],
    error: 'until-before-from',
  });

function pad(minute: number): string {
  return String(minute).padStart(4, '0');
}

/** For people who could not come otherwise; nothing is known of what is left out. */
export const access = z
  .array(z.enum(ACCESS))
  .max(ACCESS.length)
  .refine((all) => new Set(all).size === all.length, { error: 'twice' })
  .default([]);

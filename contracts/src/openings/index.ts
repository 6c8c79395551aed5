import { CODES } from '@zaguan/core/openings';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { otherTime } from '../errors.ts';
import {
  appointmentId,
  instant,
  localDate,
  patientKind,
  payerId,
  resourceId,
  siteId,
  startInstant,
  visitTypeId,
  askedDate,
} from '../wire.ts';

/** Whoever pays, if that was asked, and whether there is a referral. */
const paid = { payerId: payerId.optional(), hasReferral: z.stringbool().optional() };

/** A patient can't look further ahead than the longest booking window. */
const MAX_DAYS = 400;

export const publicDays = defineEndpoint({
  name: 'openings.publicDays',
  method: 'get',
  path: '/public/openings',
  summary:
    'The whole booking window of a visit type at a site: how many start times each day has, and the first of all.',
  access: { kind: 'public', limit: 'read' },
  query: z.strictObject({ siteId, visitTypeId, kind: patientKind, providerId: resourceId.optional(), ...paid }),
  output: z.strictObject({
    from: localDate,
    until: localDate,
    timeZone: z.string(),
    days: z.array(z.strictObject({ date: localDate, starts: z.number() })).max(MAX_DAYS + 1),
    first: z.strictObject({ start: instant, providerId: z.string().nullable() }).nullable(),
  }),
  errors: ['NotFound'],
});

export const publicTimes = defineEndpoint({
  name: 'openings.publicTimes',
  method: 'get',
  path: '/public/openings/:date',
  summary: 'Start times of one day, by provider.',
  access: { kind: 'public', limit: 'read' },
  params: z.strictObject({ date: askedDate }),
  query: z.strictObject({ siteId, visitTypeId, kind: patientKind, providerId: resourceId.optional(), ...paid }),
  output: z.strictObject({
    timeZone: z.string(),
    lanes: z.array(z.strictObject({ providerId: z.string().nullable(), starts: z.array(instant) })),
  }),
  errors: ['NotFound'],
});

export const findOpenings = defineEndpoint({
  name: 'openings.find',
  method: 'get',
  path: '/openings',
  summary:
    'Openings for the desk or as a patient would see them, from a date for n days: the first fifty, or all of a single day. Where there are none, the next day that has any.',
  access: { kind: 'role', action: 'openings.search' },
  query: z.strictObject({
    visitTypeId,
    siteId,
    kind: patientKind,
    channel: z.enum(['online', 'desk']),
    from: askedDate,
    days: z.coerce.number().int().min(1).max(120),
    providerId: resourceId.optional(),
    /** A visit that is to move: its own time counts as free. */
    movingId: appointmentId.optional(),
    payerId: payerId.optional(),
  }),
  output: z.strictObject({
    openings: z.array(
      z.strictObject({
        siteId: z.string(),
        providerId: z.string().nullable(),
        start: instant,
        /** On the steps in which patients are offered this type; the others are in between. */
        onGrid: z.boolean(),
      }),
    ),
    more: z.boolean(),
    /** The first day after these that has any, where these have none; `null` too if none has within 90 days. */
    next: localDate.nullable(),
  }),
  errors: ['NotFound', 'NotAllowed'],
});

export const factValue = z.union([z.string(), z.number(), z.boolean(), z.null(), z.array(z.string())]);
export const ruleAnswer = z.strictObject({
  code: z.enum(CODES),
  applies: z.boolean(),
  passed: z.boolean(),
  facts: z.array(z.record(z.string(), factValue)),
});
export type WireRuleAnswer = z.output<typeof ruleAnswer>;

export const whyNotQuery = z.strictObject({
  visitTypeId,
  siteId,
  providerId: resourceId.optional(),
  kind: patientKind,
  channel: z.enum(['online', 'desk']),
  start: startInstant,
  payerId: payerId.optional(),
  /** As the holder of an invitation of this template would be answered. */
  templateId: z.uuid().optional(),
});

export const whyNot = defineEndpoint({
  name: 'openings.whyNot',
  method: 'get',
  path: '/openings/why-not',
  summary: 'For any start: every rule, passed or failed, with the values that decided.',
  access: { kind: 'role', action: 'openings.search' },
  query: whyNotQuery,
  output: z.strictObject({
    offered: z.boolean(),
    answers: z.array(ruleAnswer),
    names: z.record(z.string(), z.string()),
  }),
  errors: ['NotFound', 'NotAllowed'],
});
export { otherTime };
export * from './findTimes.ts';

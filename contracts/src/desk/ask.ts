import { CODES } from '@zaguan/core/openings';
import { PROPOSAL_REASONS } from '@zaguan/core/findTime';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { ruleAnswer } from '../openings/index.ts';
import { askedDate, instant, localDate, resourceId, siteId } from '../wire.ts';
import { askedVisit, MAX_AT_ONCE } from './book.ts';

const time = z.strictObject({
  siteId: z.string(),
  providerId: z.string().nullable(),
  date: localDate,
  start: instant,
  end: instant,
});

/** The booking that asks: what it holds itself stands in nobody's way. */
const flowId = z.uuid().nullable().default(null);
const wanted = askedVisit.omit({ siteId: true, providerId: true, start: true }).extend({ flowId });

export const proposeAtDesk = defineEndpoint({
  name: 'desk.propose',
  method: 'post',
  path: '/desk/proposals',
  summary:
    'The three best times for a patient, each with why: who saw them last, their usual weekday and hour, beside somebody of their household, the soonest. Changes nothing.',
  access: { kind: 'role', action: 'openings.search' },
  body: wanted.extend({
    /** Empty: every site the role covers. */
    siteIds: z.array(siteId).max(50).default([]),
    providerIds: z.array(resourceId).min(1).max(50).nullable().default(null),
    from: askedDate,
    days: z.number().int().min(1).max(62),
  }),
  output: z.strictObject({
    proposals: z.array(time.extend({ why: z.array(z.enum(PROPOSAL_REASONS)) })),
  }),
  errors: ['NotFound', 'NotAllowed', 'NotBookable'],
});

export const timesOfDay = defineEndpoint({
  name: 'desk.timesOfDay',
  method: 'post',
  path: '/desk/times',
  summary: 'Every time of one day at one site that a visit could have by the desk’s rules. Changes nothing.',
  access: { kind: 'role', action: 'openings.search' },
  body: wanted.extend({
    siteId,
    date: askedDate,
    /** Other visits of the same booking: their times are taken. */
    beside: z.array(askedVisit).max(MAX_AT_ONCE, { error: 'too-many' }).default([]),
  }),
  bodyLimit: 256 * 1024,
  output: z.strictObject({ times: z.array(time.omit({ siteId: true, date: true })) }),
  errors: ['NotFound', 'NotAllowed', 'NotBookable'],
});

export const checkAtDesk = defineEndpoint({
  name: 'desk.check',
  method: 'post',
  path: '/desk/check',
  summary:
    'Which rules visits at times would break, each with those before it in place: with the values that decided, and which can be set aside. Changes nothing.',
  access: { kind: 'role', action: 'openings.search' },
  body: z.strictObject({ visits: z.array(askedVisit).min(1).max(MAX_AT_ONCE, { error: 'too-many' }), flowId }),
  bodyLimit: 256 * 1024,
  output: z.strictObject({
    /** In the order in which they were asked about. */
    visits: z.array(
      z.strictObject({
        date: localDate,
        end: instant,
        broken: z.array(ruleAnswer.pick({ facts: true }).extend({ code: z.enum(CODES), mayWaive: z.boolean() })),
      }),
    ),
    names: z.record(z.string(), z.string()),
  }),
  errors: ['NotFound', 'NotAllowed', 'NotBookable'],
});

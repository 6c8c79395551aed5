import { ACCESS } from '@zaguan/core/availability';
import { MAX_MEMBERS, RELAXATIONS } from '@zaguan/core/findTime';
import { z } from 'zod';
import { ownParts } from '../desk/parts.ts';
import { defineEndpoint } from '../endpoint.ts';
import {
  askedDate,
  instant,
  localDate,
  patientKind,
  resourceId,
  siteId,
  visitTypeId,
  wallMinute,
  weekday,
} from '../wire.ts';

const time = z.strictObject({
  siteId: z.string(),
  providerId: z.string().nullable(),
  visitTypeId: z.string(),
  date: localDate,
  start: instant,
  end: instant,
});
export type FoundTime = z.output<typeof time>;

/** What is wished for: where, when, with whom; one visit, several people, a series, or a visit with those that must follow. */
export const timesWanted = z
  .strictObject({
    /** One for each person; several come together. */
    members: z
      .array(
        z.strictObject({
          visitTypeId,
          kind: patientKind,
          patientId: z.uuid().nullable().optional(),
          /** Of this visit; without any: the type's. */
          parts: ownParts.nullable().optional(),
        }),
      )
      .min(1)
      .max(MAX_MEMBERS),
    channel: z.enum(['desk', 'online']),
    /** The booking that asks: what it holds itself stands in nobody's way. */
    flowId: z.uuid().nullable().optional(),
    siteIds: z.array(siteId).min(1, { error: 'no-site' }).max(50),
    providerIds: z.array(resourceId).min(1).max(200).nullable(),
    from: askedDate,
    days: z.number().int().min(1).max(120),
    weekdays: z.array(weekday).min(1, { error: 'no-weekday' }).max(7).nullable(),
    fromMinute: wallMinute.max(1435),
    toMinute: wallMinute.min(5),
    language: z
      .string()
      .regex(/^[a-z]{2}$/)
      .nullable(),
    /** What the rooms, or the site, must have. */
    access: z.array(z.enum(ACCESS)).max(ACCESS.length).optional(),
    household: z.strictObject({
      how: z.enum(['back-to-back', 'side-by-side']),
      mostWaitMin: z.number().int().min(0).max(240),
    }),
    /** `null`: one visit (with those that must follow it, if its type has any). */
    series: z
      .strictObject({
        everyWeeks: z.number().int().min(1, { error: 'every-zero' }).max(26),
        count: z.number().int().min(2).max(12),
        toleranceDays: z.number().int().min(0).max(7),
        sameProvider: z.boolean(),
      })
      .nullable(),
  })
  .superRefine((wanted, check) => {
    if (wanted.toMinute <= wanted.fromMinute)
      check.addIssue({ code: 'custom', path: ['toMinute'], message: 'empty-stretch' });
    if (wanted.series && wanted.members.length > 1)
      check.addIssue({ code: 'custom', path: ['series'], message: 'series-of-one' });
  });
export type TimesCriteria = z.input<typeof timesWanted>;

export const findTimes = defineEndpoint({
  name: 'openings.findTimes',
  method: 'post',
  path: '/openings/times',
  summary:
    'Find a time: by time, the first with each provider, how many on each day; for several people, a series or linked visits, times that hold together; where there is none, the fewest criteria to give up. Changes nothing.',
  access: { kind: 'role', action: 'openings.search' },
  body: timesWanted,
  output: z.strictObject({
    /** The first ones, by time. */
    times: z.array(time),
    more: z.boolean(),
    perProvider: z.array(time),
    counts: z.array(z.strictObject({ date: localDate, starts: z.number() })),
    /** Visits that hold together, in the order of the people, or of the series. */
    together: z.array(z.array(time)),
    /** The search stopped before it had tried everything. */
    gaveUp: z.boolean(),
    relaxations: z.array(z.strictObject({ giveUp: z.array(z.enum(RELAXATIONS)), first: time })),
  }),
  errors: ['NotFound', 'NotAllowed'],
});
export type TimesFound = z.output<typeof findTimes.output>;

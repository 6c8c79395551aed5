import { faultOfWords } from '@zaguan/core/invitations';
import type { InvitationLimits } from '@zaguan/core/openings';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { id, line, optionalLine } from '../setup/fields.ts';
import { defineRecords } from '../setup/record.ts';
import { localDate, wallMinute, weekday } from '../wire.ts';

const hours = z
  .strictObject({
    weekdays: z.array(weekday).min(1, { error: 'no-weekday' }).max(7),
    fromMinute: wallMinute.max(1435),
    toMinute: wallMinute.min(5),
  })
  .superRefine(({ fromMinute, toMinute }, check) => {
    if (toMinute < fromMinute) check.addIssue({ code: 'custom', path: ['toMinute'], message: 'across-midnight' });
    else if (toMinute === fromMinute) check.addIssue({ code: 'custom', path: ['toMinute'], message: 'empty-stretch' });
  });

const limits = {
  typeIds: z.array(id).min(1, { error: 'no-type' }).max(40),
  siteIds: z.array(id).min(1, { error: 'needed' }).max(200).nullable(),
  providerIds: z.array(id).min(1, { error: 'needed' }).max(200).nullable(),
  hours: z.array(hours).min(1, { error: 'needed' }).max(10).nullable(),
  fromDate: localDate.nullable(),
  untilDate: localDate.nullable(),
  /** Also times that are not shown online, and types that are not offered there. */
  deskTimesToo: z.boolean(),
};
/** What an invitation may book. */
export const invitationLimits = z.strictObject(limits);

const rules = {
  ...limits,
  /** How many visits may be booked with one of them. */
  uses: z.number().int().min(1, { error: 'too-small' }).max(20, { error: 'too-big' }),
  /** The last day on which it can be used is so many days after it was sent. */
  livesDays: z.number().int().min(1, { error: 'too-small' }).max(365, { error: 'too-big' }),
};

/** Words with a link, in which nothing in braces is left that nothing is filled in for. */
const words = (maxLength: number) =>
  z
    .string()
    .trim()
    .min(1, { error: 'needed' })
    .max(maxLength, { error: 'too-long' })
    .regex(/^(?:[^\p{Cc}]|\n)*$/u, { error: 'no-control-characters' })
    .superRefine((text, check) => {
      const fault = text ? faultOfWords(text) : null;
      if (fault) check.addIssue({ code: 'custom', message: fault.code });
    });

const inOneLanguage = z.strictObject({ text: words(480), subject: line(120), mail: words(2000) });
const inBoth = z.strictObject({ en: inOneLanguage, es: inOneLanguage });
export type InvitationWords = z.output<typeof inBoth>;

export const invitationTemplateDoc = z
  .strictObject({
    name: line(80),
    ...rules,
    /** Stands on the visit that is booked with it, and on the patient's page. */
    reason: optionalLine(120),
    words: inBoth,
    sortOrder: z.number().int().min(0).max(9999),
  })
  .superRefine(({ fromDate, untilDate }, check) => {
    if (fromDate !== null && untilDate !== null && untilDate < fromDate)
      check.addIssue({ code: 'custom', path: ['untilDate'], message: 'until-before-from' });
  });
export type InvitationTemplateDoc = z.output<typeof invitationTemplateDoc>;

export type InvitationRules = InvitationLimits & Pick<InvitationTemplateDoc, 'deskTimesToo' | 'uses' | 'livesDays'>;

export const invitationTemplates = defineRecords('invitation-template', invitationTemplateDoc, {
  view: 'recalls.view',
  edit: 'recalls.edit',
});

export const templateFinds = defineEndpoint({
  name: 'invitations.finds',
  method: 'post',
  path: '/invitations/finds',
  summary:
    'How many start times the holder of an invitation would find in the next three weeks, by site. Saves nothing.',
  access: { kind: 'role', action: 'recalls.view' },
  body: z.strictObject({
    rules: invitationLimits,
  }),
  output: z.strictObject({
    starts: z.number(),
    sites: z.array(z.strictObject({ siteId: id, starts: z.number(), first: localDate })),
    /** Types of it that nothing is found for. */
    without: z.array(id),
    /** It took too long, and nothing is known. */
    gaveUp: z.boolean(),
  }),
  errors: [],
});

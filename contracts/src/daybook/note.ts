import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { localDate, resourceId, siteId, undoable, version, wallMinute } from '../wire.ts';

/** On one line of a lane. */
export const LONGEST_NOTE = 200;

/** What stands on a day: of the whole site, of a lane, or of a stretch of either. */
const said = {
  text: z.string().trim().min(1, { error: 'needed' }).max(LONGEST_NOTE),
  /** Minutes of the site's clock; both or neither. */
  fromMinute: wallMinute.nullable(),
  toMinute: wallMinute.nullable(),
};
const inOrder = ({ fromMinute: from, toMinute: to }: { fromMinute: number | null; toMinute: number | null }) =>
  from === null || to === null ? from === to : from < to;
const ORDER = { error: 'ends-before-start', path: ['toMinute'] };

export const dayNote = z.strictObject({
  id: z.string(),
  text: z.string(),
  fromMinute: z.number().nullable(),
  toMinute: z.number().nullable(),
  /** Who of the staff wrote it last. */
  by: z.string(),
  version: z.number(),
});
export type DayNote = z.output<typeof dayNote>;

const id = z.uuid().brand<'DayNoteId'>();

export const writeNote = defineEndpoint({
  name: 'daybook.writeNote',
  method: 'post',
  path: '/daybook/notes',
  summary: 'Write a note on a day: for a site, a lane, or a stretch of it.',
  access: { kind: 'role', action: 'daybook.annotate' },
  body: z.strictObject({ siteId, resourceId: resourceId.nullable(), date: localDate, ...said }).refine(inOrder, ORDER),
  output: z.strictObject({ id: z.string(), undo: undoable }),
  errors: ['NotFound', 'NotAllowed'],
});

export const changeNote = defineEndpoint({
  name: 'daybook.changeNote',
  method: 'post',
  path: '/daybook/notes/:id',
  summary: 'Change what a note says, or when.',
  access: { kind: 'role', action: 'daybook.annotate' },
  params: z.strictObject({ id }),
  body: z.strictObject({ version, ...said }).refine(inOrder, ORDER),
  output: z.strictObject({ version: z.number(), undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile'],
});

export const removeNote = defineEndpoint({
  name: 'daybook.removeNote',
  method: 'post',
  path: '/daybook/notes/:id/remove',
  summary: 'Take a note off the day.',
  access: { kind: 'role', action: 'daybook.annotate' },
  params: z.strictObject({ id }),
  body: z.strictObject({ version }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile'],
});

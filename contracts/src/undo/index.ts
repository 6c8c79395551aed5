import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { instant, localDate, undoId } from '../wire.ts';

export const undo = defineEndpoint({
  name: 'undo.run',
  method: 'post',
  path: '/undo/:id',
  summary:
    'Take one act back, within 24 hours, through all rules; refused with the reason if what it touches has changed.',
  access: { kind: 'signed-in' },
  params: z.strictObject({ id: undoId }),
  output: z.strictObject({}),
  errors: [
    'UndoGone',
    'NotFound',
    'NotAllowed',
    'ChangedMeanwhile',
    'WrongStatus',
    'TimeTaken',
    'NotOffered',
    'ScheduleRefused',
    'DecidedAlready',
  ],
});

/** As many are listed: who has done more since looks for the visit itself. */
export const MOST_ACTS = 100;

export const listActs = defineEndpoint({
  name: 'undo.list',
  method: 'get',
  path: '/undo',
  summary: 'What the caller did within 24 hours and may still take back, the latest first.',
  access: { kind: 'signed-in' },
  output: z.strictObject({
    acts: z.array(
      z.strictObject({
        id: z.string(),
        /** What it was, for words. */
        what: z.string(),
        at: instant,
        /** The visit that it was about; `null`: it was about something else. */
        visit: z
          .strictObject({
            id: z.string(),
            date: localDate,
            start: instant,
            timeZone: z.string(),
            /** Family name first; "Restricted" where the record is not for the reader; empty while nobody knows who comes. */
            patient: z.string(),
          })
          .nullable(),
      }),
    ),
  }),
  errors: [],
  readsPatients: true,
});

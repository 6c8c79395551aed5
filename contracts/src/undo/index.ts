import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { undoId } from '../wire.ts';

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

import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { appointmentId, localDate, resourceId, siteId, undoable, wallMinute, weekday } from '../wire.ts';

/** Least notice: two weeks at most. */
export const MAX_NOTICE_MIN = 20_160;

/** When somebody would come sooner than they are booked; `null`: any. */
export const wishFields = {
  weekdays: z.array(weekday).min(1, { error: 'no-weekday' }).max(7).nullable(),
  fromMinute: wallMinute,
  toMinute: wallMinute,
  siteIds: z.array(siteId).min(1, { error: 'no-site' }).max(50).nullable(),
  providerIds: z.array(resourceId).min(1, { error: 'no-person' }).max(50).nullable(),
  fromDate: localDate.nullable(),
  untilDate: localDate.nullable(),
  /** Minutes before the start by which they must hear of it. */
  noticeMin: z.number().int().min(0).max(MAX_NOTICE_MIN, { error: 'too-big' }),
};

export const wish = z.strictObject(wishFields).superRefine(({ fromMinute, toMinute, fromDate, untilDate }, check) => {
  if (toMinute <= fromMinute) check.addIssue({ code: 'custom', path: ['toMinute'], message: 'across-midnight' });
  if (fromDate !== null && untilDate !== null && untilDate < fromDate)
    check.addIssue({ code: 'custom', path: ['untilDate'], message: 'until-before-from' });
});
export type Wish = z.output<typeof wish>;

/** Any time, on an hour's notice. */
export const ANY_WISH: Wish = {
  weekdays: null,
  fromMinute: 0,
  toMinute: 1440,
  siteIds: null,
  providerIds: null,
  fromDate: null,
  untilDate: null,
  noticeMin: 60,
};

/** A wish as it is shown. */
export const wishRow = z.strictObject({
  ...wishFields,
  siteIds: z.array(z.string()).nullable(),
  providerIds: z.array(z.string()).nullable(),
  id: z.string(),
  appointmentId: z.string().nullable(),
  visitType: z.string(),
});
export type WishRow = z.output<typeof wishRow>;

export const wishesOfVisit = defineEndpoint({
  name: 'desk.wishesOfVisit',
  method: 'get',
  path: '/desk/visits/:id/wishes',
  summary: 'When the patient of a visit would come sooner.',
  access: { kind: 'role', action: 'appointment.book' },
  params: z.strictObject({ id: appointmentId }),
  output: z.strictObject({ wishes: z.array(wishRow) }),
  errors: ['NotFound', 'NotAllowed'],
  readsPatients: true,
});

export const endWish = defineEndpoint({
  name: 'desk.endWish',
  method: 'post',
  path: '/desk/wishes/:id/end',
  summary: 'Note that somebody no longer wants to come sooner.',
  access: { kind: 'role', action: 'appointment.book' },
  params: z.strictObject({ id: z.uuid() }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed'],
});

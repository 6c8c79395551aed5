import { z } from 'zod';
import { access, id, line, slug } from './fields.ts';
import { defineRecords } from './record.ts';

/** A room, a chair or a device at one site. */
export const placeDoc = z
  .strictObject({
    kind: z.enum(['room', 'equipment']),
    name: line(60),
    shortName: line(30),
    siteId: id,
    /** The pool it belongs to, if visits ask for one of its like. */
    poolId: id.nullable(),
    /** Visits at the same moment. */
    places: z.number().int().min(1).max(50),
    singleDevice: z.boolean(),
    shownInDaybook: z.boolean(),
    /** Nobody whose visit stands here is reminded of it (a lane for parking). */
    leftOutOfMessages: z.boolean(),
    /** What a room has beside what its site has. */
    access,
    sortOrder: z.number().int().min(0).max(9999),
  })
  .superRefine((place, check) => {
    if (place.singleDevice && place.places > 1)
      check.addIssue({ code: 'custom', path: ['places'], message: 'device-serves-one' });
  });
export type PlaceDoc = z.output<typeof placeDoc>;

export const places = defineRecords('place', placeDoc, { view: 'setup.view', edit: 'setup.edit' });

/** Like resources at one site of which a visit needs one. */
export const poolDoc = z
  .strictObject({
    siteId: id,
    /** What visit types ask for, the same at all sites: `exam-room`. */
    kind: slug,
    name: line(60),
    memberIds: z.array(id).max(100),
    shownInDaybook: z.boolean(),
    sortOrder: z.number().int().min(0).max(9999),
  })
  .superRefine((pool, check) => {
    if (new Set(pool.memberIds).size !== pool.memberIds.length)
      check.addIssue({ code: 'custom', path: ['memberIds'], message: 'twice' });
  });
export type PoolDoc = z.output<typeof poolDoc>;

export const pools = defineRecords('pool', poolDoc, { view: 'setup.view', edit: 'setup.edit' });

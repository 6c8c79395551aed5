import { defineEntity, type InferEntity, p } from '@mikro-orm/core';
import type { PatientKind, SessionCap } from '@zaguan/core/availability';

/** Recurring working hours. Array columns are read and written as PostgreSQL arrays. */
export const WorkingHoursEntity = defineEntity({
  name: 'WorkingHours',
  tableName: 'working_hours',
  properties: {
    id: p.uuid().primary(),
    resourceId: p.uuid().nullable(),
    siteId: p.uuid(),
    weekdays: p
      .array<number>(
        (text) => Number(text),
        (value) => String(value),
      )
      .columnType('smallint[]'),
    everyWeeks: p.smallint(),
    anchorDate: p.date(),
    effectiveFrom: p.date(),
    effectiveUntil: p.date().nullable(),
    fromMinute: p.smallint(),
    toMinute: p.smallint(),
    places: p.smallint(),
    acceptsTypeIds: p.array<string>().columnType('uuid[]').nullable(),
    acceptsKinds: p.array<PatientKind>().columnType('text[]').nullable(),
    invitedOnly: p.boolean(),
    online: p.boolean(),
    caps: p.json<SessionCap[]>(),
    version: p.integer(),
    createdAt: p.datetime(),
    createdBy: p.uuid().nullable(),
  },
});
export type WorkingHours = InferEntity<typeof WorkingHoursEntity>;

import { addDays, type LocalDate } from '@zaguan/core/time';
import type { Row } from './rows.ts';

/** What the clinic and its excerpt leave as it usually is; each row says only where it differs. */

/** A weekly rule's columns, in force since the history began. */
export function ruleFrom(since: LocalDate) {
  return (weekdays: readonly number[], everyWeeks = 1): Row => ({
    weekdays,
    every_weeks: everyWeeks,
    anchor_date: since,
    effective_from: since,
    effective_until: null,
  });
}
export type RuleOf = ReturnType<typeof ruleFrom>;

/** Working hours that take everyone, one at a time, and are shown online. */
export function defaultHours(today: LocalDate): Row {
  return {
    pool_id: null,
    accepts_type_ids: null,
    accepts_kinds: null,
    invited_only: false,
    online: true,
    places: 1,
    follows_site_hours: false,
    preferred_room_ids: [],
    release_before_min: null,
    release_type_ids: null,
    release_kinds: null,
    release_invited_only: false,
    release_online: true,
    caps: [],
    version: 1,
    created_at: `${addDays(today, -200)}T12:00:00Z`,
    created_by: null,
  };
}

/** An online policy of a visit type, at all sites, for all providers. */
export const DEFAULT_POLICY: Row = {
  site_id: null,
  provider_id: null,
  offered: true,
  kinds: null,
  lead_min: null,
  lead_working_days: null,
  lead_by_minute: null,
  window_days: 90,
  grid_min: 10,
  approval: null,
  show_length: true,
};

/** A person, room or device that is in use, shown and bookable. */
export const DEFAULT_RESOURCE: Row = {
  bookable_online: true,
  shown_in_daybook: true,
  left_out_of_messages: false,
  single_device: false,
  active: true,
};

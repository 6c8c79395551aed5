import type { WeeklyRule } from '../recurrence/index.ts';
import type { EpochMinute, LocalDate, WallMinute, ZoneId } from '../time/index.ts';

/** Never (or not within 36 months) fulfilled a visit here is new; otherwise established (common practice). */
export type PatientKind = 'new' | 'established';

/** What a stretch of working hours accepts. `null` means all. */
export interface Accepts {
  readonly visitTypeIds: readonly string[] | null;
  readonly kinds: readonly PatientKind[] | null;
  readonly invitedOnly: boolean;
}

/** From `beforeMin` minutes before each start the hours accept this wider set instead. */
export interface Release {
  readonly beforeMin: number;
  readonly accepts: Accepts;
  readonly online: boolean;
}

/** "At most n of these in this half-day": counted over visits of the stretch's resource that start inside it. */
export interface HoursCap {
  readonly visitTypeId: string | null;
  readonly kind: PatientKind | null;
  readonly max: number;
}

/** Whose hours: one resource, or every member of a pool. */
export interface Subject {
  readonly of: 'resource' | 'pool';
  readonly id: string;
}

/** Recurring working hours at one site, in the site's wall-clock time. */
export interface WorkingHours {
  readonly id: string;
  readonly subject: Subject;
  readonly siteId: string;
  readonly rule: WeeklyRule;
  /** True: works whenever the site is open on those days; `fromMinute` and `toMinute` are then not used. */
  readonly followsSiteHours: boolean;
  readonly fromMinute: WallMinute;
  readonly toMinute: WallMinute;
  /** How many visits at the same moment. */
  readonly places: number;
  readonly accepts: Accepts;
  readonly online: boolean;
  readonly release: Release | null;
  readonly caps: readonly HoursCap[];
  /** Rooms to be taken first for visits in these hours, while one is free. */
  readonly preferredRoomIds?: readonly string[];
}

/** What a single-date change puts in place of (or beside) recurring hours. */
export interface DateHours {
  readonly siteId: string;
  readonly fromMinute: WallMinute;
  readonly toMinute: WallMinute;
  readonly places: number;
  readonly accepts: Accepts;
  readonly online: boolean;
}

/**
 * A single-date change, keyed by (session, original date). `hours: null` cancels that date; with
 * `workingHoursId: null` it is an extra stretch.
 */
export interface DateChange {
  readonly id: string;
  readonly subject: Subject;
  readonly workingHoursId: string | null;
  readonly date: LocalDate;
  readonly hours: DateHours | null;
}

/** The provider is away. Wall-clock, read in the zone of the hours it touches; `siteId: null` means everywhere. */
export interface TimeOff {
  readonly id: string;
  readonly resourceId: string;
  readonly siteId: string | null;
  readonly startDate: LocalDate;
  readonly startMinute: WallMinute;
  readonly endDate: LocalDate;
  readonly endMinute: WallMinute;
  /** Who sees their patients meanwhile; the hours for it are extra hours of theirs. */
  readonly coverId?: string | null;
}

/** The whole site is shut; same wall-clock shape as time off. */
export interface Closure {
  readonly id: string;
  readonly siteId: string;
  readonly startDate: LocalDate;
  readonly startMinute: WallMinute;
  readonly endDate: LocalDate;
  readonly endMinute: WallMinute;
}

/** A stretch without visits, once or recurring. Always subtracts; beats the brush. */
export interface KeptFree {
  readonly id: string;
  readonly resourceId: string;
  readonly siteId: string | null;
  readonly rule: WeeklyRule;
  readonly fromMinute: WallMinute;
  readonly toMinute: WallMinute;
}

/** One stroke of the brush. It belongs to a date, not to hours, and replaces only the online bit. */
export interface BrushStroke {
  readonly id: string;
  readonly resourceId: string;
  readonly siteId: string;
  readonly date: LocalDate;
  readonly fromMinute: WallMinute;
  readonly toMinute: WallMinute;
  readonly value: 'shown' | 'desk-only' | 'by-rule';
  /** Order of painting; the greatest wins. */
  readonly order: number;
}

/** A stretch of the site's weekly opening hours. */
export interface SiteHours {
  readonly id: string;
  readonly siteId: string;
  readonly rule: WeeklyRule;
  readonly fromMinute: WallMinute;
  readonly toMinute: WallMinute;
}

export interface Site {
  readonly id: string;
  readonly zone: ZoneId;
  /** False takes the whole site out of self-booking. */
  readonly bookableOnline: boolean;
  /** What the whole site has for people who could not come otherwise (`ACCESS`). */
  readonly access?: readonly string[];
}

export type ResourceKind = 'provider' | 'staff' | 'room' | 'equipment';

export interface Resource {
  readonly id: string;
  readonly kind: ResourceKind;
  /** False takes a provider out of self-booking. */
  readonly bookableOnline: boolean;
  /** What this person is able to do, for presence rules (e.g. `treats-anaphylaxis`). */
  readonly capabilities: readonly string[];
  /** Spoken with patients (ISO 639-1). */
  readonly languages?: readonly string[];
  /** `false`: new patients do not find this provider online. */
  readonly acceptsNew?: boolean;
  /** Visits at once in a room or device that has no hours of its own; 1 if not said. */
  readonly places?: number;
  /** What a room has beside what its site has (`ACCESS`). */
  readonly access?: readonly string[];
}

/** A set of like resources at one site of which a visit needs one. */
export interface Pool {
  readonly id: string;
  readonly siteId: string;
  /** What visit types ask for, e.g. `exam-room`. */
  readonly kind: string;
  readonly memberIds: readonly string[];
}

/**
 * A stretch in which a resource is taken once, by a visit, a hold or an imported busy time. Which of several places it
 * has is nobody's concern: what counts is how many there are at once.
 */
export interface Occupied {
  readonly resourceId: string;
  readonly start: EpochMinute;
  readonly end: EpochMinute;
  /** The visit, hold or imported busy time it belongs to. */
  readonly visitId: string;
}

import type {
  BrushStroke,
  Closure,
  DateChange,
  KeptFree,
  Occupied,
  PatientKind,
  Pool,
  Resource,
  WorkingHours,
  Site,
  SiteHours,
  TimeOff,
} from '../availability/index.ts';
import type { BookedVisit, VisitType } from '../visits/index.ts';
import type { PayerRule } from './payerTerms.ts';

/** Online policy at one level; a `null` scalar leaves it to the next wider level. */
export interface OnlinePolicy {
  readonly id: string;
  readonly visitTypeId: string;
  readonly siteId: string | null;
  readonly providerId: string | null;
  readonly offered: boolean | null;
  readonly kinds: readonly PatientKind[] | null;
  /** Least notice in minutes before the start. */
  readonly leadMin: number | null;
  /** Least notice as "by `leadByMinute` on the n-th working day before". */
  readonly leadWorkingDays: number | null;
  readonly leadByMinute: number | null;
  /** How many days after today's local date may be booked, included. */
  readonly windowDays: number | null;
  /** Start times lie on multiples of this many minutes after midnight. */
  readonly gridMin: number | null;
  readonly approval?: 'none' | 'new' | 'all' | null;
  readonly showLength?: boolean | null;
}

/** A limit by date of the start at the site. A `null` id means "each one separately". */
export interface Cap {
  readonly id: string;
  readonly bucket: 'provider-day' | 'provider-type-day' | 'site-type-day' | 'provider-self-day';
  readonly providerId: string | null;
  readonly siteId: string | null;
  readonly visitTypeId: string | null;
  readonly max: number;
}

/** Minutes a provider needs from one site to another. */
export interface Travel {
  readonly fromSiteId: string;
  readonly toSiteId: string;
  readonly minutes: number;
}

/** Everything that is planned: how the clinic is set up, without what is booked. */
export interface ClinicPlan {
  readonly sites: readonly Site[];
  readonly siteHours: readonly SiteHours[];
  readonly closures: readonly Closure[];
  readonly resources: readonly Resource[];
  readonly pools: readonly Pool[];
  readonly workingHours: readonly WorkingHours[];
  readonly dateChanges: readonly DateChange[];
  readonly timeOff: readonly TimeOff[];
  readonly keptFree: readonly KeptFree[];
  readonly brush: readonly BrushStroke[];
  readonly visitTypes: readonly VisitType[];
  readonly policies: readonly OnlinePolicy[];
  readonly caps: readonly Cap[];
  readonly travel: readonly Travel[];
  readonly payerRules: readonly PayerRule[];
}

/**
 * Everything a search may know, as plain values. The caller loads it complete for the dates asked for (one day
 * more at both ends, for zones) and passes the time in; the search asks nothing back.
 */
export interface ClinicSnapshot extends ClinicPlan {
  readonly occupied: readonly Occupied[];
  readonly visits: readonly BookedVisit[];
}

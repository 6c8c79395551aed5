import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { ROLES } from '../roles.ts';
import { undoable, unreadableRows, version, wallMinute } from '../wire.ts';

/** Which lanes are drawn: people, rooms and equipment, or both. */
export const LANE_SETS = ['people', 'places', 'both'] as const;
export type LaneSet = (typeof LANE_SETS)[number];
/** As the clinic lists them, by name, or by whose hours begin first. */
export const LANE_ORDERS = ['setup', 'name', 'first-hours'] as const;
/** Time across, each lane a row; or time down, each lane a column. */
export const AXES = ['across', 'down'] as const;
export type Axis = (typeof AXES)[number];
/** The usual hours and what lies outside of them; from the day's first hours to its last; or always the same. */
export const HOURS_SHOWN = ['usual', 'first', 'fixed'] as const;
/** How much wider than "the whole day fits" an hour is drawn. */
export const ZOOMS = [1, 1.5, 2, 3, 4] as const;
export const DENSITIES = ['clinic', 'roomy', 'dense'] as const;
/** What a visit shows behind the name, where there is room. The name and what needs an eye are always shown. */
export const PLATE_DETAILS = ['type', 'reason', 'time', 'length', 'origin', 'kind', 'provider'] as const;
export type PlateDetail = (typeof PLATE_DETAILS)[number];
/** What a visit's color says. */
export const COLORED_BY = ['type', 'status', 'provider', 'origin', 'readiness'] as const;
export type ColoredBy = (typeof COLORED_BY)[number];
/** What stands in a lane's head. */
export const LANE_TOTALS = ['share', 'visits', 'booked', 'open', 'fees'] as const;
export type LaneTotal = (typeof LANE_TOTALS)[number];
/** An hour is never drawn narrower than this, in pixels: it scrolls instead. */
export const LEAST_HOUR_PX = { min: 60, max: 400, usual: 75 } as const;

const MOST_LANES = 200;
const eachOnce = <T extends string>(of: readonly [T, ...T[]]) =>
  z
    .array(z.enum(of))
    .max(of.length)
    .refine((list) => new Set(list).size === list.length, { error: 'listed-twice' });

/** How the Daybook is drawn. */
export const viewSettings = z
  .strictObject({
    axis: z.enum(AXES),
    lanes: z.enum(LANE_SETS),
    order: z.enum(LANE_ORDERS),
    /** These lanes alone, in this order; `null`: all. */
    only: z
      .array(z.uuid())
      .min(1, { error: 'no-lane' })
      .max(MOST_LANES)
      .refine((ids) => new Set(ids).size === ids.length, { error: 'listed-twice' })
      .nullable(),
    inUseOnly: z.boolean(),
    hours: z.enum(HOURS_SHOWN),
    /** Of the site's clock; for fixed hours alone. */
    fromMinute: wallMinute.nullable(),
    toMinute: wallMinute.nullable(),
    zoom: z.literal([...ZOOMS]),
    leastHourPx: z.number().int().min(LEAST_HOUR_PX.min).max(LEAST_HOUR_PX.max),
    density: z.enum(DENSITIES),
    details: eachOnce(PLATE_DETAILS),
    coloredBy: z.enum(COLORED_BY),
    totals: eachOnce(LANE_TOTALS),
    namesHidden: z.boolean(),
    /** Whether pointing at a visit shows what it has no room for. */
    card: z.boolean(),
  })
  .refine(({ hours, fromMinute, toMinute }) => hours !== 'fixed' || (fromMinute !== null && toMinute !== null), {
    error: 'needed',
    path: ['fromMinute'],
  })
  .refine(
    ({ fromMinute, toMinute }) => fromMinute === null || toMinute === null || toMinute - fromMinute >= 60,
    // Less than an hour is no day to look at.
    { error: 'at-least-an-hour', path: ['toMinute'] },
  );
export type ViewSettings = z.output<typeof viewSettings>;

/** The Daybook where no other way of drawing it was chosen. */
export const STANDARD_VIEW: ViewSettings = {
  ...{ axis: 'across', lanes: 'people', order: 'setup', only: null, inUseOnly: true },
  ...{ hours: 'usual', fromMinute: null, toMinute: null },
  ...{ zoom: 1, leastHourPx: LEAST_HOUR_PX.usual, density: 'clinic' },
  ...{ details: ['type', 'origin'], coloredBy: 'type', totals: ['share'], namesHidden: false, card: true },
};

export const VIEW_SCOPES = ['personal', 'site', 'shared'] as const;
export type ViewScope = (typeof VIEW_SCOPES)[number];

/** The number key that draws the Daybook so. */
const hotkey = z.number().int().min(1).max(9);

const said = {
  name: z.string().trim().min(1, { error: 'needed' }).max(40),
  scope: z.enum(VIEW_SCOPES),
  /** Whose it is, if it is a site's. */
  siteId: z.uuid().nullable(),
  hotkey: hotkey.nullable(),
  settings: viewSettings,
};
const hasItsSite = ({ scope, siteId: site }: { scope: ViewScope; siteId: string | null }) =>
  (scope === 'site') === (site !== null);
const SITE = { error: 'needed', path: ['siteId'] };

const id = z.uuid().brand<'DaybookViewId'>();

const view = z.strictObject({
  ...said,
  id: z.string(),
  version: z.number(),
  /** Whether the reader may change it. */
  mayChange: z.boolean(),
});
export type DaybookView = z.output<typeof view>;

export const daybookViews = defineEndpoint({
  name: 'daybook.views',
  method: 'get',
  path: '/daybook-views',
  summary: 'The ways of drawing the Daybook that the caller can choose from: their own, their sites’, everyone’s.',
  access: { kind: 'role', action: 'daybook.view' },
  output: z.strictObject({
    /** In the order in which they are listed: own, sites’, shared. */
    views: z.array(view),
    /** With which one each role begins; a role that is missing begins with the standard one. */
    defaults: z.array(z.strictObject({ role: z.enum(ROLES), viewId: z.string() })),
    unreadable: unreadableRows,
  }),
  errors: [],
});

export const daybookLanes = defineEndpoint({
  name: 'daybook.lanes',
  method: 'get',
  path: '/daybook-lanes',
  summary: 'Whoever and whatever has a lane at a site that the caller may see.',
  access: { kind: 'role', action: 'daybook.view' },
  output: z.strictObject({
    lanes: z.array(z.strictObject({ resourceId: z.string(), name: z.string(), siteIds: z.array(z.string()) })),
  }),
  errors: [],
});

const stands = { version: z.number(), undo: undoable };

export const saveView = defineEndpoint({
  name: 'daybook.saveView',
  method: 'post',
  path: '/daybook-views',
  summary: 'Keep a way of drawing the Daybook: for oneself, a site, or everyone.',
  access: { kind: 'role', action: 'daybook.view' },
  body: z.strictObject(said).refine(hasItsSite, SITE),
  output: z.strictObject({ id: z.string(), ...stands }),
  errors: ['NotFound', 'NotAllowed', 'InvalidInput'],
});

export const changeView = defineEndpoint({
  name: 'daybook.changeView',
  method: 'post',
  path: '/daybook-views/:id',
  summary: 'Change a way of drawing the Daybook.',
  access: { kind: 'role', action: 'daybook.view' },
  params: z.strictObject({ id }),
  body: z.strictObject({ version, ...said }).refine(hasItsSite, SITE),
  output: z.strictObject(stands),
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile', 'InvalidInput'],
});

export const removeView = defineEndpoint({
  name: 'daybook.removeView',
  method: 'post',
  path: '/daybook-views/:id/remove',
  summary: 'Take a way of drawing the Daybook off the list.',
  access: { kind: 'role', action: 'daybook.view' },
  params: z.strictObject({ id }),
  body: z.strictObject({ version }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile'],
});

export const orderViews = defineEndpoint({
  name: 'daybook.orderViews',
  method: 'post',
  path: '/daybook-view-order',
  summary: 'The order in which one’s own, a site’s or everyone’s ways of drawing the Daybook are listed.',
  access: { kind: 'role', action: 'daybook.view' },
  body: z.strictObject({ ids: z.array(id).min(1).max(100) }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'InvalidInput'],
});

export const setDefaultView = defineEndpoint({
  name: 'daybook.setDefaultView',
  method: 'post',
  path: '/daybook-view-default',
  summary: 'With which shared way of drawing the Daybook a role begins.',
  access: { kind: 'role', action: 'daybook.share-views' },
  body: z.strictObject({ role: z.enum(ROLES), viewId: id.nullable() }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed'],
});

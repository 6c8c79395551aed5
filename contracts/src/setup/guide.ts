import { REACH_CODES } from '@zaguan/core/setup';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { patientKind, undoable } from '../wire.ts';
import { id } from './fields.ts';
import { SETUP_KINDS } from './record.ts';
import { visitTypeDoc } from './visitType.ts';

export const GUIDE_STEPS = ['people', 'sites', 'hours', 'rooms', 'visit-types', 'online', 'messages', 'forms'] as const;
export type GuideStep = (typeof GUIDE_STEPS)[number];

const facts = z.record(z.string(), z.union([z.string(), z.number(), z.boolean(), z.null()]));

const gap = z.strictObject({
  code: z.string(),
  /** Without it nothing later works; otherwise only something does not. */
  blocks: z.boolean(),
  /** Where it is put right: the kind of record, which one, which field of it. */
  kind: z.enum([...SETUP_KINDS, 'hours', 'guide']),
  id: z.string().nullable(),
  field: z.string().nullable(),
  facts,
});
export type GuideGap = z.output<typeof gap>;

export const setupGuide = defineEndpoint({
  name: 'setup.guide',
  method: 'get',
  path: '/setup/guide',
  summary: 'What is set up, what is missing, what each gap blocks, and whom patients can book online now.',
  access: { kind: 'role', action: 'setup.view' },
  output: z.strictObject({
    online: z.array(z.strictObject({ siteName: z.string(), providers: z.array(z.string()), first: z.string() })),
    /** Sites with types that need no provider. */
    withoutProvider: z.array(z.strictObject({ siteName: z.string(), types: z.array(z.string()) })),
    notOnline: z.array(
      z.strictObject({
        id: z.string(),
        name: z.string(),
        code: z.enum(REACH_CODES),
        facts,
        field: z.string().nullable(),
      }),
    ),
    steps: z.array(
      z.strictObject({
        step: z.enum(GUIDE_STEPS),
        state: z.enum(['done', 'gaps', 'missing']),
        count: z.number().int(),
        gaps: z.array(gap),
      }),
    ),
  }),
  errors: [],
});

const paper = z.strictObject({ id: z.string(), title: z.string() });

export const papers = defineEndpoint({
  name: 'setup.papers',
  method: 'get',
  path: '/setup/papers',
  summary: 'Forms and consents that a packet may ask for.',
  access: { kind: 'role', action: 'setup.view' },
  output: z.strictObject({ forms: z.array(paper), consents: z.array(paper) }),
  errors: [],
});

const draft = z.strictObject({ id, doc: visitTypeDoc });
const fault = z.strictObject({ path: z.string(), code: z.string(), facts });

export const previewVisitType = defineEndpoint({
  name: 'setup.previewVisitType',
  method: 'post',
  path: '/setup/visit-type/preview',
  summary: 'What a visit type as drafted would have next week at each site: start times and places. Nothing is saved.',
  access: { kind: 'role', action: 'setup.view' },
  body: draft,
  output: z.strictObject({
    from: z.string(),
    until: z.string(),
    sites: z.array(
      z.strictObject({
        siteId: z.string(),
        name: z.string(),
        starts: z.number().int(),
        places: z.number().int(),
        /** The rule that hides most where there is none. */
        hiddenBy: z.string().nullable(),
      }),
    ),
    faults: z.array(fault),
  }),
  errors: [],
});

export const previewOnline = defineEndpoint({
  name: 'setup.previewOnline',
  method: 'post',
  path: '/setup/visit-type/preview-online',
  summary: 'What patients would see today of a visit type as drafted, by site and kind of patient. Nothing is saved.',
  access: { kind: 'role', action: 'setup.view' },
  body: draft,
  output: z.strictObject({
    rows: z.array(
      z.strictObject({
        siteId: z.string(),
        name: z.string(),
        timeZone: z.string(),
        kind: patientKind,
        starts: z.number().int(),
        days: z.number().int(),
        first: z.string().nullable(),
        firstProvider: z.string().nullable(),
        hiddenBy: z.string().nullable(),
      }),
    ),
  }),
  errors: [],
});

export const openOnline = defineEndpoint({
  name: 'setup.openOnline',
  method: 'post',
  path: '/setup/online/open',
  summary: 'Turn online booking on for sites, providers and visit types in one act; answers what patients see then.',
  access: { kind: 'role', action: 'setup.edit' },
  body: z.strictObject({
    siteIds: z.array(id).min(1, { error: 'no-site' }).max(50),
    providerIds: z.array(id).max(100),
    visitTypeIds: z.array(id).min(1, { error: 'no-type' }).max(50),
  }),
  output: z.strictObject({
    /** Start times that patients see in the coming two weeks which they did not see before. */
    gained: z.number().int(),
    silent: z.array(z.strictObject({ name: z.string(), siteName: z.string(), code: z.string() })),
    undo: undoable,
  }),
  errors: ['NotFound', 'ChangedMeanwhile', 'SetupRefused', 'AgreementNeeded'],
});

/** Larger files of closures are refused unread. */
export const MAX_CALENDAR_BYTES = 1_000_000;

export const readClosures = defineEndpoint({
  name: 'setup.readClosures',
  method: 'post',
  path: '/setup/closures/read',
  summary:
    'Read closures out of an iCalendar file for a site, with what could not be read line by line. Nothing is saved.',
  access: { kind: 'role', action: 'setup.edit' },
  bodyLimit: MAX_CALENDAR_BYTES + 50_000,
  body: z.strictObject({
    timeZone: z.string().max(60),
    calendar: z.string().max(MAX_CALENDAR_BYTES, { error: 'calendar-too-large' }),
  }),
  output: z.strictObject({
    closures: z.array(
      z.strictObject({
        startDate: z.string(),
        startMinute: z.number(),
        endDate: z.string(),
        endMinute: z.number(),
        reason: z.string(),
        uid: z.string().nullable(),
      }),
    ),
    refused: z.array(z.strictObject({ at: z.number(), summary: z.string(), code: z.string(), detail: z.string() })),
  }),
  errors: ['SetupRefused'],
});

import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { FIELD_KINDS } from '@zaguan/core/setup';
import { language, localDate, patientKind, payerId, siteId, visitTypeId } from '../wire.ts';

const site = z.strictObject({
  id: z.string(),
  name: z.string(),
  address: z.string(),
  city: z.string(),
  phone: z.string(),
  timeZone: z.string(),
  directions: z.string(),
});
export type PublicSite = z.output<typeof site>;

export const publicClinic = defineEndpoint({
  name: 'clinic.publicClinic',
  method: 'get',
  path: '/public/clinic',
  summary: 'The clinic and the sites at which patients may book for themselves.',
  access: { kind: 'public', limit: 'read' },
  query: z.strictObject({ language }),
  output: z.strictObject({
    name: z.string(),
    phone: z.string(),
    now: z.string(),
    sites: z.array(site),
    /** Whom a visit may be billed to; empty where that is not asked online. */
    payers: z.array(z.strictObject({ id: z.string(), name: z.string() })),
  }),
  errors: [],
});

const question = z.strictObject({
  id: z.string(),
  kind: z.enum(FIELD_KINDS),
  label: z.string(),
  required: z.boolean(),
  /** The value of a choice is its English text, whatever language it was chosen in. */
  choices: z.array(z.strictObject({ value: z.string(), label: z.string() })),
});
export type Question = z.output<typeof question>;

export const publicVisitTypes = defineEndpoint({
  name: 'clinic.publicVisitTypes',
  method: 'get',
  path: '/public/visit-types',
  summary: 'Visit types offered online at a site to new or established patients.',
  access: { kind: 'public', limit: 'read' },
  query: z.strictObject({ siteId, kind: patientKind, language }),
  output: z.strictObject({
    visitTypes: z.array(
      z.strictObject({
        id: z.string(),
        name: z.string(),
        description: z.string(),
        /** `null`: patients are not told. */
        lengthMin: z.number().nullable(),
        needsProvider: z.boolean(),
        mode: z.string(),
        preparation: z.string(),
        priceNote: z.string(),
        /** What people usually come for: one press instead of typing. */
        reasons: z.array(z.string()),
        /** What the clinic asks before this type is booked. */
        questions: z.array(question),
      }),
    ),
  }),
  errors: ['NotFound'],
});

export const publicPayer = defineEndpoint({
  name: 'clinic.publicPayer',
  method: 'get',
  path: '/public/payers/:payerId',
  summary: 'Whether a payer is accepted for a visit type at a site, and what it asks for first.',
  access: { kind: 'public', limit: 'read' },
  params: z.strictObject({ payerId }),
  query: z.strictObject({ siteId, visitTypeId }),
  output: z.strictObject({ accepted: z.boolean(), referral: z.boolean(), authorization: z.boolean() }),
  errors: ['NotFound'],
});

export const publicProviders = defineEndpoint({
  name: 'clinic.publicProviders',
  method: 'get',
  path: '/public/providers',
  summary: 'Providers with whom a visit type can be booked online at a site.',
  access: { kind: 'public', limit: 'read' },
  query: z.strictObject({ siteId, visitTypeId, kind: patientKind, language }),
  output: z.strictObject({
    providers: z.array(
      z.strictObject({
        id: z.string(),
        name: z.string(),
        credentials: z.string(),
        bio: z.string(),
        languages: z.array(z.string()),
        firstDate: localDate.nullable(),
      }),
    ),
  }),
  errors: ['NotFound'],
});

export const staffClinic = defineEndpoint({
  name: 'clinic.staffClinic',
  method: 'get',
  path: '/clinic',
  summary: 'Sites, people and visit types, as the staff name them.',
  access: { kind: 'signed-in' },
  output: z.strictObject({
    name: z.string(),
    phone: z.string(),
    now: z.string(),
    baseUnitMin: z.number(),
    density: z.enum(['roomy', 'dense']),
    /** The rule for patients who come late: from how many minutes on, and what is done then. */
    lateAfterMin: z.number().nullable(),
    lateRule: z.string(),
    /** Spoken with patients by anyone (ISO 639-1). */
    languages: z.array(z.string()),
    payers: z.array(z.strictObject({ id: z.string(), name: z.string() })),
    sites: z.array(z.strictObject({ id: z.string(), name: z.string(), timeZone: z.string() })),
    people: z.array(
      z.strictObject({
        id: z.string(),
        name: z.string(),
        shortName: z.string(),
        kind: z.enum(['provider', 'staff']),
        credentials: z.string(),
        color: z.string().nullable(),
        siteIds: z.array(z.string()),
      }),
    ),
    visitTypes: z.array(
      z.strictObject({
        id: z.string(),
        name: z.string(),
        color: z.string(),
        lengthMin: z.number(),
        needsProvider: z.boolean(),
        /** In whole US dollars; `null`: nobody said. */
        expectedFeeUsd: z.number().nullable(),
      }),
    ),
  }),
  errors: [],
});

import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { language, localDate, patientKind, siteId, visitTypeId } from '../wire.ts';

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
  output: z.strictObject({ name: z.string(), phone: z.string(), now: z.string(), sites: z.array(site) }),
  errors: [],
});

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
        lengthMin: z.number(),
        needsProvider: z.boolean(),
        mode: z.string(),
      }),
    ),
  }),
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
    now: z.string(),
    sites: z.array(z.strictObject({ id: z.string(), name: z.string(), timeZone: z.string() })),
    people: z.array(
      z.strictObject({
        id: z.string(),
        name: z.string(),
        shortName: z.string(),
        kind: z.enum(['provider', 'staff']),
        credentials: z.string(),
        siteIds: z.array(z.string()),
      }),
    ),
    visitTypes: z.array(
      z.strictObject({
        id: z.string(),
        name: z.string(),
        colour: z.string(),
        lengthMin: z.number(),
        needsProvider: z.boolean(),
      }),
    ),
  }),
  errors: [],
});

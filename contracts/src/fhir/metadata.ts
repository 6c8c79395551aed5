import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';

export const metadata = defineEndpoint({
  name: 'fhir.metadata',
  method: 'get',
  path: '/fhir/metadata',
  summary: 'What this server can do, as a FHIR R4 CapabilityStatement. Open to everyone, as the standard has it.',
  access: { kind: 'public', limit: 'read' },
  answers: 'fhir',
  output: z.looseObject({ resourceType: z.literal('CapabilityStatement') }),
  errors: [],
});

import type { Endpoint } from '@zaguan/contracts';
import { ERROR_STATUS, errorBody, refusalsOf } from '@zaguan/contracts';
import { createDocument, type ZodOpenApiPathsObject } from 'zod-openapi';

function describeAccess(endpoint: Endpoint): string {
  if (endpoint.access.kind === 'public') return `Public, limited (${endpoint.access.limit}).`;
  return endpoint.access.kind === 'role' ? `Needs the right \`${endpoint.access.action}\`.` : 'Needs a session.';
}

const MEDIA = {
  json: 'application/json',
  calendar: 'text/calendar',
  stream: 'text/event-stream',
  pdf: 'application/pdf',
  fhir: 'application/fhir+json',
} as const;

/** The API's description (OpenAPI 3.1), made from the same contracts that the server mounts. */
export function openApiDocument(endpoints: readonly Endpoint[]): ReturnType<typeof createDocument> {
  const paths: ZodOpenApiPathsObject = {};
  for (const endpoint of endpoints) {
    const path = endpoint.path.replace(/:(\w+)/g, '{$1}');
    const refusals = refusalsOf(endpoint);
    const statuses = [...new Set(refusals.map((tag) => ERROR_STATUS[tag]))];
    paths[path] = {
      ...paths[path],
      [endpoint.method]: {
        operationId: endpoint.name,
        summary: endpoint.summary,
        description: `${describeAccess(endpoint)} Refusals: ${refusals.join(', ')}.`,
        tags: [endpoint.name.split('.')[0]],
        requestParams: {
          ...(endpoint.params && { path: endpoint.params as never }),
          ...(endpoint.query && { query: endpoint.query as never }),
        },
        ...(endpoint.body && { requestBody: { content: { 'application/json': { schema: endpoint.body } } } }),
        responses: {
          '200': {
            description: 'Done.',
            content: { [MEDIA[endpoint.answers ?? 'json']]: { schema: endpoint.output } },
          },
          ...Object.fromEntries(
            statuses.map((status) => [
              String(status),
              { description: 'Refused.', content: { 'application/json': { schema: errorBody } } },
            ]),
          ),
        },
      },
    };
  }
  return createDocument({
    openapi: '3.1.0',
    info: {
      title: 'Zaguan',
      version: '0.1.0',
      description:
        'Everything that changes something and needs a session also needs the header `x-csrf-token` (see `/auth/me`).',
    },
    servers: [{ url: '/api' }],
    paths,
  });
}

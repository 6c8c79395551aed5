import { type BaseQueryFn, createApi, type EndpointBuilder } from '@reduxjs/toolkit/query/react';
import type { Endpoint, ErrorBody, OutputOf, RequestOf } from '@zaguan/contracts';
import { isUnattended } from './attention.ts';

/** What is cached, named once for both applications. */
export const TAGS = [
  'Me',
  'Clinic',
  'Day',
  'Hours',
  'Openings',
  'Messages',
  'IdentityReview',
  'Today',
  'WorkCount',
  'Intake',
  'Setup',
  'Patient',
] as const;
export type Tag = (typeof TAGS)[number];

export interface Call {
  readonly endpoint: Pick<Endpoint, 'method' | 'path'>;
  readonly input: Record<string, unknown>;
}

export type ApiError = ErrorBody['error'];

/** A contract known by its place and its types alone. */
export interface Remote<E> {
  readonly method: Endpoint['method'];
  readonly path: string;
  readonly contract?: E;
}

/** Told when the server or its database can't be reached, and when it can again. */
export interface ConnectionWatch {
  away(): void;
  back(): void;
}

const RETRY_MS = 1500;
/** Longer than a database takes to come back; then the page says so and leaves the next try to the reader. */
const MAX_TRIES = 40;

const LOST: ApiError = { tag: 'DatabaseAway', requestId: '', facts: {} };

/** Path parameters go into the path, the rest into the query (GET, DELETE) or the body (POST). Never patient data in a URL. */
export function toRequest({ endpoint, input }: Call, csrfToken: string): { url: string; init: RequestInit } {
  const rest = { ...input };
  const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) => {
    const value = String(rest[name]);
    delete rest[name];
    return encodeURIComponent(value);
  });
  const headers: Record<string, string> = {
    accept: 'application/json',
    ...(csrfToken && { 'x-csrf-token': csrfToken }),
    ...(isUnattended() && { 'x-unattended': '1' }),
  };
  if (endpoint.method === 'post')
    return {
      url: `/api${path}`,
      init: { method: 'POST', headers: { ...headers, 'content-type': 'application/json' }, body: JSON.stringify(rest) },
    };
  const query = new URLSearchParams(
    Object.entries(rest).flatMap(([key, value]) =>
      value === undefined || value === null ? [] : [[key, String(value)]],
    ),
  );
  return {
    url: `/api${path}${query.size ? `?${query}` : ''}`,
    init: { method: endpoint.method.toUpperCase(), headers },
  };
}

async function once(call: Call, csrfToken: string): Promise<{ data: unknown } | { error: ApiError }> {
  const { url, init } = toRequest(call, csrfToken);
  let response: Response;
  try {
    response = await fetch(url, { ...init, credentials: 'same-origin' });
  } catch {
    return { error: LOST };
  }
  const body: unknown = await response.json().catch(() => null);
  if (response.ok) return { data: body };
  return {
    error: (body as ErrorBody | null)?.error ?? {
      ...LOST,
      tag: response.status === 503 ? 'DatabaseAway' : 'Unexpected',
    },
  };
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/**
 * Sends a contract's call. While the database is away it tries again by itself and tells the watch; that is safe for
 * calls that change something too, because each of them is refused or answered alike when it comes twice.
 */
export function contractQuery(csrfToken: () => string, watch: ConnectionWatch): BaseQueryFn<Call, unknown, ApiError> {
  return async (call, { signal }) => {
    for (let tries = 1; ; tries++) {
      const result = await once(call, csrfToken());
      const lost = 'error' in result && result.error.tag === 'DatabaseAway';
      if (!lost) {
        watch.back();
        return result;
      }
      watch.away();
      if (tries === MAX_TRIES || signal.aborted) return result;
      await pause(RETRY_MS);
    }
  };
}

export type Build = EndpointBuilder<BaseQueryFn<Call, unknown, ApiError>, Tag, 'api'>;

/** A part of what a tag covers; a query that names no parts has the one part `any`. */
export interface TagPart {
  readonly type: Tag;
  readonly id: string;
}

export const anyOf = (type: Tag): TagPart => ({ type, id: 'any' });

/**
 * A query made from a contract. A mutation's tag makes all queries of that tag stale; news from the server may make only
 * a part of it stale.
 *
 * @param parts the parts of it that an answer shows, if it does not hang on all
 */
export function queryOf<E extends Endpoint>(
  build: Build,
  endpoint: E | Remote<E>,
  provides: readonly Tag[],
  parts?: (answer: OutputOf<E>) => readonly TagPart[],
) {
  return build.query<OutputOf<E>, RequestOf<E>>({
    query: (input) => ({ endpoint, input: input as Record<string, unknown> }),
    providesTags: (answer) => [...provides.map(anyOf), ...(answer && parts ? parts(answer) : [])],
  });
}

/** A mutation made from a contract. */
export function mutationOf<E extends Endpoint>(build: Build, endpoint: E | Remote<E>, invalidates: readonly Tag[]) {
  return build.mutation<OutputOf<E>, RequestOf<E>>({
    query: (input) => ({ endpoint, input: input as Record<string, unknown> }),
    invalidatesTags: (_result, error) => (error && error.tag === 'DatabaseAway' ? [] : [...invalidates]),
  });
}

/** The application's one API, empty; features inject their endpoints. */
export function makeApi(baseQuery: BaseQueryFn<Call, unknown, ApiError>) {
  return createApi({ reducerPath: 'api', baseQuery, tagTypes: [...TAGS], endpoints: () => ({}) });
}

/** The refusal inside what RTK Query hands over, whatever it is. */
export function apiError(error: unknown): ApiError | null {
  return error && typeof error === 'object' && 'tag' in error
    ? (error as ApiError)
    : error
      ? { ...LOST, tag: 'Unexpected' }
      : null;
}

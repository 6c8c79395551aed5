import { type BaseQueryFn, createApi, type EndpointBuilder, retry } from '@reduxjs/toolkit/query/react';
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
  'Views',
  'Bench',
  'Acts',
  'Recalls',
  'Patient',
  'PatientLists',
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

const FIRST_PAUSE_MS = 500;
const MAX_PAUSE_MS = 4000;
/** About a minute: longer than a database takes to come back; then the page leaves the next try to the reader. */
const MAX_TRIES = 20;

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

/** The pause before the next try: longer each time, so that a server that comes back is not run over. */
export function retryPauseMs(attempt: number): number {
  return Math.min(FIRST_PAUSE_MS * 1.5 ** (attempt - 1), MAX_PAUSE_MS);
}

/**
 * Sends a contract's call. While the database is away it tries again by itself and tells the watch; that is safe for
 * calls that change something too, because each of them is refused or answered alike when it comes twice.
 */
export function contractQuery(csrfToken: () => string, watch: ConnectionWatch): BaseQueryFn<Call, unknown, ApiError> {
  const send: BaseQueryFn<Call, unknown, ApiError> = async (call) => {
    const result = await once(call, csrfToken());
    if ('error' in result && result.error.tag === 'DatabaseAway') watch.away();
    else watch.back();
    return result;
  };
  return retry(send, {
    retryCondition: (error, _call, { attempt }) =>
      (error as unknown as ApiError).tag === 'DatabaseAway' && attempt < MAX_TRIES,
    backoff: (attempt) => new Promise((resolve) => setTimeout(resolve, retryPauseMs(attempt))),
  }) as BaseQueryFn<Call, unknown, ApiError>;
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

/** A query whose answer is kept in another shape than it goes over the wire. */
export function queryAs<E extends Endpoint, Kept>(
  build: Build,
  endpoint: E | Remote<E>,
  keep: (answer: OutputOf<E>) => Kept,
  parts: (kept: Kept) => readonly TagPart[],
) {
  return build.query<Kept, RequestOf<E>>({
    query: (input) => ({ endpoint, input: input as Record<string, unknown> }),
    transformResponse: (answer) => keep(answer as OutputOf<E>),
    providesTags: (kept) => (kept ? parts(kept) : []),
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

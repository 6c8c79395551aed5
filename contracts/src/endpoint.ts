import type { z } from 'zod';
import type { ErrorTag } from './errors.ts';
import type { Action } from './roles.ts';

/** Who may call: everyone (limited by the database), anyone signed in, or roles with a right to an action. */
export type Access =
  | { readonly kind: 'public'; readonly limit: Limit }
  | { readonly kind: 'signed-in' }
  | { readonly kind: 'role'; readonly action: Action };

/** Which budget of calls a public endpoint draws on. */
export type Limit = 'read' | 'write' | 'sign-in';

type Shape = z.ZodType;

export interface Endpoint<
  Params extends Shape = Shape,
  Query extends Shape = Shape,
  Body extends Shape = Shape,
  Output extends Shape = Shape,
  Tag extends ErrorTag = ErrorTag,
> {
  /** Also the command's name in the audit. */
  readonly name: string;
  readonly method: 'get' | 'post' | 'delete';
  /** Express path, below `/api`. */
  readonly path: string;
  readonly summary: string;
  readonly access: Access;
  readonly params?: Params;
  readonly query?: Query;
  readonly body?: Body;
  /** What goes out; a `text` or `stream` answer has none. */
  readonly output: Output;
  /** A `calendar`, `pdf` or `fhir` answer has its own media type; a `pdf` goes as base64 as far as the mount. */
  readonly answers?: 'json' | 'calendar' | 'stream' | 'pdf' | 'fhir';
  /** What a `calendar` or `pdf` answer is called when it is kept. */
  readonly fileName?: string;
  /** The refusals that the use case may answer with; the types hold it to them. */
  readonly errors: readonly Tag[];
  /** Bytes of body that are read; 64 kB if not said. */
  readonly bodyLimit?: number;
  /** Reads of a person's record are put into the audit with the ids the use case names. */
  readonly readsPatients?: boolean;
}

/** Declares an endpoint; `access` can't be forgotten. */
export function defineEndpoint<
  Params extends Shape,
  Query extends Shape,
  Body extends Shape,
  Output extends Shape,
  Tag extends ErrorTag,
>(endpoint: Endpoint<Params, Query, Body, Output, Tag>): Endpoint<Params, Query, Body, Output, Tag> {
  return endpoint;
}

type Part<E, K extends 'params' | 'query' | 'body'> = E extends { readonly [P in K]?: infer S }
  ? S extends z.ZodType
    ? z.output<S>
    : unknown
  : unknown;
type PartIn<E, K extends 'params' | 'query' | 'body'> = E extends { readonly [P in K]?: infer S }
  ? S extends z.ZodType
    ? z.input<S>
    : unknown
  : unknown;
type Known<T> = unknown extends T ? object : T;

/** What a use case receives: path, query and body in one parsed object. */
export type InputOf<E> = Known<Part<E, 'params'>> & Known<Part<E, 'query'>> & Known<Part<E, 'body'>>;
/** What a caller sends, before parsing. */
export type RequestOf<E> = Known<PartIn<E, 'params'>> & Known<PartIn<E, 'query'>> & Known<PartIn<E, 'body'>>;
/** What a use case returns and a caller receives (wire values: strings, not dates). */
export type OutputOf<E> = E extends { readonly output: infer S } ? (S extends z.ZodType ? z.input<S> : never) : never;
/** What a use case may refuse with: its own refusals, and input that can only be judged beside the data. */
export type ErrorsOf<E> = E extends { readonly errors: readonly (infer Tag extends ErrorTag)[] }
  ? Tag | 'InvalidInput'
  : never;

/** Every refusal a caller may meet, in the order of the stops that a call passes. */
export function refusalsOf({ access, method, errors }: Endpoint): ErrorTag[] {
  const stops: ErrorTag[] =
    access.kind === 'public'
      ? ['TooManyRequests']
      : [
          'NotSignedIn',
          ...(access.kind === 'role' ? ['NotAllowed' as const] : []),
          ...(method === 'get' ? [] : ['StalePage' as const]),
        ];
  return [...new Set<ErrorTag>([...stops, 'InvalidInput', ...errors, 'DatabaseAway', 'Unexpected'])];
}

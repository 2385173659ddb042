import type { z } from 'zod';
import type { Role } from './books.ts';
import type { Tag, Touched } from './touched.ts';

/** Who may use an endpoint: anyone, anyone signed in, or at least this role in the books it names. */
export type Access = 'anyone' | 'signedIn' | Role;

/** What the server answers at an address, and to whom. Server, browser, OpenAPI and tests go by it. */
export interface Endpoint {
  readonly method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  /** Below `/api`, with its parameters. @example '/books/:booksId/lanes' */
  readonly path: string;
  readonly access: Access;
  readonly params?: z.ZodObject;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType;
  /** The body is a file's bytes; the query says its name. */
  readonly takesFile?: true;
  /** Null where it is no JSON: a file, a stream of events. */
  readonly answer: z.ZodType | null;
  /** Whether the answer is a page of a list, which names the next in `next`. */
  readonly isPaged?: true;
  /** Of an endpoint that changes nothing: what the answer is made of. */
  readonly reads?: readonly Tag[];
  /** Of an endpoint that changes something: what. */
  readonly touches?: readonly Touched[];
}

/** Endpoints by the names that the browser has for them. */
export type Endpoints = Readonly<Record<string, Endpoint>>;

/** A part's endpoints, with the types that each has. */
export function endpoints<const List extends Endpoints>(list: List): List {
  return list;
}

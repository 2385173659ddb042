import type {
  InfiniteQueryDefinition,
  MutationDefinition,
  QueryDefinition,
} from '@reduxjs/toolkit/query/react';
import type { Endpoint, Endpoints } from '@zubrell/contract/endpoint';
import { type Tag, tagsOf } from '@zubrell/contract/touched';
import type { z } from 'zod';
import { takePresses } from '../app/presses.ts';
import { api } from './api.ts';
import { beginCommand } from './ownCommands.ts';
import type { patientQuery } from './patientQuery.ts';

type In<Schema> = Schema extends z.ZodType ? z.input<Schema> : unknown;
type Flat<Whole> = Whole extends infer Part ? { [Key in keyof Part]: Part[Key] } : never;

/** All that an endpoint takes, in one object: parameters, query and body. */
type Taken<Asked extends Endpoint> = Asked extends { readonly takesFile: true }
  ? In<Asked['params']> & { readonly file: File }
  : Asked extends { readonly isPaged: true }
    ? In<Asked['params']> & Omit<In<Asked['query']>, 'cursor'>
    : In<Asked['params']> & In<Asked['query']> & In<Asked['body']>;

/** What a hook is called with; an endpoint that takes nothing but the books or a secret takes that by itself. */
type ArgOf<Asked extends Endpoint> =
  unknown extends Taken<Asked>
    ? // biome-ignore lint/suspicious/noConfusingVoidType: RTK Query's word for hooks that take nothing
      void
    : Asked extends { readonly body: z.ZodType } | { readonly takesFile: true }
      ? Flat<Taken<Asked>>
      : [keyof Taken<Asked>] extends ['booksId'] | ['secret']
        ? string
        : Flat<Taken<Asked>>;

type AnswerOf<Asked extends Endpoint> = Asked['answer'] extends z.ZodType
  ? z.output<Asked['answer']>
  : unknown;

type Query = typeof patientQuery;

type DefinitionOf<Asked extends Endpoint> = Asked extends { readonly isPaged: true }
  ? InfiniteQueryDefinition<ArgOf<Asked>, string | undefined, Query, Tag, AnswerOf<Asked>, 'api'>
  : Asked extends { readonly reads: readonly Tag[] }
    ? QueryDefinition<ArgOf<Asked>, Query, Tag, AnswerOf<Asked>, 'api'>
    : MutationDefinition<ArgOf<Asked>, Query, Tag, AnswerOf<Asked>, 'api'>;

type DefinitionsOf<List extends Endpoints> = {
  [Name in keyof List]: DefinitionOf<List[Name]>;
};

type Values = Readonly<Record<string, unknown>>;

/** A query string from values that may be lists or missing. */
function queryOf(values: Values): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(values)) {
    for (const each of value === undefined ? [] : [value].flat()) query.append(name, String(each));
  }
  const text = query.toString();
  return text === '' ? '' : `?${text}`;
}

/** The request that asks an endpoint with these values, or with the one value that it takes. */
function requestOf({ method, path, reads, touches = [], takesFile }: Endpoint, arg: unknown) {
  const names = [...path.matchAll(/:(\w+)/g)].map(([, name = '']) => name);
  const values: Values = typeof arg === 'string' ? { [names[0] ?? '']: arg } : { ...(arg ?? {}) };
  const rest = Object.fromEntries(Object.entries(values).filter(([name]) => !names.includes(name)));
  const url = path.replace(/:(\w+)/g, (_, name) => encodeURIComponent(String(values[name])));
  const { file } = rest;
  if (takesFile && file instanceof File) {
    const headers = { 'content-type': 'application/octet-stream' };
    return { method, url: `${url}${queryOf({ fileName: file.name })}`, body: file, headers };
  }
  if (method === 'GET') return { method, url: `${url}${queryOf(rest)}` };
  if (reads) return { method, url, body: rest };
  const headers = { 'idempotency-key': beginCommand(touches) };
  if (!touches.includes('line')) return { method, url, body: rest, headers };
  return { method, url, body: rest, headers: { ...headers, 'x-presses': String(takePresses()) } };
}

function definitionOf(endpoint: Endpoint, options: object): object {
  if (endpoint.isPaged) {
    return {
      type: 'infinitequery',
      infiniteQueryOptions: {
        initialPageParam: undefined,
        getNextPageParam: (page: { readonly next: string | null }) => page.next ?? undefined,
      },
      query: ({ queryArg, pageParam }: { queryArg: unknown; pageParam: string | undefined }) => {
        const given = typeof queryArg === 'string' ? { booksId: queryArg } : queryArg;
        return requestOf(endpoint, { ...(given ?? {}), cursor: pageParam });
      },
      providesTags: endpoint.reads,
      ...options,
    };
  }
  const query = (arg: unknown) => requestOf(endpoint, arg);
  return endpoint.reads
    ? { type: 'query', query, providesTags: endpoint.reads, ...options }
    : { type: 'mutation', query, invalidatesTags: tagsOf(endpoint.touches ?? []), ...options };
}

/** How long, in seconds, answers are kept that nothing shows any more. */
type Keeping<List extends Endpoints> = {
  readonly [Name in keyof List]?: { readonly keepUnusedDataFor: number };
};

/**
 * Adds endpoints of the contract to what the browser can ask: a hook each. What is read has the endpoint's tags; a
 * command has what it touches read anew once it was done.
 */
export function inject<List extends Endpoints>(list: List, keeping: Keeping<List> = {}) {
  return api.injectEndpoints({
    endpoints: () =>
      Object.fromEntries(
        Object.entries(list).map(([name, endpoint]) => [
          name,
          definitionOf(endpoint, keeping[name] ?? {}),
        ]),
      ) as DefinitionsOf<List>,
  });
}

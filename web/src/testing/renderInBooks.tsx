import { cleanup, configure, render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { BooksSetup } from '@zubrell/contract/books';
import { type ErrorCode, type ErrorParams, errors, messageOf } from '@zubrell/core/errors';
import type { ReactElement } from 'react';
import { Provider } from 'react-redux';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { afterEach, vi } from 'vitest';
import { makeStore } from '../app/store.ts';
import { BooksContext, shownBooks } from '../app/useBooks.ts';
import { TodayContext } from '../app/useToday.ts';
import { testBooks } from './testBooks.ts';

// What a screen shows in the end is waited for, however busy the machine is.
configure({ asyncUtilTimeout: 15_000 });

/** A request that a screen sent. */
export interface Sent {
  readonly method: string;
  /** Below the books, with its query. @example '/documents?side=payables' */
  readonly path: string;
  readonly body: unknown;
}

/**
 * What the server answers, by method and path below the books; a function is asked with the query. An error is
 * answered by {@link problem}.
 */
export type Answers = Readonly<Record<string, object | ((query: URLSearchParams) => object)>>;

/** An error as the server answers it. */
export function problem(code: ErrorCode, params: ErrorParams = {}): Response {
  const [status] = errors[code];
  const type = `urn:zubrell:error:${code}`;
  return Response.json({ type, title: messageOf(code, params), status, code, params }, { status });
}

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

/**
 * Shows something as it stands in books, with a server that answers as told; what is not told is an empty object.
 *
 * @returns the user, what was sent so far, the newest keys of changes by path, and the router
 */
export function renderInBooks(
  shown: ReactElement,
  {
    answers = {},
    setup = testBooks(),
    query = '',
    place = { path: '*', address: 'here' },
  }: {
    answers?: Answers;
    setup?: BooksSetup;
    /** Where it stands below the books, for what reads its address. @example { path: 'close/:month', address: 'close/2026-03' } */
    place?: { readonly path: string; readonly address: string };
    /** What stands in the address. @example '?to=2026-03-31' */
    query?: string;
  } = {},
) {
  const sent: Sent[] = [];
  const keys = new Map<string, string>();
  const { Request: RealRequest } = globalThis;
  // The browser knows where a page stands; Node has to be told.
  vi.stubGlobal(
    'Request',
    class extends RealRequest {
      constructor(input: string | URL | Request, init?: RequestInit) {
        const { signal: _signal, ...rest } = init ?? {};
        super(typeof input === 'string' ? new URL(input, 'http://zubrell.test') : input, rest);
      }
    },
  );
  vi.stubGlobal('fetch', async (request: Request) => {
    const { pathname, search, searchParams } = new URL(request.url);
    const path = pathname.replace(/^\/api\/books\/[^/]+/, '');
    const text = await request.text();
    const isFile = request.headers.get('content-type') === 'application/octet-stream';
    const key = request.headers.get('idempotency-key');
    if (key !== null) keys.set(path, key);
    sent.push({
      method: request.method,
      path: `${path}${search}`,
      body: text === '' ? null : isFile ? text : JSON.parse(text),
    });
    const answer = answers[`${request.method} ${path}`] ?? {};
    const given = await (typeof answer === 'function' ? answer(searchParams) : answer);
    return given instanceof Response ? given : Response.json(given);
  });
  const here = { path: `/books/:booksId/${place.path}`, element: shown };
  const router = createMemoryRouter([here, { path: '*', element: null }], {
    initialEntries: [`/books/books/${place.address}${query}`],
  });
  const view = render(
    <Provider store={makeStore()}>
      <TodayContext value="2026-03-31">
        <BooksContext value={shownBooks('books', setup)}>
          <RouterProvider router={router} />
        </BooksContext>
      </TodayContext>
    </Provider>,
  );
  return { ...view, user: userEvent.setup(), sent, keys, router };
}

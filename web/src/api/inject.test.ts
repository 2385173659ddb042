import { configureStore } from '@reduxjs/toolkit';
import { endpoints } from '@zubrell/contract/endpoint';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { api } from './api.ts';
import { inject } from './inject.ts';
import { ownTouches } from './ownCommands.ts';

const params = z.object({ booksId: z.string() });
const made = inject(
  endpoints({
    madeRead: {
      method: 'GET',
      path: '/books/:booksId/read',
      access: 'reviewer',
      params,
      query: z.object({ side: z.string().optional(), ids: z.array(z.string()).optional() }),
      answer: z.object({}),
      reads: ['rules'],
    },
    madeWhole: {
      method: 'GET',
      path: '/books/:booksId/whole',
      access: 'reviewer',
      params,
      answer: z.object({}),
      reads: ['lanes', 'openLines'],
    },
    madePages: {
      method: 'GET',
      path: '/books/:booksId/pages',
      access: 'reviewer',
      params,
      query: z.object({ cursor: z.string().optional() }),
      answer: z.object({ next: z.string().nullable() }),
      isPaged: true,
      reads: ['steps'],
    },
    madeTry: {
      method: 'POST',
      path: '/books/:booksId/try',
      access: 'reviewer',
      params,
      body: z.object({ text: z.string() }),
      answer: z.object({}),
      reads: [],
    },
    madeChange: {
      method: 'PUT',
      path: '/books/:booksId/things/:thingId',
      access: 'bookkeeper',
      params: params.extend({ thingId: z.string() }),
      body: z.object({ name: z.string() }),
      answer: z.object({}),
      touches: ['alias'],
    },
    madeFile: {
      method: 'POST',
      path: '/books/:booksId/files',
      access: 'bookkeeper',
      params,
      query: z.object({ fileName: z.string() }),
      takesFile: true,
      answer: z.object({}),
      touches: [],
    },
  }),
);

interface Asked {
  readonly method: string;
  readonly address: string;
  readonly body: string;
  readonly key: string | null;
}

let asked: Asked[];
let store: ReturnType<typeof newStore>;
const newStore = () =>
  configureStore({
    reducer: { [api.reducerPath]: api.reducer },
    middleware: (standard) => standard().concat(api.middleware),
  });

beforeEach(() => {
  asked = [];
  store = newStore();
  const { Request: RealRequest } = globalThis;
  vi.stubGlobal(
    'Request',
    class extends RealRequest {
      constructor(input: string, { signal: _signal, ...rest }: RequestInit = {}) {
        super(new URL(input, 'http://zubrell.test'), rest);
      }
    },
  );
  vi.stubGlobal('fetch', async (request: Request) => {
    const { pathname, search } = new URL(request.url);
    asked.push({
      method: request.method,
      address: `${pathname}${search}`,
      body: await request.text(),
      key: request.headers.get('idempotency-key'),
    });
    return Response.json({ next: search.includes('cursor') ? null : 'two' });
  });
});
afterEach(() => vi.unstubAllGlobals());

describe('an endpoint of the contract in the browser', () => {
  const { endpoints: by } = made;

  it('is asked at its address, with lists and without what is left out', async () => {
    await store.dispatch(
      by.madeRead.initiate({ booksId: 'b 1', side: undefined, ids: ['x', 'y&z'] }),
    );
    expect(asked).toMatchObject([
      { method: 'GET', address: '/api/books/b%201/read?ids=x&ids=y%26z', body: '', key: null },
    ]);
  });

  it('takes the books by themselves where it takes nothing else', async () => {
    await store.dispatch(by.madeWhole.initiate('b'));
    expect(asked).toMatchObject([{ method: 'GET', address: '/api/books/b/whole' }]);
  });

  it('goes from page to page', async () => {
    await store.dispatch(by.madePages.initiate('b'));
    await store.dispatch(by.madePages.initiate('b', { direction: 'forward' }));
    expect(asked.map(({ address }) => address)).toEqual([
      '/api/books/b/pages',
      '/api/books/b/pages?cursor=two',
    ]);
  });

  it('sends a body without a key where it changes nothing', async () => {
    await store.dispatch(by.madeTry.initiate({ booksId: 'b', text: 'clay' }));
    expect(asked).toMatchObject([{ method: 'POST', body: '{"text":"clay"}', key: null }]);
  });

  it('sends a change with a key of its own, and knows by it what it touches', async () => {
    const change = { booksId: 'b', thingId: 't', name: 'Clay' };
    await store.dispatch(by.madeChange.initiate(change));
    await store.dispatch(by.madeChange.initiate(change));
    const [first, second] = asked;
    expect(first).toMatchObject({
      method: 'PUT',
      address: '/api/books/b/things/t',
      body: '{"name":"Clay"}',
    });
    expect(first?.key).not.toBe(second?.key);
    expect(ownTouches(first?.key ?? null)).toEqual(['alias']);
    expect(ownTouches('of somebody else')).toBeUndefined();
  });

  it('sends a file as it is, by its name', async () => {
    const file = new File(['a;b'], 'march 1.csv');
    await store.dispatch(by.madeFile.initiate({ booksId: 'b', file }));
    expect(asked).toMatchObject([
      { method: 'POST', address: '/api/books/b/files?fileName=march+1.csv', body: 'a;b' },
    ]);
  });

  it('has what it touched read anew, once, and nothing else', async () => {
    await store.dispatch(by.madeWhole.initiate('b'));
    await store.dispatch(by.madeRead.initiate({ booksId: 'b' }));
    asked.length = 0;
    await store.dispatch(by.madeChange.initiate({ booksId: 'b', thingId: 't', name: 'Clay' }));
    await vi.waitFor(() => expect(asked).toHaveLength(2));
    await new Promise((done) => setTimeout(done, 20));
    expect(asked.map(({ address }) => address)).toEqual([
      '/api/books/b/things/t',
      '/api/books/b/whole',
    ]);
  });
});

import { act } from '@testing-library/react';
import { useEffect } from 'react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { booksApi } from '../api/books.ts';
import { linesApi } from '../api/lines.ts';
import { rulesApi } from '../api/rules.ts';
import { renderInBooks } from '../testing/renderInBooks.tsx';
import { stubStepEvents } from '../testing/stubStepEvents.ts';
import { useStepEvents } from './useStepEvents.ts';

let events: ReturnType<typeof stubStepEvents>;
beforeEach(() => {
  events = stubStepEvents();
});
afterEach(() => vi.unstubAllGlobals());

/** A screen that shows three things, and a button that posts. */
function Screen({ posts }: { readonly posts: boolean }) {
  useStepEvents('books');
  linesApi.useLanesQuery({ booksId: 'books' });
  rulesApi.useRulesQuery('books');
  booksApi.useSetupQuery('books');
  const [post] = linesApi.useExcludeLinesMutation();
  useEffect(() => {
    if (posts) {
      const target = { lineIds: [] };
      void post({ booksId: 'books', as: 'excluded', reason: 'secondCopy', target, seenStep: 1 });
    }
  }, [posts, post]);
  return null;
}

async function shown(posts = false) {
  const { sent, ...view } = renderInBooks(<Screen posts={posts} />);
  await vi.waitFor(() => expect(sent.length).toBeGreaterThanOrEqual(posts ? 6 : 3));
  await act(() => new Promise((done) => setTimeout(done, 20)));
  return { ...view, sent, since: sent.length };
}

async function after(since: number, sent: readonly { readonly path: string }[]) {
  await act(() => new Promise((done) => setTimeout(done, 40)));
  return sent.slice(since).map(({ path }) => path);
}

it('reads anew what somebody else touched, and nothing else', async () => {
  const { sent, since } = await shown();
  act(() => events.hear({ step: 7, touched: ['alias'], by: null }));
  expect(await after(since, sent)).toEqual(['/lanes']);
  expect(events.passedOn).toHaveLength(1);
});

it('does not read again what its own command had read anew', async () => {
  const { sent, since, keys } = await shown(true);
  const by = keys.get('/lines/exclude') ?? null;
  expect(by).not.toBeNull();
  act(() => events.hear({ step: 7, touched: ['line'], by }));
  expect(await after(since, sent)).toEqual([]);
});

it('reads anew what its own command touched beyond what it said', async () => {
  const { sent, since, keys } = await shown(true);
  const by = keys.get('/lines/exclude') ?? null;
  act(() => events.hear({ step: 7, touched: ['line', 'account'], by }));
  expect(await after(since, sent)).toEqual(['/setup']);
});

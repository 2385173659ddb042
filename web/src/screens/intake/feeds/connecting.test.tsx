import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../../testing/renderInBooks.tsx';
import { testFeed } from '../../../testing/testFeed.ts';
import { ConsentScreen } from './ConsentScreen.tsx';
import { FeedSection } from './FeedSection.tsx';

const banks = [{ connector: 'practice', bankName: 'Wick & Alder' }];
const shown = (feeds: object) =>
  renderInBooks(<FeedSection />, { answers: { 'GET /feeds': feeds } });

describe('feeds of the books', () => {
  it('are explained where there is none, beside the banks that can be connected', async () => {
    shown({ feeds: [], banks });
    expect(await screen.findByText(/nothing can be paid from here/)).toBeDefined();
    expect(screen.getByRole('button', { name: 'Connect Wick & Alder' })).toBeDefined();
    expect(screen.queryByRole('table')).toBeNull();
  });

  it('are listed, one row each', async () => {
    const feeds = [testFeed({ id: 'a' }), testFeed({ id: 'b', remoteName: 'Studio card' })];
    shown({ feeds, banks });
    const table = await screen.findByRole('table');
    expect(within(table).getAllByRole('row')).toHaveLength(3);
  });

  it('are nothing where the server knows no bank', async () => {
    const { sent } = shown({ feeds: [], banks: [] });
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(screen.queryByRole('region', { name: 'Feeds' })).toBeNull();
  });

  it('are looked at again while one is fetched, and no more when it is', async () => {
    let looks = 0;
    const { sent } = renderInBooks(<FeedSection />, {
      answers: {
        'GET /feeds': () => {
          looks += 1;
          return { feeds: [testFeed({ isFetching: looks < 3 })], banks };
        },
      },
    });
    await waitFor(() => expect(sent).toHaveLength(3), { timeout: 5_000 });
    await new Promise((done) => setTimeout(done, 1_000));
    expect(sent).toHaveLength(3);
  });
});

describe('coming back from a bank', () => {
  const back = (query: string, answer: object = { feeds: 1 }) =>
    renderInBooks(<ConsentScreen />, {
      place: { path: 'intake/consent', address: 'intake/consent' },
      query,
      answers: { 'POST /consents/finish': () => answer },
    });

  it('takes the consent, once, and goes on to Intake', async () => {
    const { sent, router } = back('?state=s1&code=c1');
    await waitFor(() => expect(router.state.location.pathname).toBe('/books/books/intake'));
    expect(sent).toMatchObject([{ path: '/consents/finish', body: { state: 's1', code: 'c1' } }]);
  });

  it('tells the server where the customer refused, and says what came of it', async () => {
    const { sent } = back('?state=s1&error=access_denied', problem('FEED_REFUSED'));
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
    expect(sent).toMatchObject([{ body: { state: 's1', code: null } }]);
    expect(screen.getByRole('link', { name: 'Back to Intake' }).getAttribute('href')).toBe(
      '/books/books/intake',
    );
  });

  it('sends nothing where the address says nothing', async () => {
    const { sent, router } = back('');
    await waitFor(() => expect(router.state.location.pathname).toBe('/books/books/intake'));
    expect(sent).toEqual([]);
  });
});

import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testPairing } from '../../testing/testPairing.ts';
import { PairingScreen } from './PairingScreen.tsx';

const open = (query: string, answer: object = problem('LINE_UNKNOWN')) =>
  renderInBooks(<PairingScreen />, { query, answers: { 'GET /pairing': () => answer } });

describe('pairing', () => {
  it('of a line that was decided meanwhile says so, and goes back by the keyboard', async () => {
    const { user, router } = open('?line=gone');
    await router.navigate('/books/books/here?line=gone');
    expect(await screen.findByText(/Someone has already decided this line/)).toBeDefined();
    expect(screen.getByRole('alert').textContent).not.toBe('');
    const before = router.state.location.key;
    await user.keyboard('{Escape}');
    await waitFor(() => expect(router.state.location.key).not.toBe(before));
  });

  it('doesn’t say that a line is gone where the server can’t be reached', async () => {
    renderInBooks(<PairingScreen />, {
      query: '?line=line',
      answers: { 'GET /pairing': () => problem('BUSY') },
    });
    expect((await screen.findByRole('alert')).textContent).toMatch(/busy with other work/);
    expect(screen.queryByText(/already decided this line/)).toBeNull();
    expect(screen.getByRole('button', { name: /Back to the Desk/ })).toBeDefined();
  });

  it('keeps what is ticked where a search fails', async () => {
    const { user } = renderInBooks(<PairingScreen />, {
      query: '?line=line',
      answers: {
        'GET /pairing': (query) => (query.get('search') ? problem('BUSY') : testPairing()),
      },
    });
    await user.click(await screen.findByRole('checkbox', { name: /2093/ }));
    await user.type(screen.getByLabelText('Look further'), 'tide');
    expect((await screen.findByRole('alert')).textContent).toMatch(/busy with other work/);
    expect(screen.getByText('1 ticked')).toBeDefined();
    expect(screen.getByRole('checkbox', { name: /2093/ })).toHaveProperty('checked', true);
  });

  it('takes another open line in, found a moment after the last key', async () => {
    const line = (id: string, more: object) => ({
      id,
      date: '2026-03-11',
      amount: -1_900,
      description: `TIDEMARK FRT ${id}`,
      bankAccountId: 'everyday',
      state: 'blank',
      ...more,
    });
    const { user, sent, router } = renderInBooks(<PairingScreen />, {
      query: '?line=line',
      answers: {
        'GET /pairing': testPairing(),
        'GET /found-lines': {
          lines: [line('line', {}), line('posted', { state: 'posted' }), line('other', {})],
        },
      },
    });
    await user.click(await screen.findByText('+ another line'));
    await user.type(screen.getByLabelText('Text or amount of an open line'), 'tidemark');
    await user.click(await screen.findByRole('button', { name: /TIDEMARK FRT other/ }));
    expect(screen.queryByRole('button', { name: /FRT posted/ })).toBeNull();
    expect(screen.queryByRole('dialog')).toBeNull();
    expect(router.state.location.search).toBe('?line=line&line=other');
    const searches = sent.filter(({ path }) => path.startsWith('/found-lines'));
    expect(searches.map(({ path }) => path)).toEqual(['/found-lines?search=tidemark']);
  });

  it('has a row to go on from again once a search finds something', async () => {
    const nothing = testPairing({ fits: [], nearMisses: [] });
    const { user } = renderInBooks(<PairingScreen />, {
      query: '?line=line',
      answers: { 'GET /pairing': (query) => (query.get('search') ? testPairing() : nothing) },
    });
    expect(await screen.findByText('Nothing in the books matches')).toBeDefined();
    await user.keyboard('{ArrowDown}{ArrowDown}');
    await user.type(screen.getByLabelText('Look further'), 'tide');
    await screen.findByRole('checkbox', { name: /2093/ });
    await user.keyboard('{Escape} ');
    expect(await screen.findByText('1 ticked')).toBeDefined();
    expect(screen.getByRole('checkbox', { name: /2093/ })).toHaveProperty('checked', true);
  });

  it('of no line asks the server nothing', async () => {
    const { sent } = open('');
    expect(await screen.findByText(/it isn’t in these books/)).toBeDefined();
    expect(sent).toEqual([]);
  });
});

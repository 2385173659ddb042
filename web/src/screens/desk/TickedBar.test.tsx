import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { InDesk } from '../../testing/InDesk.tsx';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import type { TickedRow } from './rows.ts';
import { TickedBar } from './TickedBar.tsx';

const row = (change: Partial<TickedRow> = {}): TickedRow => ({
  kind: 'ticked',
  id: 'ticked',
  lineIds: ['a', 'b'],
  total: -9_700,
  currency: 'EUR',
  ...change,
});

function open(ticked: TickedRow, query = '') {
  const focusList = vi.fn();
  const shown = renderInBooks(
    <InDesk>
      <TickedBar row={ticked} focusList={focusList} />
    </InDesk>,
    {
      query,
      answers: {
        'POST /lines/post': { step: 5, words: 'Posted 2 lines', done: ['a', 'b'], leftOut: [] },
        'POST /lines/suspend': { step: 5, words: 'Posted 2 lines', done: ['a', 'b'], leftOut: [] },
      },
    },
  );
  return { ...shown, focusList };
}

const post = () => screen.getByRole('button', { name: 'Post lines' }) as HTMLButtonElement;

describe('the ticked lines', () => {
  it('are summed, coded with one coding, and posted as one step', async () => {
    const { user, sent, focusList } = open(row());
    expect(screen.getByRole('region', { name: 'Ticked lines' }).textContent).toContain(
      '2 lines ticked, −97.00',
    );
    expect(post().disabled).toBe(true);
    await user.type(screen.getByRole('combobox', { name: /account/i }), 'Freight{Enter}');
    await waitFor(() => expect(post().disabled).toBe(false));
    await user.click(post());
    await waitFor(() => expect(focusList).toHaveBeenCalled());
    const body = sent.find(({ path }) => path === '/lines/post')?.body;
    expect(body).toMatchObject({
      target: { lineIds: ['a', 'b'] },
      coding: { parts: [{ accountId: '6010' }] },
    });
  });

  it('have no sum where they are in several currencies, and say so by leaving it out', async () => {
    open(row({ currency: null, lineIds: ['a'] }));
    expect(screen.getByText('1 line ticked').textContent).toBe('1 line ticked');
  });

  it('can be posted to suspense only while a question about them is out', async () => {
    const { unmount } = open(row());
    expect(screen.queryByRole('button', { name: 'Post to suspense' })).toBeNull();
    unmount();
    const { user, sent, focusList } = open(row(), '?lane=asked');
    await user.click(screen.getByRole('button', { name: 'Post to suspense' }));
    await waitFor(() => expect(focusList).toHaveBeenCalled());
    expect(sent.some(({ path }) => path === '/lines/suspend')).toBe(true);
  });

  it('are let go, and the list gets the focus back', async () => {
    const { user, focusList } = open(row());
    await user.click(screen.getByRole('button', { name: 'Untick' }));
    expect(focusList).toHaveBeenCalled();
  });
});

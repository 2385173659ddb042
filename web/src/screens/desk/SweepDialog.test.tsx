import { screen, waitFor, within } from '@testing-library/react';
import type { SweepSummary } from '@zubrell/contract/desk';
import { describe, expect, it, vi } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { testLine, testProposal } from '../../testing/testLines.ts';
import { SweepDialog } from './SweepDialog.tsx';

const summary = (change: Partial<SweepSummary> = {}): SweepSummary => ({
  seenStep: 12,
  seen: ['77'],
  count: 5,
  paidIn: 0,
  paidOut: -20_000,
  accounts: [{ accountId: '6010', count: 5, total: -20_000 }],
  pairs: { count: 0, total: 0, lines: [] },
  transfers: { count: 0, moved: 0, halves: [] },
  newPayeeIds: ['tidemark'],
  largest: [testLine('a'), testLine('b')],
  look: [testLine('c')],
  left: { check: 2, blank: 1, asked: 0, closed: 0 },
  ...change,
});
const done = { step: 13, words: 'Swept 4 ready lines', done: ['a'], leftOut: [] };

function open(answers: Record<string, object>) {
  const onClose = vi.fn();
  return { onClose, ...renderInBooks(<SweepDialog scope={{}} onClose={onClose} />, { answers }) };
}

describe('a sweep', () => {
  it('says what it would post, what is new about it, and what it leaves', async () => {
    open({ 'GET /sweep': summary() });
    expect((await screen.findByText('5 lines')).parentElement?.textContent).toContain('200.00 out');
    screen.getByText('Nothing was posted to Tidemark Freight before.');
    screen.getByText('Left for you: 2 with a doubt, 1 without a proposal.');
    expect(screen.getByRole('button', { name: 'Post 5 lines' })).toBe(document.activeElement);
    const [, row] = screen.getAllByRole('row');
    expect(row?.textContent).toBe('6010 Freight out5−200.00');
  });

  it('posts what was shown, but the lines that were taken out', async () => {
    const { user, sent, onClose } = open({
      'GET /sweep': summary(),
      'POST /lines/sweep': done,
    });
    const largest = await screen.findByRole('group', { name: 'The largest' });
    const [first = null, second = null] = within(largest).getAllByRole('checkbox');
    await user.click(first as HTMLElement);
    await user.click(second as HTMLElement);
    await user.click(second as HTMLElement);
    await user.click(screen.getByRole('button', { name: 'Post 4 lines' }));
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(sent.find(({ path }) => path === '/lines/sweep')?.body).toEqual({
      scope: {},
      without: ['a'],
      seenStep: 12,
      seen: ['77'],
    });
  });

  it('lists what is in the books already apart, with what it is', async () => {
    const target = {
      id: 't',
      kind: 'bill',
      date: '2026-03-01',
      dueDate: null,
      amount: -4_850,
      payeeId: 'tidemark',
      number: '2093',
    };
    const paired = testLine('p', {
      proposal: testProposal('6010', { kind: 'pair', targets: [target] } as never),
    });
    open({
      'GET /sweep': summary({ pairs: { count: 1, total: -4_850, lines: [paired] } }),
    });
    const group = await screen.findByRole('group', {
      name: '1 that is in the books already and is paired, −48.50',
    });
    expect(group.textContent).toContain('= Bill 2093');
  });

  it('shows both halves of a move between own accounts as one, and takes both out', async () => {
    const halves = {
      out: testLine('o', { amount: -50_000 }),
      in: testLine('i', { amount: 50_000 }),
    };
    const { user, sent } = open({
      'GET /sweep': summary({ transfers: { count: 1, moved: -50_000, halves: [halves] } }),
      'POST /lines/sweep': done,
    });
    const sum = (await screen.findByText('5 lines')).parentElement;
    expect(sum?.textContent).toContain('500.00 moved between your own accounts');
    const group = screen.getByRole('group', {
      name: '1 transfer between your own accounts, 500.00',
    });
    await user.click(within(group).getByRole('checkbox'));
    await user.click(screen.getByRole('button', { name: 'Post 3 lines' }));
    await waitFor(() =>
      expect(sent.find(({ path }) => path === '/lines/sweep')?.body).toMatchObject({
        without: ['o', 'i'],
      }),
    );
  });

  it('can’t post nothing, and stays open where it was refused', async () => {
    const empty = open({ 'GET /sweep': summary({ count: 0, largest: [], look: [] }) });
    const button = await screen.findByRole('button', { name: 'Post 0 lines' });
    expect(button).toHaveProperty('disabled', true);
    empty.unmount();
    const { user, onClose } = open({
      'GET /sweep': summary({ count: 1 }),
      'POST /lines/sweep': () => problem('PERIOD_CLOSED', { date: '01 Jan', closed: '31 Jan' }),
    });
    await user.click(await screen.findByRole('button', { name: 'Post 1 line' }));
    await waitFor(() =>
      expect(screen.getByRole('button', { name: 'Post 1 line' })).toHaveProperty('disabled', false),
    );
    expect(onClose).not.toHaveBeenCalled();
  });
});

import { screen, waitFor, within } from '@testing-library/react';
import type { BatchLine } from '@zubrell/contract/intake';
import { describe, expect, it, vi } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { FoldDialog } from './FoldDialog.tsx';

const folded = {
  date: '2026-03-03',
  amount: -4_850,
  description: 'PENHALLOW CLAY',
  reference: null,
  bankId: 'A',
  isHereWithout: true,
  source: 'march.ofx',
  place: 6,
};
const line: BatchLine = {
  ...folded,
  lineId: 'l1',
  place: 9,
  description: 'Penhallow Clay 0303',
  bankId: 'Z',
  balance: null,
  state: 'posted',
  folded,
  isDoubtful: false,
  apartLineId: null,
};

function open(change: Partial<BatchLine> = {}) {
  const opened = { ...line, ...change };
  const onClose = vi.fn();
  const answers = {
    'POST /batches/b1/lines/l1/keep-apart': { step: 2, words: 'Kept row 9 as a line of its own' },
  };
  const shown = renderInBooks(
    <FoldDialog batchId="b1" line={opened} folded={opened.folded ?? folded} onClose={onClose} />,
    { answers },
  );
  return { ...shown, onClose };
}

describe('a row that was taken for a line that was there', () => {
  it('stands beside it, with what differs marked', () => {
    open();
    const rowOf = (name: string) => screen.getByRole('row', { name: new RegExp(`^${name}`) });
    const [, theirs] = within(rowOf('Wording')).getAllByRole('cell');
    expect(theirs?.textContent).toBe('PENHALLOW CLAY');
    expect(theirs?.className).toBe('differs');
    expect(within(rowOf('Amount')).getAllByRole('cell')[1]?.className).toBe('');
    expect(screen.getByText('march.ofx, row 6')).toBeTruthy();
    expect(screen.queryByText('Reference')).toBeNull();
  });

  it('is kept as another line', async () => {
    const { user, sent, onClose } = open();
    await user.click(screen.getByRole('button', { name: 'Keep as another line' }));
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(sent).toMatchObject([{ method: 'POST', path: '/batches/b1/lines/l1/keep-apart' }]);
  });

  it('offers nothing where it was kept apart, or nothing else has the other line', () => {
    const { unmount } = open({ apartLineId: 'l2' });
    expect(screen.queryByRole('button', { name: 'Keep as another line' })).toBeNull();
    expect(screen.getByText(/is now a line of its own/)).toBeTruthy();
    unmount();
    open({ folded: { ...folded, isHereWithout: false } });
    expect(screen.queryByRole('button', { name: 'Keep as another line' })).toBeNull();
  });
});

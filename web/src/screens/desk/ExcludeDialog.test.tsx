import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { InDesk } from '../../testing/InDesk.tsx';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testLine } from '../../testing/testLines.ts';
import { ExcludeDialog } from './ExcludeDialog.tsx';
import { lineRow } from './rows.ts';

const line = testLine('copy', { amount: -3_320, description: 'Stagwell Fuel' });
const original = {
  id: 'original',
  date: '2026-03-20',
  amount: -3_320,
  description: 'STAGWELL FUEL 57 GARRAN',
  decision: null,
};
const done = { step: 9, words: 'Excluded 1 line', done: ['copy'], leftOut: [] };

function open(mates: object) {
  const focusList = vi.fn();
  const shown = renderInBooks(
    <InDesk>
      <ExcludeDialog row={lineRow(line)} focusList={focusList} />
    </InDesk>,
    {
      answers: {
        'GET /lines/copy/mates': mates,
        'GET /proof': { proof: null },
        'POST /lines/exclude': done,
      },
    },
  );
  return { focusList, ...shown };
}

describe('excluding a line', () => {
  it('takes Enter for what is most likely, a copy of the only line it can be one of', async () => {
    const { user, sent, focusList } = open({ originals: [original], corrections: [] });
    const copy = await screen.findByRole('radio', { name: /second copy/i });
    await waitFor(() => expect(screen.getByLabelText('Copy of')).toBeDefined());
    expect(copy).toHaveProperty('checked', true);
    expect(document.activeElement).toBe(copy);
    await user.keyboard('{Enter}');
    await waitFor(() => expect(focusList).toHaveBeenCalled());
    expect(sent.find(({ path }) => path === '/lines/exclude')?.body).toMatchObject({
      target: { lineIds: ['copy'] },
      reason: 'secondCopy',
      as: 'excluded',
      originals: { copy: 'original' },
    });
  });

  it('says why a reason can’t be true, and deletes instead where that is ticked', async () => {
    const { user, sent } = open({ originals: [original], corrections: [] });
    await screen.findByText('This bank account has no opening balance yet.');
    expect(screen.getByRole('radio', { name: /before the opening balance/i })).toHaveProperty(
      'disabled',
      true,
    );
    await user.click(screen.getByRole('checkbox', { name: /Delete instead of exclude/ }));
    await user.click(screen.getByRole('button', { name: 'Delete the line' }));
    await waitFor(() =>
      expect(sent.find(({ path }) => path === '/lines/exclude')?.body).toMatchObject({
        as: 'deleted',
      }),
    );
  });

  it('offers no copy where no other line has the amount', async () => {
    open({ originals: [], corrections: [] });
    await screen.findByText('No other line of this account has the same amount within a month.');
    expect(screen.getByRole('radio', { name: /second copy/i })).toHaveProperty('disabled', true);
  });
});

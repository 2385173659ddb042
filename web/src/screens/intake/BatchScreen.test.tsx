import { screen, waitFor, within } from '@testing-library/react';
import type { BatchLine, BatchSheet } from '@zubrell/contract/intake';
import { Route, Routes } from 'react-router';
import { describe, expect, it } from 'vitest';
import { problem, renderInBooks } from '../../testing/renderInBooks.tsx';
import { BatchScreen } from './BatchScreen.tsx';

const batch: BatchSheet = {
  id: 'here',
  bankAccountId: 'everyday',
  feedId: null,
  movedFrom: null,
  fileName: 'march.ofx',
  status: 'kept',
  format: 'ofx1',
  refusal: null,
  problems: [],
  fromDate: '2026-03-01',
  toDate: '2026-03-31',
  opening: 10_000,
  closing: 8_400,
  closingDate: '2026-03-31',
  lineCount: 3,
  newCount: 2,
  createdBy: 'Mo Oakes',
  createdAt: '2026-04-01T09:00:00.000Z',
  step: 7,
  counts: { open: 1, posted: 1, excluded: 0, shared: 1, ownDecided: 1 },
  turnedBy: null,
  firstBreak: null,
};

function line(place: number, changed: Partial<BatchLine> = {}): BatchLine {
  return {
    lineId: `line-${place}`,
    place,
    date: '2026-03-05',
    amount: -4_850,
    description: `TIDEMARK FRT ${place}`,
    reference: null,
    bankId: null,
    balance: null,
    state: 'open',
    folded: null,
    isDoubtful: false,
    apartLineId: null,
    ...changed,
  };
}

function shown(
  changed: Partial<BatchSheet> = {},
  lines: (query: URLSearchParams) => object = () => ({ items: [line(1)], next: null }),
) {
  return renderInBooks(
    <Routes>
      <Route path=":batchId" element={<BatchScreen />} />
    </Routes>,
    {
      answers: {
        'GET /batches/here': { ...batch, ...changed },
        'GET /batches/here/lines': lines,
        'POST /batches/here/take-back': { step: 8, words: 'Took march.ofx back' },
        'POST /steps/undo': { step: 9, words: 'Undid: Took march.ofx back' },
      },
    },
  );
}

describe('an import', () => {
  it('says what it brought, and that its balances add up', async () => {
    shown();
    expect(await screen.findByRole('heading', { name: 'march.ofx' })).toBeDefined();
    expect(screen.getByText(/Everyday account, imported .* by Mo Oakes/)).toBeDefined();
    expect(screen.getByText('The balances add up with the lines already here.')).toBeDefined();
    const tally = screen.getByText('New lines').parentElement;
    expect(tally?.textContent).toContain('New lines2');
    expect(tally?.textContent).toContain('Closing balance84.00');
  });

  it('says from when on its balances don’t add up, or that it states none', async () => {
    const firstBreak = { date: '2026-03-12', stated: 9_000, difference: 500, since: '2026-03-04' };
    const { unmount } = shown({ firstBreak });
    expect(
      await screen.findByText(/stop adding up on .* by \+5\.00\. They agreed until/),
    ).toBeDefined();
    unmount();
    shown({ closing: null });
    expect(await screen.findByText('The file states no balance.')).toBeDefined();
    expect(screen.queryByText('Closing balance')).toBeNull();
  });

  it('lists its lines page by page, with what became of each', async () => {
    const { user } = shown({}, (query) =>
      query.get('cursor') === null
        ? { items: [line(1, { state: 'posted' }), line(2, { isDoubtful: true })], next: 'more' }
        : { items: [line(3, { state: 'gone' })], next: null },
    );
    const cells = () =>
      screen
        .getAllByRole('row')
        .slice(1)
        .map((row) => row.lastChild?.textContent);
    expect(await screen.findByText('TIDEMARK FRT 2')).toBeDefined();
    expect(cells()).toEqual(['posted', 'twice?']);
    await user.click(screen.getByRole('button', { name: 'More' }));
    expect(await screen.findByText('TIDEMARK FRT 3')).toBeDefined();
    expect(cells()).toEqual(['posted', 'twice?', 'not in the books']);
    expect(screen.queryByRole('button', { name: 'More' })).toBeNull();
  });

  it('is taken back with what was decided, as one says', async () => {
    const { user, sent } = shown();
    await user.click(await screen.findByRole('button', { name: 'Undo import' }));
    const dialog = within(await screen.findByRole('dialog'));
    expect(dialog.getByText(/1 open line is removed\./).textContent).toContain(
      '1 line is also in other imports and stays',
    );
    await user.click(dialog.getByRole('radio', { name: 'Reopen them and remove them too' }));
    await user.click(dialog.getByRole('button', { name: 'Undo import' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent.find(({ method }) => method === 'POST')).toMatchObject({
      path: '/batches/here/take-back',
      body: { decided: 'undo' },
    });
  });

  it('that was taken back is brought back by its step', async () => {
    const { user, sent } = shown({ status: 'takenBack', turnedBy: { no: 8, isUndo: false } });
    expect(
      await screen.findByText('Undone: its open lines are no longer in the books.'),
    ).toBeDefined();
    expect(screen.queryByRole('button', { name: 'Undo import' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Restore import' }));
    await waitFor(() =>
      expect(sent.find(({ path }) => path === '/steps/undo')?.body).toEqual({
        step: 8,
        withLater: false,
      }),
    );
  });

  it('that is not there says so', async () => {
    renderInBooks(
      <Routes>
        <Route path=":batchId" element={<BatchScreen />} />
      </Routes>,
      { answers: { 'GET /batches/here': () => problem('BATCH_UNKNOWN') } },
    );
    expect(await screen.findByRole('alert')).toBeDefined();
  });
});

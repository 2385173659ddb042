import { screen, waitFor, within } from '@testing-library/react';
import type { TaxDraft, TaxReturn } from '@zubrell/contract/tax';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
import { TaxReturnScreen } from './TaxReturnScreen.tsx';

const none = { outputNet: null, outputTax: null, inputNet: null, inputTax: null };
const setup = (part: Parameters<typeof testBooks>[0] = {}) => ({
  ...testBooks(part),
  taxCodes: [
    {
      id: 'full',
      name: '20 %',
      kind: 'standard' as const,
      use: 'both' as const,
      rates: [{ fromDate: null, rate: 2_000 }],
      inputAccountId: '2210',
      outputAccountId: '2220',
      recoverable: 10_000,
      boxes: { ...none, outputTax: 'B Tax on sales', inputTax: 'G Input tax' },
      isOn: true,
    },
  ],
});
const figures = (late = 0) => ({
  rows: [
    {
      taxCodeId: 'full',
      side: 'output' as const,
      net: 20_000,
      tax: 4_000,
      count: 1,
      late: { net: 0, tax: 0 },
    },
    {
      taxCodeId: 'full',
      side: 'input' as const,
      net: 9_000,
      tax: 1_800,
      count: 2,
      late: { net: late * 5, tax: late },
    },
  ],
  agreement: {
    balance: -2_200,
    own: -2_200,
    earlier: 0,
    others: 0,
    accounts: [{ accountId: '2220', balance: -2_200 }],
  },
});
const MARCH = { from: '2026-03-01', to: '2026-03-30' };
const draft = (late = 0): TaxDraft => ({
  ...MARCH,
  ...figures(late),
  open: { count: 3, amount: 700 },
});
const filed: TaxReturn = {
  id: 'february',
  kind: 'filed',
  from: '2026-02-01',
  to: '2026-02-28',
  figures: figures(),
  note: 'sent by post',
  entryId: null,
  filedBy: 'Mo Oakes',
  filedAt: '2026-03-10T09:00:00Z',
  step: 12,
};
const answers = (late = 0) => ({
  'GET /tax-returns': { returns: [filed], next: MARCH },
  'GET /tax-returns/next': draft(late),
  'POST /tax-returns': { id: 'march', step: 13, words: 'Filed the tax return' },
});
const cells = (row: RegExp) =>
  within(screen.getByRole('row', { name: row }))
    .getAllByRole('cell')
    .map(({ textContent }) => textContent);

describe('the tax return', () => {
  it('shows codes, boxes, what is due, and that it agrees with the tax accounts', async () => {
    renderInBooks(<TaxReturnScreen />, { setup: setup(), answers: answers() });
    expect(await screen.findByText('22.00 due: 40.00 output tax, 18.00 input tax')).toBeDefined();
    expect(cells(/^B Tax on sales/)).toEqual(['—', '40.00', '—', '—']);
    expect(cells(/^Tax due/)[1]).toBe('22.00');
    expect(cells(/^Unexplained/)).toEqual(['0.00']);
    expect(screen.getByText('3 open lines, 7.00')).toBeDefined();
    expect(screen.queryByText(/dated before this period/)).toBeNull();
  });

  it('is filed with what was seen, moved and locked as wanted', async () => {
    const { user, sent } = renderInBooks(<TaxReturnScreen />, {
      setup: setup(),
      answers: answers(200),
    });
    expect(await screen.findByText(/Part of this return is dated before the period/)).toBeDefined();
    await user.click(screen.getByLabelText('Lock the books up to 30 March 2026'));
    await user.type(screen.getByLabelText('Note for the record'), 'by post');
    await user.click(screen.getByRole('button', { name: 'File return' }));
    await waitFor(() => expect(sent.some(({ method }) => method === 'POST')).toBe(true));
    expect(sent.find(({ method }) => method === 'POST')?.body).toEqual({
      ...MARCH,
      seenDue: 2_200,
      movesTax: true,
      locks: false,
      note: 'by post',
    });
  });

  it('that was filed says by whom, and is undone by its step', async () => {
    const { user, sent } = renderInBooks(<TaxReturnScreen />, {
      setup: setup(),
      answers: { ...answers(), 'POST /steps/undo': { step: 14, words: 'Undid', turned: [] } },
      query: '?return=february',
    });
    expect(await screen.findByText('sent by post')).toBeDefined();
    expect(screen.queryByRole('button', { name: 'File return' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Undo filing' }));
    await waitFor(() => expect(sent.some(({ path }) => path === '/steps/undo')).toBe(true));
    expect(sent.find(({ path }) => path === '/steps/undo')?.body).toMatchObject({ step: 12 });
  });

  it('is not filed by a role without leave', async () => {
    renderInBooks(<TaxReturnScreen />, {
      setup: setup({ role: 'bookkeeper' }),
      answers: answers(),
    });
    expect(await screen.findByText(/Your role can’t file returns/)).toBeDefined();
  });
});

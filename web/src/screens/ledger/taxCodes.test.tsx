import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testAccount, testBooks } from '../../testing/testBooks.ts';
import { TaxCodesPage } from './TaxCodesPage.tsx';
import { completeTaxCode, emptyTaxCode, typedPercent } from './taxCodeDraft.ts';

const none = { outputNet: null, outputTax: null, inputNet: null, inputTax: null };
const code = {
  id: 'full',
  name: '20 %',
  kind: 'standard' as const,
  use: 'both' as const,
  rates: [
    { fromDate: null, rate: 1_900 },
    { fromDate: '2020-01-01', rate: 2_000 },
  ],
  inputAccountId: null,
  outputAccountId: null,
  recoverable: 10_000,
  boxes: { ...none, outputTax: 'B Tax on sales' },
  isOn: true,
};

describe('tax codes', () => {
  it('are listed with the rate of today, and switched off', async () => {
    const { user, sent } = renderInBooks(<TaxCodesPage />, {
      setup: { ...testBooks(), taxCodes: [code] },
      answers: { 'PUT /tax-codes/full': { step: 3, words: 'Switched tax code 20 % off' } },
    });
    const row = await screen.findByRole('row', { name: /^20 % Tax at a rate/ });
    expect(within(row).getAllByRole('cell')[3]?.textContent).toBe('20 %');
    await user.click(screen.getByRole('button', { name: 'Switch off 20 %' }));
    await waitFor(() => expect(sent.at(-1)?.method).toBe('PUT'));
    expect(sent.find(({ method }) => method === 'PUT')?.body).toMatchObject({
      isOn: false,
      rates: code.rates,
    });
  });

  it('are made with a rate, and say what is missing until then', async () => {
    const { user, sent } = renderInBooks(<TaxCodesPage />, {
      answers: { 'POST /tax-codes': { id: 'new', step: 4, words: 'Added tax code 9 %' } },
    });
    await user.click(await screen.findByRole('button', { name: 'New tax code' }));
    expect(screen.getByText('Enter a name.')).toBeDefined();
    await user.type(screen.getByLabelText('Name'), '9 %');
    expect(screen.getByText('Enter a rate.')).toBeDefined();
    await user.type(screen.getByLabelText('Rate, %'), '9,5');
    await user.click(screen.getByRole('button', { name: 'Save tax code' }));
    await waitFor(() => expect(sent.some(({ method }) => method === 'POST')).toBe(true));
    expect(sent.find(({ method }) => method === 'POST')?.body).toMatchObject({
      name: '9 %',
      rates: [{ fromDate: null, rate: 950 }],
      recoverable: 10_000,
    });
  });

  it('are changed: a rate from a day on, and accounts that are in use', async () => {
    const books = testBooks();
    const tax = (code: string, name: string, change: object = {}) => ({
      ...testAccount(code, name, 'liability'),
      ...change,
    });
    const { user, sent } = renderInBooks(<TaxCodesPage />, {
      setup: {
        ...books,
        accounts: [
          ...books.accounts,
          tax('2210', 'Input tax'),
          tax('2215', 'Old input tax', { isOn: false }),
          tax('2216', 'Older input tax', { mergedInto: '2210' }),
          tax('2225', 'Old output tax', { isOn: false }),
        ],
        taxCodes: [{ ...code, outputAccountId: '2225' }],
      },
      answers: { 'PUT /tax-codes/full': { step: 3, words: 'Changed tax code 20 %' } },
    });
    await user.click(await screen.findByRole('button', { name: '20 %' }));
    const dialog = within(await screen.findByRole('dialog'));
    const choices = (label: string) =>
      within(dialog.getByLabelText(label))
        .getAllByRole('option')
        .map(({ textContent }) => textContent);
    expect(choices('Input tax goes to')).toEqual([
      'no account',
      '1500 Equipment',
      '2210 Input tax',
    ]);
    expect(choices('Output tax goes to')).toContain('2225 Old output tax');
    expect(dialog.getByText('Lines already posted keep their tax.')).toBeDefined();
    await user.selectOptions(dialog.getByLabelText('Input tax goes to'), '2210');
    await user.click(dialog.getAllByRole('button', { name: 'Remove rate' })[0] ?? document.body);
    await user.click(dialog.getByRole('button', { name: 'Add rate' }));
    await user.type(dialog.getAllByLabelText('Rate, %').at(-1) ?? document.body, '21');
    const from = dialog.getAllByLabelText('From').at(-1) ?? document.body;
    await user.type(from, '2027-01-01');
    await user.tab();
    await user.click(dialog.getByRole('button', { name: 'Save tax code' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sent.find(({ method }) => method === 'PUT')?.body).toMatchObject({
      inputAccountId: '2210',
      outputAccountId: '2225',
      rates: [
        { fromDate: '2020-01-01', rate: 2_000 },
        { fromDate: '2027-01-01', rate: 2_100 },
      ],
    });
  });

  it('can only be looked at by a reviewer', async () => {
    renderInBooks(<TaxCodesPage />, {
      setup: { ...testBooks({ role: 'reviewer' }), taxCodes: [code] },
    });
    expect((await screen.findAllByText('20 %')).length).toBeGreaterThan(0);
    expect(screen.queryByRole('button', { name: 'New tax code' })).toBeNull();
  });
});

describe('a tax code as it is typed', () => {
  it.each([
    ['20', 2_000],
    ['5,5 %', 550],
    ['100', 10_000],
    ['101', null],
    ['twenty', null],
    ['', null],
  ])('reads %j as %s', (typed, basisPoints) => {
    expect(typedPercent(typed)).toBe(basisPoints);
  });

  it('has no rates where its kind has none', () => {
    const draft = { ...emptyTaxCode({ input: null, output: null }), name: 'Exempt' };
    expect(completeTaxCode({ ...draft, kind: 'exempt' })).toMatchObject({ code: { rates: [] } });
    expect(completeTaxCode({ ...draft, recoverable: 'half' })).toEqual({
      missing: 'how much input tax is recoverable, from 0 to 100 %',
    });
  });
});

import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { testBooks } from '../../testing/testBooks.ts';
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

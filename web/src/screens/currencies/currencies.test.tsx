import { screen, waitFor, within } from '@testing-library/react';
import type { ExchangeRates, Valuation } from '@zubrell/contract/currencies';
import { describe, expect, it } from 'vitest';
import { InCurrency } from '../../app/InCurrency.tsx';
import { renderInBooks } from '../../testing/renderInBooks.tsx';
import { Amount } from '../../ui/Amount.tsx';
import { AmountField } from '../../ui/AmountField.tsx';
import { RateField } from '../../ui/RateField.tsx';
import { ExchangeRatesPage } from './ExchangeRatesPage.tsx';

const RATES: ExchangeRates = {
  rates: [
    { id: 'r2', currency: 'USD', date: '2026-03-31', rate: '0.8' },
    { id: 'r1', currency: 'USD', date: '2026-03-03', rate: '0.923190546529' },
  ],
  used: ['USD'],
};
const VALUATION: Valuation = { date: '2026-02-28', entryId: null, items: [] };
const answers = {
  'GET /exchange-rates': RATES,
  'GET /valuation': VALUATION,
  'POST /exchange-rates': { words: 'Set', step: 3 },
  'DELETE /exchange-rates/r1': { words: 'Removed', step: 4 },
};

describe('exchange rates', () => {
  it('stand both ways round, and one is removed', async () => {
    const { user, sent } = renderInBooks(<ExchangeRatesPage />, { answers });
    const row = (await screen.findByText('0.923191')).closest('tr');
    expect(row?.textContent).toContain('1.0832');
    await user.click(within(row as HTMLElement).getByRole('button', { name: /^Remove the rate/ }));
    await waitFor(() =>
      expect(sent.filter(({ method }) => method === 'DELETE').map(({ path }) => path)).toEqual([
        '/exchange-rates/r1',
      ]),
    );
  });

  it('are set with a comma or a point, and not below zero', async () => {
    const { user, sent } = renderInBooks(<ExchangeRatesPage />, { answers });
    const figure = await screen.findByLabelText('1 USD in EUR');
    await user.click(figure);
    await user.paste('-1');
    expect(screen.getByText('A number above zero.')).toBeDefined();
    await user.clear(figure);
    await user.paste('0,95');
    await user.keyboard('{Enter}');
    await waitFor(() =>
      expect(sent.find(({ method }) => method === 'POST')?.body).toMatchObject({
        currency: 'USD',
        rate: '0.95',
      }),
    );
  });
});

describe('a part in another currency', () => {
  it('shows amounts with its letters, and takes them with its decimals', async () => {
    let typed: number | null = null;
    const { user } = renderInBooks(
      <InCurrency currency="JPY">
        <Amount minor={-1_500} />
        <AmountField label="Amount" value={null} onChange={(value) => (typed = value)} />
      </InCurrency>,
    );
    expect(screen.getByText('−1,500 JPY')).toBeDefined();
    await user.type(screen.getByLabelText('Amount'), '2500{Enter}');
    expect(typed).toBe(2_500);
  });

  it('leaves the letters out where they stand above, and others in', () => {
    renderInBooks(
      <InCurrency currency="USD" isBare>
        <Amount minor={100} />
        <Amount minor={200} currency="JPY" />
      </InCurrency>,
    );
    expect(screen.getByText('+1.00')).toBeDefined();
    expect(screen.getByText('+200 JPY')).toBeDefined();
  });
});

describe('the rate of a line', () => {
  const field = (date: string, onChange: (rate: string | null) => void = () => {}) =>
    renderInBooks(<RateField currency="USD" date={date} value={null} onChange={onChange} />, {
      answers,
    });

  it('is that of the newest day before, at most ten days back', async () => {
    field('2026-03-10');
    expect(await screen.findByPlaceholderText('0.923191 (of the day)')).toBeDefined();
  });

  it('has to be typed where none is near, and can be typed otherwise', async () => {
    const given: (string | null)[] = [];
    const { user } = field('2026-03-20', (rate) => given.push(rate));
    const input = await screen.findByPlaceholderText('type a rate');
    await user.type(input, 'dear');
    await user.tab();
    expect(given).toEqual([]);
    await user.clear(input);
    await user.type(input, '0,9');
    await user.tab();
    expect(given).toEqual(['0.9']);
  });

  it('is not asked for in the books’ own currency', () => {
    renderInBooks(<RateField currency="EUR" date="2026-03-10" value={null} onChange={() => {}} />);
    expect(screen.queryByRole('textbox')).toBeNull();
  });
});

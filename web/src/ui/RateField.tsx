import { skipToken } from '@reduxjs/toolkit/query';
import { addDays } from '@zubrell/core/dates/calendarDate';
import { OLDEST_RATE, parseRate } from '@zubrell/core/exchange/rate';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { currenciesApi } from '../api/currencies.ts';
import { useBooks } from '../app/useBooks.ts';

/** The rate of a day as the books know it; null where none is near. */
export function useDayRate(currency: string | null, date: string): string | null {
  const { booksId } = useBooks();
  const { data } = currenciesApi.useExchangeRatesQuery(
    currency === null || date === '' ? skipToken : booksId,
  );
  if (date === '') return null;
  const from = addDays(date, -OLDEST_RATE);
  const found = data?.rates.find(
    (rate) => rate.currency === currency && rate.date <= date && rate.date >= from,
  );
  return found?.rate ?? null;
}

/** The exchange rate of a day, or another that is typed; nothing where the currency is that of the books. */
export function RateField({
  currency,
  date,
  value,
  onChange,
}: {
  readonly currency: string;
  readonly date: string;
  /** What was typed; null for the rate of the day. */
  readonly value: string | null;
  readonly onChange: (rate: string | null) => void;
}) {
  const { setup } = useBooks();
  const own = setup.books.currency;
  const day = useDayRate(currency === own ? null : currency, date);
  const [typed, setTyped] = useState<string | null>(null);
  if (currency === own) return null;
  const shown = typed ?? value ?? '';
  const isWrong = shown.trim() !== '' && parseRate(shown) === null;
  return (
    <label className="field rate-field">
      <span className="small-heading">{t`1 ${currency} in ${own}`}</span>
      <input
        className={`form-control form-control-sm num ${isWrong ? 'is-invalid' : ''}`}
        inputMode="decimal"
        aria-label={t`How much ${own} 1 ${currency} is`}
        aria-invalid={isWrong}
        title={isWrong ? t`A rate is a number above zero, such as 0.9235` : undefined}
        placeholder={day === null ? t`type a rate` : t`${shortRate(day)} (of the day)`}
        value={shown}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={() => {
          const rate = parseRate(shown);
          if (shown.trim() !== '' && rate === null) return;
          setTyped(null);
          if (rate !== value) onChange(rate);
        }}
      />
    </label>
  );
}

/** A rate with at most six decimals. @example shortRate('0.923190546529') // '0.923191' */
export function shortRate(rate: string): string {
  const [, fraction = ''] = rate.split('.');
  return fraction.length <= 6 ? rate : String(Number(Number(rate).toFixed(6)));
}

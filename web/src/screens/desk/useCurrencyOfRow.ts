import { t } from '@zubrell/core/words/t';
import { useBooks } from '../../app/useBooks.ts';
import type { DeskRow } from './rows.ts';

/** In which currency the lines of a row are; null where they are in several, or there is no row. */
export function useCurrencyOfRow(): (row: DeskRow | null) => string | null {
  const { setup, currencyOf } = useBooks();
  const all = new Set(setup.bankAccounts.map(({ currency }) => currency));
  return (row) => {
    switch (row?.kind) {
      case 'line':
        return currencyOf(row.line.bankAccountId);
      case 'stack':
        return row.stack.currency;
      case 'ticked':
        return row.currency;
      case 'lane':
        return all.size === 1 ? ([...all][0] ?? null) : null;
      default:
        return null;
    }
  };
}

/** What the lines of a row come to, as in “of 48.50”; nothing where they are in several currencies. */
export function useOfAmount(): (row: DeskRow, total: number) => string {
  const { amount } = useBooks();
  const currencyOfRow = useCurrencyOfRow();
  return (row, total) => {
    const currency = currencyOfRow(row);
    return currency === null ? '' : t` of ${amount(total, { currency })}`;
  };
}

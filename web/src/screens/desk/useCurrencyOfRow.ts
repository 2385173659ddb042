import { useBooks } from '../../app/useBooks.ts';
import type { DeskRow } from './rows.ts';

/** In which currency the lines of a row are; null where they are in several, or there is no row. */
export function useCurrencyOfRow(): (row: DeskRow | null) => string | null {
  const { currencyOf } = useBooks();
  return (row) => {
    if (row?.kind === 'line') return currencyOf(row.line.bankAccountId);
    return row?.kind === 'stack' ? row.stack.currency : null;
  };
}

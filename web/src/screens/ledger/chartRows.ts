import type { BooksSetup } from '@zubrell/contract/books';
import type { ChartRow } from '@zubrell/core/ledger/chartFile';
import { standing } from '../../app/useBooks.ts';

/** The accounts of the books as a file has them. */
export function chartRows({ accounts }: Pick<BooksSetup, 'accounts'>): ChartRow[] {
  const codes = new Map(accounts.map(({ id, code }) => [id, code]));
  return standing(accounts).map(({ code, name, type, parentId, tax, purpose }) => ({
    code,
    name,
    type,
    below: (parentId && codes.get(parentId)) ?? null,
    tax,
    purpose,
  }));
}

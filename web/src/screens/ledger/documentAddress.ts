import type { Entry } from '@zubrell/contract/ledger';
import type { BooksId } from '@zubrell/core/ids';

/** Where a document is to be seen. */
export function documentAddress(
  booksId: BooksId,
  { id, kind }: NonNullable<Entry['document']>,
): string {
  return `/books/${booksId}/ledger/${kind === 'invoice' ? 'invoices' : 'bills'}?document=${id}`;
}

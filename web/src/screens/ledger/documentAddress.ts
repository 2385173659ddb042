import type { Entry } from '@zubrell/contract/ledger';

/** Where a document is to be seen. */
export function documentAddress(
  booksId: string,
  { id, kind }: NonNullable<Entry['document']>,
): string {
  return `/books/${booksId}/ledger/${kind === 'invoice' ? 'invoices' : 'bills'}?document=${id}`;
}

import type { ListedDocument } from '@zubrell/contract/documents';
import type { PayeeId } from '@zubrell/core/ids';
import { documentsApi } from '../../api/documents.ts';
import { useBooks } from '../../app/useBooks.ts';

/** The documents of a payee on either side that are not void, open or not. */
export function usePayeeDocuments(payeeId: PayeeId | null): readonly ListedDocument[] {
  const { booksId, payeeName } = useBooks();
  const wanted = { booksId, state: undefined, search: payeeName(payeeId) };
  const skip = { skip: payeeId === null };
  const bills = documentsApi.useDocumentsQuery({ ...wanted, side: 'payables' }, skip).data;
  const invoices = documentsApi.useDocumentsQuery({ ...wanted, side: 'receivables' }, skip).data;
  return [...(bills?.documents ?? []), ...(invoices?.documents ?? [])].filter(
    (document) => document.payeeId === payeeId && !document.isVoid,
  );
}

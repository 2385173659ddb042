import type { Statement } from '@zubrell/contract/statements';
import { statementsApi } from '../../api/statements.ts';
import { useBooks } from '../../app/useBooks.ts';

/** What is in a statement, page by page; no rows as long as the first page is not there. */
export function useStatementRows({ bankAccountId, to }: Pick<Statement, 'bankAccountId' | 'to'>) {
  const { booksId } = useBooks();
  const pages = statementsApi.useStatementRowsInfiniteQuery({ booksId, bankAccountId, to });
  const rows = pages.data?.pages.flatMap(({ items }) => items) ?? null;
  return { pages, rows };
}

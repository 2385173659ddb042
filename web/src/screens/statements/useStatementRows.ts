import type { Statement } from '@zubrell/contract/statements';
import { useEffect } from 'react';
import { statementsApi } from '../../api/statements.ts';
import { useBooks } from '../../app/useBooks.ts';

/** What is in a statement, page by page; no rows as long as the first page is not there. */
export function useStatementRows({ bankAccountId, to }: Pick<Statement, 'bankAccountId' | 'to'>) {
  const { booksId } = useBooks();
  const pages = statementsApi.useStatementRowsInfiniteQuery({ booksId, bankAccountId, to });
  const rows = pages.data?.pages.flatMap(({ items }) => items) ?? null;
  return { pages, rows };
}

/** Fetches pages until lines that an explanation names are among the rows, as far as they are dated in the statement. */
export function useMarkedRows(statement: Statement, marked: readonly string[]): void {
  const {
    rows,
    pages: { hasNextPage, isFetching, isError, fetchNextPage },
  } = useStatementRows(statement);
  // Pages end with whole days.
  const shownTo = rows?.at(-1)?.date ?? statement.to;
  const isBeyond = statement.named.some(
    ({ id, date }) => marked.includes(id) && date > shownTo && date <= statement.to,
  );
  useEffect(() => {
    if (isBeyond && hasNextPage && !isFetching && !isError) void fetchNextPage();
  }, [isBeyond, hasNextPage, isFetching, isError, fetchNextPage]);
}

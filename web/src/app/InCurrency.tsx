import type { ReactNode } from 'react';
import { BooksContext, inCurrency, useBooks } from './useBooks.ts';

/** A part of a screen whose amounts are shown and typed in a currency; null leaves it as it is. */
export function InCurrency({
  currency,
  isBare = false,
  children,
}: {
  readonly currency: string | null;
  /** The letters are left out of amounts, as they stand above them. */
  readonly isBare?: boolean;
  readonly children: ReactNode;
}) {
  const books = useBooks();
  if (currency === null || (currency === books.currency && !isBare)) return children;
  return (
    <BooksContext.Provider value={inCurrency(books, currency, isBare)}>
      {children}
    </BooksContext.Provider>
  );
}

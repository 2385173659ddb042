import type { ReactNode } from 'react';
import { BooksContext, inCurrency, useBooks } from './useBooks.ts';

/** A part of a screen whose amounts are shown and typed in a currency; null leaves it as it is. */
export function InCurrency({
  currency,
  children,
}: {
  readonly currency: string | null;
  readonly children: ReactNode;
}) {
  const books = useBooks();
  if (currency === null || currency === books.currency) return children;
  return (
    <BooksContext.Provider value={inCurrency(books, currency)}>{children}</BooksContext.Provider>
  );
}

import type { BooksId } from '@zubrell/core/ids';

/** What of a line its address is made of. */
interface AddressedLine {
  readonly date: string;
  readonly description: string;
  readonly isOpen: boolean;
}

/**
 * Where a line is to be seen: the Desk, in its month, with a search for its wording.
 *
 * @example lineAddress('b1', { date: '2026-03-12', description: 'HARROW 7', isOpen: false })
 * // '/books/b1/desk?lane=decided&period=2026-03&q=HARROW+7'
 */
export function lineAddress(
  booksId: BooksId,
  { date, description, isOpen }: AddressedLine,
): string {
  const query = new URLSearchParams({
    ...(isOpen ? {} : { lane: 'decided' }),
    period: date.slice(0, 7),
    q: description,
  });
  return `/books/${booksId}/desk?${query}`;
}

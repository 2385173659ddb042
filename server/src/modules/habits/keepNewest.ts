/** So many books are kept in mind; the others are read anew when they are worked on. */
const MOST_BOOKS = 20;

/** Puts what is known of books among what is kept in mind, and lets go of what was used longest ago. */
export function keepNewest<Known>(kept: Map<string, Known>, booksId: string, known: Known): void {
  kept.delete(booksId);
  kept.set(booksId, known);
  for (const [oldest] of kept) {
    if (kept.size <= MOST_BOOKS) break;
    kept.delete(oldest);
  }
}

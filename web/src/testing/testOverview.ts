import type { BooksOverview, BooksSummary } from '@zubrell/contract/overview';

/** Books as the list of all has them; nothing is left to do in them but what is told. */
export const testOverview = (
  name: string,
  summary: Partial<BooksSummary> = {},
  change: Partial<BooksOverview> = {},
): BooksOverview => ({
  id: name,
  name,
  currency: 'EUR',
  role: 'owner',
  isArchived: false,
  summary: {
    open: 0,
    ready: 0,
    check: 0,
    asked: 0,
    oldestAsked: null,
    askedOf: null,
    unexplained: 0,
    troubledFeed: null,
    feedCount: 0,
    lastFetch: null,
    months: [],
    lastClosed: null,
    openMonth: null,
    ...summary,
  },
  ...change,
});

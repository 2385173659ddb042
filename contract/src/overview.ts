import { glanceStates } from '@zubrell/core/overview/nextInBooks';
import { z } from 'zod';
import { BooksListing } from './books.ts';
import { CalendarDate, Minor } from './common.ts';

/** What of books is shown in the list of all. */
export const BooksSummary = z.object({
  open: z.int(),
  ready: z.int(),
  check: z.int(),
  asked: z.int(),
  oldestAsked: CalendarDate.nullable(),
  askedOf: z.string().nullable(),
  unexplained: Minor,
  /** The feed that is in trouble, by name. */
  troubledFeed: z.string().nullable(),
  feedCount: z.int(),
  lastFetch: CalendarDate.nullable(),
  /** The newest six months, the oldest first. */
  months: z.array(z.object({ month: z.string(), state: z.enum(glanceStates) })),
  lastClosed: z.string().nullable(),
  /** The oldest month that has lines and isn't closed. */
  openMonth: z.string().nullable(),
});
export type BooksSummary = z.infer<typeof BooksSummary>;

/** Books in the list, with what is left to do in them; null until it was first worked out. */
export const BooksOverview = BooksListing.extend({
  isArchived: z.boolean(),
  summary: BooksSummary.nullable(),
});
export type BooksOverview = z.infer<typeof BooksOverview>;

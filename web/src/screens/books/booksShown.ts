import type { BooksOverview } from '@zubrell/contract/overview';
import { daysBetween, monthOf } from '@zubrell/core/dates/calendarDate';
import { type NextKind, needsSomebody, nextInBooks } from '@zubrell/core/overview/nextInBooks';
import { t } from '@zubrell/core/words/t';
import { counted, formatCount } from '../../app/formats.ts';

/** What the list of books is put in order by. */
export type BooksOrder = 'needs' | 'name' | 'closed';

/** What is next in books; null for those where one only answers questions, or that were not calculated yet. */
export function nextOf({ summary }: BooksOverview, today: string): NextKind | null {
  if (summary === null) return null;
  const { oldestAsked } = summary;
  const askedDays = oldestAsked === null ? 0 : daysBetween(oldestAsked, today);
  return nextInBooks(summary, askedDays, monthOf(today));
}

/** How much books need somebody: the smaller the more. */
const URGENCY: Readonly<Record<NextKind, number>> = {
  signIn: 0,
  findCause: 1,
  remind: 2,
  postReady: 3,
  goOn: 4,
  closeMonth: 5,
  nothing: 6,
};

/** Books in an order; those that are alike by name. */
export function inOrder(
  books: readonly BooksOverview[],
  order: BooksOrder,
  today: string,
): BooksOverview[] {
  const byName = (a: BooksOverview, b: BooksOverview) => a.name.localeCompare(b.name);
  const urgency = (each: BooksOverview) => URGENCY[nextOf(each, today) ?? 'nothing'];
  const closed = ({ summary }: BooksOverview) => summary?.lastClosed ?? '';
  return [...books].sort((a, b) => {
    if (order === 'needs') return urgency(a) - urgency(b) || byName(a, b);
    if (order === 'closed') return closed(a).localeCompare(closed(b)) || byName(a, b);
    return byName(a, b);
  });
}

/** @example headline(books, today) // '3 of 9 books need you today' */
export function headline(books: readonly BooksOverview[], today: string): string {
  const needing = books.filter((each) => needsSomebody(nextOf(each, today) ?? 'nothing')).length;
  if (books.length === 0) return t`Books`;
  if (needing === 0) return t`No books need you today`;
  if (books.length === 1) return t`Your books need you today`;
  return needing === 1
    ? t`1 of ${books.length} books needs you today`
    : t`${needing} of ${books.length} books need you today`;
}

/** How many lines are open and Ready in all of them. */
export function leftToDo(books: readonly BooksOverview[]): string {
  const total = (of: 'open' | 'ready') =>
    books.reduce((sum, { summary }) => sum + (summary?.[of] ?? 0), 0);
  const [open, ready] = [total('open'), total('ready')];
  if (open === 0) return t`No lines are open.`;
  return t`${counted(open, 'line is', 'lines are')} open, ${formatCount(ready)} of them ready.`;
}

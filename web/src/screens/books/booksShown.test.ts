import type { BooksSummary } from '@zubrell/contract/overview';
import { describe, expect, it } from 'vitest';
import { testOverview } from '../../testing/testOverview.ts';
import { headline, inOrder, leftToDo, nextOf } from './booksShown.ts';

const TODAY = '2026-04-08';
const books = (name: string, more: Partial<BooksSummary> = {}) =>
  testOverview(name, { lastClosed: '2026-02', openMonth: '2026-03', ...more });
const all = [
  books('Tollgate Bindery'),
  books('Orrel Orchard Press', { open: 310, ready: 285 }),
  books('Fennick Canoe Hire', {
    open: 64,
    ready: 19,
    oldestAsked: '2026-03-16',
    lastClosed: '2026-01',
  }),
  books('Larkmoor Kiln Works', { open: 156, ready: 118, unexplained: 3_320 }),
];

describe('the list of all books', () => {
  it('begins with those that need somebody', () => {
    expect(inOrder(all, 'needs', TODAY).map(({ name }) => name)).toEqual([
      'Larkmoor Kiln Works',
      'Fennick Canoe Hire',
      'Orrel Orchard Press',
      'Tollgate Bindery',
    ]);
    expect(inOrder(all, 'closed', TODAY)[0]?.name).toBe('Fennick Canoe Hire');
    expect(inOrder(all, 'name', TODAY)[0]?.name).toBe('Fennick Canoe Hire');
  });

  it('says how many need somebody, and what is left in all of them', () => {
    expect(headline(all, TODAY)).toBe('2 of 4 books need you today');
    expect(headline([books('Tollgate Bindery')], TODAY)).toBe('No books need you today');
    expect(leftToDo(all)).toBe('530 lines are open, 422 of them ready.');
  });

  it('says what is next in each', () => {
    expect(all.map((each) => nextOf(each, TODAY))).toEqual([
      'closeMonth',
      'postReady',
      'remind',
      'findCause',
    ]);
    expect(nextOf({ ...books('New'), summary: null }, TODAY)).toBeNull();
  });
});

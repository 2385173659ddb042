import { expect, it } from 'vitest';
import { type BooksGlance, needsSomebody, nextInBooks } from './nextInBooks.ts';

const glance = (more: Partial<BooksGlance>): BooksGlance => ({
  open: 0,
  ready: 0,
  check: 0,
  asked: 0,
  oldestAsked: null,
  askedOf: null,
  unexplained: 0,
  troubledFeed: null,
  openMonth: null,
  ...more,
});
const next = (more: Partial<BooksGlance>, askedDays = 0) =>
  nextInBooks(glance(more), askedDays, '2026-04');

it('what is next in books is what presses most', () => {
  const all = { open: 9, ready: 5, unexplained: 3_320, troubledFeed: 'Card', openMonth: '2026-03' };
  expect(next(all)).toBe('signIn');
  expect(next({ ...all, troubledFeed: null })).toBe('findCause');
  expect(next({ open: 9, ready: 5, oldestAsked: '2026-03-01' }, 38)).toBe('remind');
  expect(next({ open: 9, ready: 5, oldestAsked: '2026-04-01' }, 7)).toBe('postReady');
  expect(next({ open: 4 })).toBe('goOn');
  expect(next({ openMonth: '2026-03' })).toBe('closeMonth');
  expect(next({ openMonth: '2026-04' })).toBe('nothing');
});

it('books need somebody where something is wrong, not where work just goes on', () => {
  expect(
    ['signIn', 'findCause', 'remind', 'postReady', 'closeMonth'].map((kind) =>
      needsSomebody(kind as 'signIn'),
    ),
  ).toEqual([true, true, true, false, false]);
});

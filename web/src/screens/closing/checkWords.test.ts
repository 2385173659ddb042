import type { ClosingCheck } from '@zubrell/contract/closing';
import { closingChecks } from '@zubrell/core/closing/months';
import { describe, expect, it } from 'vitest';
import { testCheck } from '../../testing/testCheck.ts';
import { checkNames, checkWay, checkWords } from './checkWords.ts';

const say = (kind: ClosingCheck['kind'], more: Partial<ClosingCheck>) =>
  checkWords(testCheck(kind, more), '2026-03-31', (date) => date);

describe('the checks before a month is closed', () => {
  it.each(closingChecks)(
    'each say that they are fine, and lead where they are settled: %s',
    (kind) => {
      const fine = say(kind, {});
      expect(fine).not.toBe('');
      expect(say(kind, { count: 2 })).not.toBe(fine);
      expect(checkNames[kind]).not.toBe('');
      const { to, label } = checkWay(testCheck(kind), 'books', '2026-03');
      expect(to).toMatch(/^\/books\/books\/[a-z]/);
      expect(label).toMatch(/^[A-Z]/);
    },
  );

  it.each([
    [
      'openLines',
      { count: 1_302, oldest: '2026-03-02' },
      '1,302 lines open, the oldest of 2026-03-02',
    ],
    ['unexplained', { count: 1 }, '1 difference between bank and books'],
    [
      'questions',
      { count: 1, oldest: '2026-03-20', who: 'Ines Varga' },
      '1 line since 2026-03-20, waiting for Ines Varga',
    ],
    ['questions', { count: 2 }, '2 lines, waiting for an answer'],
    [
      'suspense',
      { count: 3, oldest: '2026-03-01', who: 'Mo Oakes' },
      '3 entries since 2026-03-01, last by Mo Oakes',
    ],
    ['suspense', { count: 1 }, '1 entry'],
    ['transit', { count: 1, oldest: '2026-03-30' }, 'second side missing for 1 day'],
    [
      'outstanding',
      { count: 2, oldest: '2026-01-30' },
      '2 entries the bank has not reported, the oldest for 60 days',
    ],
    ['receipts', { count: 1, of: 1_302 }, '1 of 1,302 lines has no attachment'],
    ['receipts', { count: 1_100, of: 1_302 }, '1,100 of 1,302 lines have no attachment'],
    ['postedUnseen', { count: 5 }, '5 lines by rules and sweeps that nobody has reviewed'],
    ['taxCodes', { count: 1 }, '1 entry without a tax code'],
    [
      'cutOff',
      { count: 2 },
      '2 payments that may belong to the year before: no bill or invoice was booked then',
    ],
    ['currencies', { count: 1 }, '1 amount open in other currencies, not valued at 2026-03-31'],
    ['afterReport', { count: 2 }, '2 entries of the month arrived after its tax was reported'],
    ['journals', { count: 1, oldest: '2026-03-15' }, '1 journal due since 2026-03-15'],
  ] as const)('say how they stand: %s %j', (kind, more, words) => {
    expect(say(kind, more)).toBe(words);
  });

  it('lead to the month, and to the account where they know one', () => {
    const way = (kind: ClosingCheck['kind'], accountId: string | null = null) =>
      checkWay(testCheck(kind, { accountId }), 'books', '2026-03').to;
    expect(way('openLines')).toBe('/books/books/desk?period=2026-03');
    expect(way('postedUnseen')).toBe('/books/books/close/2026-03?sample=open');
    expect(way('transit', '1290')).toBe('/books/books/ledger/1290');
    expect(way('transit', null)).toBe('/books/books/ledger/entries');
    expect(way('suspense', '9999')).toBe('/books/books/ledger/9999');
  });
});

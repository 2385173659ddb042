import { describe, expect, it } from 'vitest';
import { habitLine } from '../../testing/decided.ts';
import { daysOf, monthDayOf, textOf, wordingFeatures } from './features.ts';
import type { Example } from './memory.ts';
import { separatorsOf, sideOf } from './separators.ts';

/** A decided line: wording, amount, account, day of the month, bank account. */
type Made = readonly [text: string, amount: number, account: string, day?: string, bank?: string];

function examples(made: readonly Made[]): Example[] {
  return made.map(([text, amount, accountId, day = '03', bankAccountId = 'everyday'], at) => {
    const line = habitLine(text, amount, { date: `2026-03-${day}`, bankAccountId });
    return {
      id: `${at}`,
      accountId,
      payeeId: null,
      taxCodeId: null,
      weight: 1,
      amount,
      bankAccountId,
      words: wordingFeatures(textOf(line)).words,
      day: daysOf(line.date),
      monthDay: monthDayOf(line.date),
      size: Math.log(Math.abs(amount) + 1),
    };
  });
}
const often = (count: number, ...made: readonly Made[]) =>
  examples(Array.from({ length: count }).flatMap(() => made));

describe('what tells accounts apart', () => {
  it('is a word', () => {
    const found = separatorsOf(
      often(5, ['TIDEMARK FRT', -900, 'freight'], ['TIDEMARK FRT IMPORT', -900, 'clay']),
    );
    expect(found[0]).toMatchObject({ kind: 'word', word: 'IMPORT' });
    expect(found[0]?.gain).toBeGreaterThan(0.8);
  });

  it('is an amount, between the nearest of both', () => {
    const found = separatorsOf(often(5, ['STALL', -1_200, 'pitch'], ['STALL', -48_000, 'rent']));
    expect(found).toMatchObject([{ kind: 'amount', limit: 7_589 }]);
  });

  it('is the direction', () => {
    const found = separatorsOf(often(5, ['HARROW', -900, 'clay'], ['HARROW', 900, 'sales']));
    expect(found[0]).toMatchObject({ kind: 'direction' });
  });

  it('is the bank account', () => {
    const card = ['HARROW', -900, 'owner', '03', 'card'] as const;
    const found = separatorsOf(often(5, ['HARROW', -900, 'clay'], card));
    expect(found[0]).toMatchObject({ kind: 'bankAccount' });
  });

  it('is the day of the month, once there is enough of it', () => {
    const made: readonly Made[] = [
      ['HARROW', -900, 'rent', '02'],
      ['HARROW', -900, 'clay', '19'],
    ];
    expect(separatorsOf(often(3, ...made))).toEqual([]);
    const [day] = separatorsOf(often(6, ...made));
    expect(day).toMatchObject({ kind: 'day', limit: 2 });
    const line = { amount: -900, bankAccountId: 'everyday' };
    expect(day && sideOf(day, { ...line, monthDay: 1 }, [])).toBe(true);
    expect(day && sideOf(day, { ...line, monthDay: 3 }, [])).toBe(false);
  });

  it('is nothing where nothing does, or too little was decided', () => {
    const mixed = often(6, ['HARROW', -900, 'clay'], ['HARROW', -900, 'owner']);
    expect(separatorsOf(mixed)).toEqual([]);
    expect(separatorsOf(often(1, ['A', -1, 'x'], ['B', -2, 'y']))).toEqual([]);
    expect(separatorsOf(often(9, ['HARROW', -900, 'clay']))).toEqual([]);
  });
});

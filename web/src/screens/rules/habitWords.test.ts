import type { Habit } from '@zubrell/contract/habits';
import { describe, expect, it } from 'vitest';
import { testHabit } from '../../testing/testHabit.ts';
import { habitState, separatorWords, shownHabits } from './habitWords.ts';

const by = (change: Partial<Habit['separators'][number]>) => ({
  by: 'word' as const,
  word: 'IMPORT',
  limit: null,
  from: null,
  bankAccountId: null,
  gain: 0.9,
  ...change,
});
const names = {
  amount: (minor: number) => (minor / 100).toFixed(2),
  bankAccount: (id: string) => id,
};

describe('a habit', () => {
  it('says what tells its accounts apart, and how surely', () => {
    expect(separatorWords(by({}), names)).toBe('Decided by the word IMPORT.');
    expect(separatorWords(by({ gain: 0.4 }), names)).toBe('Mostly decided by the word IMPORT.');
    expect(separatorWords(by({ by: 'amount', limit: 7_589 }), names)).toBe(
      'Decided by the amount: up to 75.89, and above.',
    );
    expect(separatorWords(by({ by: 'bankAccount', bankAccountId: 'Card' }), names)).toBe(
      'Decided by the bank account: Card, or another.',
    );
    expect(separatorWords(by({ by: 'number', word: '40771902' }), names)).toBe(
      'Decided by the number 40771902.',
    );
    expect(separatorWords(by({ by: 'weekday', from: 0, limit: 1 }), names)).toContain(
      'Monday to Tuesday',
    );
    expect(separatorWords(by({ by: 'cents' }), names)).toContain('is round');
    expect(separatorWords(by({ by: 'direction' }), names)).toContain('money comes in or goes out');
    expect(separatorWords(by({ by: 'day', limit: 5 }), names)).toContain('up to the 5., and after');
  });

  it('says what it lacks', () => {
    const two = [
      { accountId: 'freight', times: 3 },
      { accountId: 'clay', times: 2 },
    ];
    expect(habitState(testHabit())).toBe('');
    expect(habitState(testHabit({ times: 1, accounts: [{ accountId: 'x', times: 1 }] }))).toBe(
      'seen only once',
    );
    expect(habitState(testHabit({ accounts: two }))).toBe(
      '2 accounts, and nothing reliable separates them',
    );
    expect(habitState(testHabit({ accounts: two, separators: [by({})] }))).toBe('');
    const odd = [
      { accountId: 'freight', times: 30 },
      { accountId: 'clay', times: 1 },
    ];
    expect(habitState(testHabit({ accounts: odd, times: 31 }))).toBe('');
    expect(habitState(testHabit({ markId: 'm' }))).toBe('blocked: nothing is learned');
  });

  it('is found by its wordings and accounts', () => {
    const found = (typed: string) =>
      shownHabits([testHabit()], typed, () => '6010 Freight out').length;
    expect(found('frt')).toBe(1);
    expect(found('6010')).toBe(1);
    expect(found('clay')).toBe(0);
  });
});

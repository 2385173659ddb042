import { describe, expect, it } from 'vitest';
import { testLine, testStack } from '../../testing/testLines.ts';
import {
  nextSorting,
  type Sorting,
  sortingOf,
  sortingText,
  sortLines,
  sortStacks,
} from './sortRows.ts';

const stacks = [
  testStack('B', { count: 2, total: -900, lastDate: '2026-03-01' }),
  testStack('A', { count: 5, total: 400, lastDate: '2026-03-09' }),
  testStack('C', { count: 1, total: -5_000, lastDate: '2026-02-01' }),
];
const by = (sorting: Sorting) =>
  sortStacks(stacks, sorting)
    .map(({ key }) => key)
    .join('');

describe('the order of the list', () => {
  it.each([
    ['usual', false, 'BAC'],
    ['date', false, 'ABC'],
    ['name', false, 'ABC'],
    ['name', true, 'CBA'],
    ['count', false, 'ABC'],
    ['amount', false, 'CBA'],
    ['amount', true, 'ABC'],
  ] as const)('by %s, turned: %s, is %s', (key, isTurned, order) => {
    expect(by({ by: key, isTurned })).toBe(order);
  });

  it('holds for the lines of a stack, whose number says nothing', () => {
    const lines = [testLine('1', { amount: -100 }), testLine('2', { amount: 300 })];
    const ids = (sorting: Sorting) =>
      sortLines(lines, sorting)
        .map(({ id }) => id)
        .join('');
    expect(ids({ by: 'amount', isTurned: false })).toBe('21');
    expect(ids({ by: 'name', isTurned: true })).toBe('21');
    expect(ids({ by: 'count', isTurned: true })).toBe('12');
  });

  it('goes from one way to the other to the usual one', () => {
    const first = nextSorting({ by: 'usual', isTurned: false }, 'amount');
    const second = nextSorting(first, 'amount');
    expect([first, second, nextSorting(second, 'amount')].map(sortingText)).toEqual([
      'amount',
      'amount-turned',
      null,
    ]);
    expect(sortingOf('amount-turned')).toEqual(second);
    expect(sortingOf('nonsense-turned')).toEqual({ by: 'usual', isTurned: false });
    expect(sortingOf(null)).toEqual({ by: 'usual', isTurned: false });
  });
});

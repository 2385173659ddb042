import { expect, it } from 'vitest';
import { type ChartPlace, misplaced } from './chartPlace.ts';
import { starterAccounts } from './starterBooks.ts';

const chart = (...rows: readonly (readonly [string, ChartPlace['type'], string | null])[]) =>
  new Map(rows.map(([id, type, parentId]) => [id, { id, type, parentId }]));

it.each([
  ['expense', null, null],
  ['expense', 'running', null],
  ['expense', 'freight', 'belowItself'],
  ['expense', 'stamps', 'belowItself'],
  ['expense', 'sales', 'belowType'],
  ['income', 'sales', null],
] as const)('an account of type %s below %s is misplaced: %s', (type, parentId, why) => {
  const all = chart(
    ['freight', type, parentId],
    ['running', 'expense', null],
    ['stamps', 'expense', 'freight'],
    ['sales', 'income', null],
  );
  expect(misplaced(all, 'freight', null)).toBe(why);
});

it('one that stood below another type may stay there, as input tax does in new books', () => {
  const all = chart(
    ...starterAccounts.map(({ code, type, parent }) => [code, type, parent] as const),
  );
  for (const { code, parent } of starterAccounts) expect(misplaced(all, code, parent)).toBeNull();
  expect(misplaced(all, '2210', null)).toBe('belowType');
});

it('a circle further up doesn’t hold it up', () => {
  const all = chart(['a', 'asset', 'b'], ['b', 'asset', 'c'], ['c', 'asset', 'b']);
  expect(misplaced(all, 'a', null)).toBeNull();
  expect(misplaced(all, 'b', null)).toBe('belowItself');
});

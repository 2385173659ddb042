import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readingNames, type Tree, treeOdds } from './sureness.ts';

const DEPTH = 3;
const INNER = 2 ** DEPTH - 1;
const width = readingNames.length;
/** Few different values, so that readings are often just at a limit. */
const value = fc.integer({ min: -3, max: 3 }).map((each) => each / 2);
const listOf = <Each>(each: fc.Arbitrary<Each>, length: number) =>
  fc.array(each, { minLength: length, maxLength: length });
const tree: fc.Arbitrary<Tree> = fc.record({
  asks: listOf(fc.integer({ min: 0, max: width - 1 }), INNER),
  limits: listOf(fc.oneof(value, fc.constant(-1e9)), INNER),
  leaves: listOf(fc.integer({ min: -50, max: 50 }), INNER + 1),
});

/** A tree walked as it is described. */
function leafOf({ asks, limits, leaves }: Tree, read: readonly number[]): number {
  let at = 0;
  while (at < INNER) at = 2 * at + ((read[asks[at] ?? 0] ?? 0) < (limits[at] ?? 0) ? 1 : 2);
  return leaves[at - INNER] ?? 0;
}

describe('trees of sureness', () => {
  it('add up the leaves that readings lead to, also where one is just at a limit', () => {
    fc.assert(
      fc.property(fc.array(tree, { maxLength: 6 }), listOf(value, width), (trees, read) => {
        const expected = trees.reduce((sum, each) => sum + leafOf(each, read), 3);
        expect(treeOdds({ bias: 3, trees }, Float64Array.from(read))).toBe(expected);
      }),
    );
  });

  it('answer the same for one line after another', () => {
    const one: Tree = { asks: [0], limits: [1], leaves: [10, 20] };
    const read = (first: number) => Float64Array.from({ length: width }, () => first);
    const trees = { bias: 0, trees: [one] };
    expect([0, 1, 0, 2].map((first) => treeOdds(trees, read(first)))).toEqual([10, 20, 10, 20]);
  });
});

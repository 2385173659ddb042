import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { beyondChance, MOST_BEYOND, withoutChance } from './chance.ts';

/** Chi-square values with their degrees of freedom, and how probable chance makes more: from printed tables. */
const TABLE = [
  [3.841, 1, 0.05],
  [6.635, 1, 0.01],
  [10.828, 1, 0.001],
  [5.991, 2, 0.05],
  [13.816, 2, 0.001],
  [11.345, 3, 0.01],
  [23.209, 10, 0.01],
] as const;

describe('how far something is beyond chance', () => {
  it.each(TABLE)(
    'is the tail of chi-square %d with %d degrees of freedom',
    (square, degrees, p) => {
      expect(beyondChance(square / 2, degrees + 1, 1)).toBeCloseTo(-Math.log(p), 0.3);
    },
  );

  it('is less, the more was tried, and the more accounts there are', () => {
    const one = beyondChance(5, 2, 1);
    expect(beyondChance(5, 2, 20)).toBeCloseTo(one - Math.log(20));
    expect(beyondChance(5, 6, 1)).toBeLessThan(one - 1);
  });

  it('lies between none and the most, and grows with what is taken away', () => {
    const nats = fc.double({ min: 0, max: 400, noNaN: true });
    fc.assert(
      fc.property(
        nats,
        nats,
        fc.integer({ min: 2, max: 30 }),
        fc.nat(200),
        (a, b, accounts, more) => {
          const [less, most] = [Math.min(a, b), Math.max(a, b)].map((each) =>
            beyondChance(each, accounts, more + 1),
          );
          expect(less).toBeGreaterThanOrEqual(0);
          expect(most).toBeLessThanOrEqual(MOST_BEYOND);
          expect(most).toBeGreaterThanOrEqual(less ?? 0);
        },
      ),
    );
  });

  it('decides what is left of how telling it is', () => {
    expect(withoutChance(0.8, MOST_BEYOND)).toBeCloseTo(0.8);
    expect(withoutChance(0.8, 0)).toBe(0.2);
  });
});

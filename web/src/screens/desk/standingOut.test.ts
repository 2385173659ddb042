import { describe, expect, it } from 'vitest';
import { standingOut } from './standingOut.ts';

const lines = (...given: readonly (readonly [amount: number, description?: string])[]) =>
  given.map(([amount, description = `TIDEMARK FRT ${amount}`], at) => ({
    id: String(at),
    amount,
    description,
  }));

describe('a line of a stack stands out', () => {
  it('by an amount far from the others', () => {
    const found = standingOut(lines([-4_850], [-4_600], [-5_100], [-4_900], [-48_500]));
    expect([...found]).toEqual([['4', 'amount']]);
  });

  it('by a word that only it has', () => {
    const odd = lines([-4_850], [-4_600], [-5_100], [-4_900], [-4_700, 'TIDEMARK FRT IMPORT 311']);
    expect([...standingOut(odd)]).toEqual([['4', 'word']]);
  });

  it('not where all amounts and words differ, nor among a few', () => {
    const spread = lines([-100], [-900], [-4_000], [-12_000], [-300]);
    expect(standingOut(spread).size).toBe(0);
    const names = ['BRECK', 'SOLTVEIT', 'MARROWBY', 'ABELGARD'];
    expect(standingOut(lines(...names.map((name) => [-95, name] as const))).size).toBe(0);
    expect(standingOut(lines([-100], [-9_000])).size).toBe(0);
  });
});

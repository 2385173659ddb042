import { describe, expect, it } from 'vitest';
import { jumpRank } from './jumpRank.ts';

const order = (names: readonly string[], typed: string) =>
  names
    .map((name) => [jumpRank(name, typed), name] as const)
    .filter(([rank]) => rank > 0)
    .sort(([a], [b]) => b - a)
    .map(([, name]) => name);

describe('what one jumps to', () => {
  it('fits best where the name begins so, then where a word does', () => {
    const names = ['Rent received', 'Undertide', 'High tide', 'Tidemark Freight', 'Tide'];
    expect(order(names, 'tide')).toEqual(['Tide', 'Tidemark Freight', 'High tide', 'Undertide']);
  });

  it('has every typed word in it, whatever the case and order', () => {
    const names = ['6010 Freight out', '6020 Freight in', 'Freight'];
    expect(order(names, 'OUT frei')).toEqual(['6010 Freight out']);
  });

  it('takes signs as they are typed', () => {
    expect(jumpRank('Clay (red)', '(red')).toBeGreaterThan(0);
    expect(jumpRank('Clay', '.*')).toBe(0);
  });
});

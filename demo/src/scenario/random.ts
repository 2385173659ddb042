import { fractionsFrom } from '@zubrell/core/testing/numbersFrom';

/** Numbers that look random and are the same for the same seed. */
export interface Random {
  /** From 0 up to, not including, 1. */
  next(): number;
  /** A whole number from `from` to `to`, both included. */
  between(from: number, to: number): number;
  pick<T>(from: readonly [T, ...T[]]): T;
}

/** A small generator, good enough for made-up statements. */
export function randomFrom(seed: number): Random {
  const next = fractionsFrom(seed);
  const between = (from: number, to: number) => from + Math.floor(next() * (to - from + 1));
  return { next, between, pick: (from) => from[between(0, from.length - 1)] ?? from[0] };
}

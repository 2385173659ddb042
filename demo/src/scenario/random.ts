/** Numbers that look random and are the same for the same seed. */
export interface Random {
  /** From 0 up to, not including, 1. */
  next(): number;
  /** A whole number from `from` to `to`, both included. */
  between(from: number, to: number): number;
  pick<T>(from: readonly [T, ...T[]]): T;
}

/** A small generator of 32 bits (mulberry32), good enough for made-up statements. */
export function randomFrom(seed: number): Random {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
  const between = (from: number, to: number) => from + Math.floor(next() * (to - from + 1));
  return { next, between, pick: (from) => from[between(0, from.length - 1)] ?? from[0] };
}

/** Gives the next number from 0 up to the given one, excluded. */
export type Next = (below: number) => number;

/** Fractions from 0 up to 1, excluded, that look random and come the same for the same seed (mulberry32). */
export function fractionsFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** Whole numbers that look random and come the same for the same seed. */
export function numbersFrom(seed: number): Next {
  const next = fractionsFrom(seed);
  return (below) => Math.floor(next() * below);
}

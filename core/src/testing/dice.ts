/** Numbers that are the same for the same seed. */
export interface Dice {
  /** From 0 up to, not with, 1. */
  readonly next: () => number;
  /** A whole number from `from` to `to`, both possible. */
  readonly whole: (from: number, to: number) => number;
  readonly chance: (share: number) => boolean;
  readonly pick: <T>(from: readonly T[]) => T;
  /** So many digits. */
  readonly digits: (count: number) => string;
  readonly letters: (count: number) => string;
}

/** Dice thrown from a seed (splitmix32). */
export function dice(seed: number): Dice {
  let state = seed >>> 0;
  const next = (): number => {
    state = (state + 0x9e3779b9) >>> 0;
    let mixed = state ^ (state >>> 16);
    mixed = Math.imul(mixed, 0x21f0aaad);
    mixed ^= mixed >>> 15;
    mixed = Math.imul(mixed, 0x735a2d97);
    return ((mixed ^ (mixed >>> 15)) >>> 0) / 4_294_967_296;
  };
  const whole = (from: number, to: number) => from + Math.floor(next() * (to - from + 1));
  const pick = <T>(from: readonly T[]): T => from[whole(0, from.length - 1)] as T;
  const string = (count: number, of: string) =>
    Array.from({ length: count }, () => of.charAt(whole(0, of.length - 1))).join('');
  return {
    next,
    whole,
    chance: (share) => next() < share,
    pick,
    digits: (count) => string(count, '0123456789'),
    letters: (count) => string(count, 'ABCDEFGHJKLMNPQRSTUVWXYZ'),
  };
}

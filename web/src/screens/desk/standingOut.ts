import type { DeskLine } from '@zubrell/contract/desk';
import { wordingFeatures } from '@zubrell/core/propose/habit/features';

/** Why a line stands out among those of its stack. */
export type Oddity = 'amount' | 'word';

/** Fewer lines have no usual from which one could differ. */
const LEAST = 4;
/** An amount is odd from so many times the median on, or below one such part of it … */
const TIMES = 2.5;
/** … that is so many median deviations away, too. */
const DEVIATIONS = 4;

/**
 * The lines of a stack that stand out: by an amount far from the others', or by a word that only they have
 * while nearly all others have none of their own.
 */
export function standingOut(
  lines: readonly Pick<DeskLine, 'id' | 'amount' | 'description'>[],
): ReadonlyMap<string, Oddity> {
  const found = new Map<string, Oddity>();
  if (lines.length < LEAST) return found;
  const counts = new Map<string, number>();
  const words = lines.map(({ description }) => wordingFeatures(description).words);
  for (const each of words.flat()) counts.set(each, (counts.get(each) ?? 0) + 1);
  const own = words.map((each) => each.some((word) => counts.get(word) === 1));
  const isRare = own.filter(Boolean).length * LEAST <= lines.length;
  // In logarithms: three times as much is as far as a third.
  const sizes = lines.map(({ amount }) => Math.log(Math.abs(amount) + 1));
  const middle = median(sizes);
  const deviation = median(sizes.map((size) => Math.abs(size - middle)));
  lines.forEach(({ id }, at) => {
    const apart = Math.abs((sizes[at] ?? 0) - middle);
    if (apart > Math.log(TIMES) && apart > DEVIATIONS * deviation) found.set(id, 'amount');
    else if (isRare && own[at]) found.set(id, 'word');
  });
  return found;
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length / 2;
  return ((sorted[Math.ceil(half) - 1] ?? 0) + (sorted[Math.floor(half)] ?? 0)) / 2;
}

import { wordingLikeness } from '@zubrell/core/text/likeness';

/** Names at least this alike may be one thing, written twice. */
const ALIKE = 0.6;
/** So many are shown. */
const MOST = 3;

/**
 * What is there already under a name much like a new one, the likest first.
 *
 * @example nearTwins([{ name: 'Penhallow Clay' }], 'Penhalow Clay') // [{ name: 'Penhallow Clay' }]
 */
export function nearTwins<T extends { readonly name: string }>(
  things: readonly T[],
  name: string,
): readonly T[] {
  const wanted = name.trim();
  if (wanted.length < 3) return [];
  return things
    .map((thing) => ({ thing, likeness: wordingLikeness(thing.name, wanted) }))
    .filter(({ likeness }) => likeness >= ALIKE)
    .sort((a, b) => b.likeness - a.likeness)
    .slice(0, MOST)
    .map(({ thing }) => thing);
}

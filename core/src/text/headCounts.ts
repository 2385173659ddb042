/** A word that stands with so many different first words of stems says little of who was paid: a town, say. */
export const MANY_HEADS = 4;

/**
 * With how many different first words of stems each word stands.
 *
 * @param seen each stem with a wording it comes from, or with itself
 */
export function headCounts(
  seen: Iterable<readonly [stem: string, wording: string]>,
): ReadonlyMap<string, number> {
  const heads = new Map<string, Set<string>>();
  for (const [stem, wording] of seen) {
    const [head = ''] = stem.split(' ');
    for (const word of wording.split(' ')) {
      if (word === head) continue;
      const own = heads.get(word);
      if (own) own.add(head);
      else heads.set(word, new Set([head]));
    }
  }
  return new Map([...heads].map(([word, own]) => [word, own.size]));
}

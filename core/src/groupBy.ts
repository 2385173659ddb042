/**
 * Items by their keys, each group in the order of the items.
 *
 * @example groupBy(['pot', 'card', 'pit'], (word) => word[0]) // p: pot, pit; c: card
 */
export function groupBy<Item, Key>(
  items: Iterable<Item>,
  keyOf: (item: Item) => Key,
): Map<Key, Item[]> {
  const groups = new Map<Key, Item[]>();
  for (const item of items) putInto(groups, keyOf(item), item);
  return groups;
}

/** Adds an item to the group of its key. */
export function putInto<Item, Key>(groups: Map<Key, Item[]>, key: Key, item: Item): void {
  const known = groups.get(key);
  if (known) known.push(item);
  else groups.set(key, [item]);
}

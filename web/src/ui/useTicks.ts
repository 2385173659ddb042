import { useState } from 'react';

/** Which of some things are ticked, a way to tick or untick one, and one to tick just some. */
export function useTicks<Id>(): readonly [
  ReadonlySet<Id>,
  (id: Id) => void,
  (ids: readonly Id[]) => void,
] {
  const [ticked, setTicked] = useState<ReadonlySet<Id>>(new Set());
  const toggle = (id: Id) => {
    const next = new Set(ticked);
    if (!next.delete(id)) next.add(id);
    setTicked(next);
  };
  return [ticked, toggle, (ids) => setTicked(new Set(ids))];
}

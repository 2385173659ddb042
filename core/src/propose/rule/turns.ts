import type { RuleBody } from './rule.ts';
import type { RuleIndex } from './ruleIndex.ts';
import type { RuleLine } from './ruleLine.ts';

/** How often a rule gets its turn over some lines. */
export interface Turns {
  /** Lines that its conditions hold for. */
  readonly takes: number;
  /** Of them, those that no earlier rule takes. */
  readonly first: number;
  /** Earlier rules that take its lines, by their places, with how many; the most first. */
  readonly earlier: readonly (readonly [place: number, lines: number])[];
  /** Later rules that would take some of its lines too, and do something else with them. */
  readonly overlaps: readonly (readonly [place: number, lines: number])[];
}

/** How often each of some active rules, in their order, gets its turn over lines. */
export function turnsOf(
  rules: readonly Pick<RuleBody, 'result'>[],
  index: RuleIndex,
  lines: Iterable<RuleLine>,
): Turns[] {
  const results = rules.map(({ result }) => JSON.stringify(result));
  const counts = rules.map(() => ({
    takes: 0,
    first: 0,
    earlier: new Map<number, number>(),
    overlaps: new Map<number, number>(),
  }));
  for (const line of lines) {
    const [first, ...later] = index.all(line);
    const winner = first === undefined ? undefined : counts[first];
    if (first === undefined || !winner) continue;
    winner.takes += 1;
    winner.first += 1;
    for (const place of later) {
      const own = counts[place];
      if (!own) continue;
      own.takes += 1;
      own.earlier.set(first, (own.earlier.get(first) ?? 0) + 1);
      if (results[place] === results[first]) continue;
      winner.overlaps.set(place, (winner.overlaps.get(place) ?? 0) + 1);
    }
  }
  return counts.map(({ earlier, overlaps, ...own }) => ({
    ...own,
    earlier: mostFirst(earlier),
    overlaps: mostFirst(overlaps),
  }));
}

const mostFirst = (counts: ReadonlyMap<number, number>) =>
  [...counts].sort((a, b) => b[1] - a[1] || a[0] - b[0]);

import { type RuleRow, stateOf } from './ruleRows.ts';
import type { RuleChange } from './setRules.ts';

/** Ranks closer than this leave no room between them. */
const LEAST_GAP = 1e-6;

/**
 * A rank between a rule and the one before it, or behind the last.
 *
 * @returns null where there is no room left between the two
 */
export function rankBefore(
  rows: readonly Pick<RuleRow, 'id' | 'rank'>[],
  beforeId: string | null,
): number | null {
  const at = rows.findIndex(({ id }) => id === beforeId);
  const next = rows[at];
  if (!next) return (rows.at(-1)?.rank ?? 0) + 1;
  const previous = rows[at - 1]?.rank ?? next.rank - 2;
  return next.rank - previous < LEAST_GAP ? null : (previous + next.rank) / 2;
}

/** Gives all rules whole ranks again, in the same order. */
export function ranksAnew(rows: readonly RuleRow[]): RuleChange[] {
  return rows.map((row, at) => {
    const before = stateOf(row);
    return { thing: 'rule', thingId: row.id, before, after: { ...before, rank: at + 1 } };
  });
}

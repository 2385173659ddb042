import type { RuleHealth, RuleTurns } from '@zubrell/contract/rules';
import type { BooksId, RuleId } from '@zubrell/core/ids';
import { verdictOf } from '@zubrell/core/propose/rule/nearMiss';
import type { Rule, RuleTakes } from '@zubrell/core/propose/rule/rule';
import { indexRules } from '@zubrell/core/propose/rule/ruleIndex';
import { type Turns, turnsOf } from '@zubrell/core/propose/rule/turns';
import type { Tx } from '../../db/database.ts';
import { habitCount } from '../habits/habitList.ts';
import { booksLines, type KnownLine } from './booksLines.ts';
import { ruleUses } from './ruleRecords.ts';
import { activeOf, ruleRows } from './ruleRows.ts';

/** Overlaps on fewer lines are chance. */
const LEAST_OVERLAP = 3;

/** Tries all rules that are on on all lines, and says which never get a turn, take nothing, or overlap with others. */
export async function ruleTurns(tx: Tx, booksId: BooksId): Promise<RuleTurns> {
  const active = activeOf(await ruleRows(tx, booksId));
  const { lines, isAll, search } = await booksLines(tx, booksId);
  const uses = isAll ? [] : await ruleUses(tx, booksId);
  const found = turnsHealth(active, turnsOf(active, indexRules(active), lines), {
    usedElsewhere: new Set(uses.map(({ ruleId }) => ruleId)),
    linesFor: (takes) => search.worthALook(lines, takes),
  });
  return { found, habitCount: await habitCount(tx, booksId) };
}

/** What the lines that rules were tried on don't say. */
interface Beside {
  /** Rules that decided lines, which may be older than all that they were tried on. */
  readonly usedElsewhere: ReadonlySet<RuleId>;
  /** The lines that a rule may nearly take. */
  readonly linesFor: (takes: RuleTakes) => readonly KnownLine[];
}

/** What is wrong with the turns that rules get, each by its place among all. */
export function turnsHealth(
  active: readonly Rule[],
  all: readonly Turns[],
  beside: Beside,
): RuleTurns['found'] {
  return all.flatMap((turns, at) => {
    const rule = active[at];
    if (!rule) return [];
    return turnHealth(rule, turns, active, beside).map((health) => ({ ruleId: rule.id, health }));
  });
}

function turnHealth(
  { id, takes }: Rule,
  turns: Turns,
  active: readonly Rule[],
  { usedElsewhere, linesFor }: Beside,
): RuleHealth[] {
  const [by] = turns.earlier;
  if (turns.takes > 0 && turns.first === 0 && by) {
    return [{ kind: 'neverATurn', by: active[by[0]]?.id ?? '', lines: turns.takes }];
  }
  if (turns.takes === 0) {
    if (usedElsewhere.has(id)) return [];
    const judge = verdictOf(takes);
    const nearMisses = linesFor(takes).filter((line) => judge(line) !== null).length;
    return [{ kind: 'takesNothing', nearMisses }];
  }
  return turns.overlaps
    .filter(([, count]) => count >= LEAST_OVERLAP)
    .slice(0, 1)
    .map(([place, count]) => ({
      kind: 'overlaps',
      with: active[place]?.id ?? '',
      lines: count,
    }));
}

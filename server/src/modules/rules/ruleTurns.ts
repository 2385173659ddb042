import type { RuleHealth, RuleTurns } from '@zubrell/contract/rules';
import type { BooksId } from '@zubrell/core/ids';
import { verdictOf } from '@zubrell/core/propose/rule/nearMiss';
import type { Rule, RuleTakes } from '@zubrell/core/propose/rule/rule';
import { indexRules } from '@zubrell/core/propose/rule/ruleIndex';
import { type Turns, turnsOf } from '@zubrell/core/propose/rule/turns';
import type { Tx } from '../../db/database.ts';
import { habitCount } from '../habits/habitList.ts';
import { booksLines, type KnownLine } from './booksLines.ts';
import { activeOf, ruleRows } from './ruleRows.ts';

/** Overlaps on fewer lines are chance. */
const LEAST_OVERLAP = 3;

/** Tries all rules that are on on all lines, and says which never get a turn, take nothing, or overlap with others. */
export async function ruleTurns(tx: Tx, booksId: BooksId): Promise<RuleTurns> {
  const active = activeOf(await ruleRows(tx, booksId));
  const { lines, search } = await booksLines(tx, booksId);
  const found = turnsOf(active, indexRules(active), lines).flatMap((turns, at) => {
    const rule = active[at];
    if (!rule) return [];
    const linesFor = (takes: RuleTakes) => search.worthALook(lines, takes);
    return turnHealth(rule, turns, active, linesFor).map((health) => ({ ruleId: rule.id, health }));
  });
  return { found, habitCount: await habitCount(tx, booksId) };
}

function turnHealth(
  { takes }: Rule,
  turns: Turns,
  active: readonly Rule[],
  linesFor: (takes: RuleTakes) => readonly KnownLine[],
): RuleHealth[] {
  const [by] = turns.earlier;
  if (turns.takes > 0 && turns.first === 0 && by) {
    return [{ kind: 'neverATurn', by: active[by[0]]?.id ?? '', lines: turns.takes }];
  }
  if (turns.takes === 0) {
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

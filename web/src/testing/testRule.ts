import type { ListedRule, RuleBody } from '@zubrell/contract/rules';
import { codingRule } from '@zubrell/core/testing/rules';

/** What a rule says that codes what is paid out with a word. */
export function testRuleBody(word: string): RuleBody {
  const { takes, result, after } = codingRule(word, word, '6010');
  return { takes: { ...takes, direction: 'out' }, result, after } as RuleBody;
}

/** A rule as the list has it. */
export const testRule = (
  number: number,
  name: string,
  change: Partial<ListedRule> = {},
): ListedRule => ({
  id: name.toLowerCase(),
  number,
  name,
  isOn: true,
  body: testRuleBody(name.toLowerCase()),
  lastStep: 4,
  used: 10,
  open: 2,
  kept: 9,
  looked: 10,
  postedAtOnce: 0,
  keptInRow: 9,
  lastUsed: '2026-03-20',
  health: [],
  ...change,
});

/** What trying a rule out says that takes none of 40 lines. */
export const testTried = {
  lineCount: 40,
  isAll: true,
  takes: 0,
  same: 0,
  otherwise: 0,
  open: 0,
  earlier: 0,
  against: 0,
  lines: [],
  nearMisses: [],
  missedLines: [],
  warnings: [],
  problem: null,
};

import type { Turns } from '@zubrell/core/propose/rule/turns';
import { codingRule } from '@zubrell/core/testing/rules';
import { describe, expect, it } from 'vitest';
import type { KnownLine } from './booksLines.ts';
import { turnsHealth } from './ruleTurns.ts';

const turns = (more: Partial<Turns> = {}): Turns => ({
  takes: 5,
  first: 5,
  earlier: [],
  overlaps: [],
  ...more,
});
const rules = ['pitch', 'freight'].map((word) => codingRule(word, word, '6020'));

function health(of: readonly [Turns, Turns], used: readonly string[] = []) {
  const asked: string[] = [];
  const found = turnsHealth(rules, of, {
    usedElsewhere: new Set(used),
    linesFor: ({ conditions }) => {
      asked.push(JSON.stringify(conditions));
      return [] as readonly KnownLine[];
    },
  });
  return { found, asked };
}

describe('the turns of rules', () => {
  it('are well where each takes lines of its own', () => {
    expect(health([turns(), turns()]).found).toEqual([]);
  });

  it('never come to a rule whose lines an earlier one takes', () => {
    const second = turns({ takes: 4, first: 0, earlier: [[0, 4]] });
    expect(health([turns(), second]).found).toEqual([
      { ruleId: 'freight', health: { kind: 'neverATurn', by: 'pitch', lines: 4 } },
    ]);
  });

  it('are none of a rule that takes no line; what it nearly takes is looked for only then', () => {
    const { found, asked } = health([turns(), turns({ takes: 0, first: 0 })]);
    expect(found).toEqual([{ ruleId: 'freight', health: { kind: 'takesNothing', nearMisses: 0 } }]);
    expect(asked).toHaveLength(1);
  });

  it('are not said to be none of a rule that decided lines older than those that were read', () => {
    const nothing = turns({ takes: 0, first: 0 });
    const { found } = health([nothing, nothing], ['freight']);
    expect(found.map(({ ruleId }) => ruleId)).toEqual(['pitch']);
  });

  it('overlap where that is hardly by chance', () => {
    const overlapping = (lines: number) => health([turns({ overlaps: [[1, lines]] }), turns()]);
    expect(overlapping(2).found).toEqual([]);
    expect(overlapping(3).found).toEqual([
      { ruleId: 'pitch', health: { kind: 'overlaps', with: 'freight', lines: 3 } },
    ]);
  });
});

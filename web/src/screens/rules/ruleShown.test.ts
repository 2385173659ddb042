import type { RuleHealth } from '@zubrell/contract/rules';
import { describe, expect, it } from 'vitest';
import { testRule } from '../../testing/testRule.ts';
import {
  beforeWhenDropped,
  beforeWhenMoved,
  healthWords,
  keptWords,
  takenFrom,
} from './ruleShown.ts';

const rules = [testRule(1, 'Tidemark'), testRule(2, 'Orrin'), testRule(3, 'Penhallow')];
const numberOf = (id: string) => rules.find((rule) => rule.id === id)?.number ?? null;

describe('what is wrong with a rule', () => {
  const said: readonly (readonly [RuleHealth, string])[] = [
    [{ kind: 'neverATurn', by: 'orrin', lines: 4 }, 'never applies: rule 2 takes all its lines'],
    [{ kind: 'overruled', kept: 1, of: 6 }, 'changed by hand on 5 of its last 6 lines'],
    [{ kind: 'gone', what: 'account 7300' }, 'names account 7300, which is gone or switched off'],
    [{ kind: 'takesNothing', nearMisses: 0 }, 'matches no lines'],
    [{ kind: 'takesNothing', nearMisses: 3 }, 'matches no lines, and just misses 3'],
    [{ kind: 'stopped' }, 'no longer posts at once: a line that it posted was changed by hand'],
    [
      { kind: 'overlaps', with: 'penhallow', lines: 1 },
      'takes 1 line that rule 3 would code differently',
    ],
    [
      { kind: 'overlaps', with: 'gone', lines: 1_302 },
      'takes 1,302 lines that rule — would code differently',
    ],
  ];
  it.each(said)('is said in words: %j', (health, words) => {
    expect(healthWords(health, numberOf)).toBe(words);
  });

  it('is not said of what nobody looked at', () => {
    expect(keptWords({ kept: 5, looked: 6 })).toBe('83 % kept');
    expect(keptWords({ kept: 0, looked: 0 })).toBe('');
  });
});

it('what a line was coded by is its rule’s number, and whether it was changed since', () => {
  const line = { source: 'rule', sourceRuleId: 'orrin', isChanged: true, state: 'posted' } as const;
  expect(takenFrom(line, numberOf)).toBe('rule 2, changed');
  expect(takenFrom({ ...line, isChanged: false }, numberOf)).toBe('rule 2');
  expect(takenFrom(line, () => null)).toBe('a deleted rule, changed');
});

describe('the place of a rule that is moved', () => {
  it.each([
    ['tidemark', 1, 'penhallow'],
    ['orrin', 1, null],
    ['orrin', -1, 'tidemark'],
    ['tidemark', -1, undefined],
    ['penhallow', 1, undefined],
    ['gone', 1, undefined],
  ] as const)('by the arrows: %s by %i goes before %s', (id, by, before) => {
    expect(beforeWhenMoved(rules, id, by)).toBe(before);
  });

  it.each([
    ['tidemark', 'penhallow', null],
    ['tidemark', 'orrin', 'penhallow'],
    ['penhallow', 'tidemark', 'tidemark'],
  ])('by the mouse: %s on the place of %s goes before %s', (id, over, before) => {
    expect(beforeWhenDropped(rules, id, over)).toBe(before);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { codingRule, ruleLine, said, takesAll } from '../../testing/rules.ts';
import { takesOf } from './conditions.ts';
import { verdictOf } from './nearMiss.ts';
import type { Condition, ConditionGroup, RuleTakes } from './rule.ts';
import { indexRules } from './ruleIndex.ts';
import { turnsOf } from './turns.ts';
import { searchWordings } from './wordingSearch.ts';

const WORDS = ['tidemark', 'import', 'frt', 'stagwell', 'fuel', 'loan', '702'] as const;
const word = fc.constantFrom(...WORDS);
const text = fc.array(word, { minLength: 1, maxLength: 3 }).map((words) => words.join(' '));
const amount = fc.integer({ min: -400, max: 400 });

const condition: fc.Arbitrary<Condition> = fc.oneof(
  fc
    .record({
      test: fc.constantFrom(
        'has',
        'hasNot',
        'is',
        'startsWith',
        'endsWith',
        'looksLike',
        'isEmpty',
      ),
      field: fc.constantFrom('wording', 'description', 'reference', 'type'),
      text: fc.oneof(
        text,
        text.map((each) => `${each.slice(0, -1)}*`),
      ),
      isExact: fc.boolean(),
    })
    .map((each) => said(each.text, each)),
  fc
    .record({ from: fc.option(fc.nat(400)), to: fc.option(fc.nat(400)) })
    .map((band) => ({ kind: 'amount', ...band }) as const),
  fc.record({
    kind: fc.constant('day'),
    from: fc.integer({ min: 1, max: 31 }),
    to: fc.constant(20),
  }),
);
const match = fc.constantFrom('all', 'any');
const group: fc.Arbitrary<ConditionGroup> = fc.record({
  kind: fc.constant('group'),
  match,
  conditions: fc.array(condition, { minLength: 1, maxLength: 3 }),
});
const takes: fc.Arbitrary<RuleTakes> = fc.record({
  direction: fc.constantFrom('in', 'out', 'either'),
  bankAccountIds: fc.option(fc.constant(['everyday'])),
  match,
  conditions: fc.array(fc.oneof(condition, group), { minLength: 1, maxLength: 3 }),
});
const line = fc
  .record({ text, reference: fc.option(text), type: fc.option(word), amount })
  .map((each) => ruleLine(each.text.toUpperCase(), each.amount, each));

describe('an index of rules', () => {
  it('finds exactly the rules that testing each of them finds', () => {
    fc.assert(
      fc.property(fc.array(takes, { maxLength: 25 }), line, (all, one) => {
        const index = indexRules(all.map((each) => ({ takes: each })));
        const plainly = all.flatMap((each, place) => (takesOf(each)(one) ? [place] : []));
        expect(index.all(one)).toEqual(plainly);
        expect(index.first(one)).toBe(plainly[0] ?? -1);
      }),
      { numRuns: 2_000 },
    );
  });
});

describe('a search of wordings', () => {
  it('leaves out no line that a rule takes or nearly takes', () => {
    fc.assert(
      fc.property(fc.array(line, { maxLength: 20 }), takes, (lines, one) => {
        const verdict = verdictOf(one);
        const wanted = lines.filter((each) => verdict(each) !== null);
        const looked = searchWordings(lines).worthALook(lines, one);
        expect(looked.filter((each) => verdict(each) !== null)).toEqual(wanted);
      }),
      { numRuns: 2_000 },
    );
  });
});

describe('turns', () => {
  it('tell which earlier rule takes the lines of one that never gets a turn', () => {
    const rules = [codingRule('pitch', 'pitch', 'stall'), codingRule('salt', 'saltmarsh', 'sales')];
    const lines = ['SALTMARSH PITCH 1', 'SALTMARSH PITCH 2', 'OTHER PITCH'].map((each) =>
      ruleLine(each),
    );
    expect(turnsOf(rules, indexRules(rules), lines)).toEqual([
      { takes: 3, first: 3, earlier: [], overlaps: [[1, 2]] },
      { takes: 2, first: 0, earlier: [[0, 2]], overlaps: [] },
    ]);
  });

  it('are no overlap where both rules do the same', () => {
    const rules = [codingRule('pitch', 'pitch'), codingRule('salt', 'saltmarsh')];
    const lines = [ruleLine('SALTMARSH PITCH 1')];
    expect(turnsOf(rules, indexRules(rules), lines)[0]?.overlaps).toEqual([]);
  });

  it('count nothing for what no rule takes', () => {
    const rules = [{ ...codingRule('a', 'loan'), takes: takesAll([said('loan')]) }];
    expect(turnsOf(rules, indexRules(rules), [ruleLine('LOANS')])).toEqual([
      { takes: 0, first: 0, earlier: [], overlaps: [] },
    ]);
  });
});

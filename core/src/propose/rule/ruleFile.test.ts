import { describe, expect, it } from 'vitest';
import { codingRule, said, takesAll } from '../../testing/rules.ts';
import type { Rule } from './rule.ts';
import { fromFileRule, namesIn, ruleKey, toFileRule } from './ruleFile.ts';

const rule: Rule = {
  ...codingRule('1', 'tidemark'),
  takes: takesAll([said('tidemark')], { bankAccountIds: ['b1'] }),
  result: {
    kind: 'code',
    payee: { kind: 'fixed', payeeId: 'p1' },
    parts: [
      {
        accountId: 'a1',
        taxCodeId: 't1',
        share: { kind: 'percent', basisPoints: 4_000 },
        costCentreId: 'c1',
        jobId: 'j1',
        isRecharged: true,
      },
      { accountId: 'a2', taxCodeId: null, share: { kind: 'percent', basisPoints: 6_000 } },
    ],
    note: '{reference}',
  },
};

describe('a rule in a file', () => {
  const written = toFileRule(rule, (kind, id) => `${kind} ${id}`);
  const { id: _id, ...body } = rule;

  it('names everything, and comes back as it was', () => {
    expect(JSON.stringify(written)).not.toMatch(/"(a1|a2|b1|p1|t1|c1|j1)"/);
    const read = fromFileRule(written, (kind, name) => name.replace(`${kind} `, ''));
    expect(read).toEqual(body);
    expect(ruleKey(read)).toBe(ruleKey(rule));
  });

  it('lists each name once', () => {
    expect(
      namesIn([written, written])
        .map(({ kind }) => kind)
        .sort(),
    ).toEqual(['account', 'account', 'bankAccount', 'costCentre', 'job', 'payee', 'taxCode']);
  });

  it('is refused where a name stands for nothing', () => {
    expect(() => fromFileRule(written, (kind) => (kind === 'job' ? null : 'x'))).toThrow(
      'Nothing was chosen for “job j1”. Choose what it is here, or leave it out.',
    );
  });

  it('keeps moves, questions and exclusions', () => {
    for (const result of [
      { kind: 'transfer', bankAccountId: 'b2' },
      { kind: 'exclude', reason: 'secondCopy' },
      { kind: 'ask', askedOf: 'Rosa', words: 'What?' },
    ] as const) {
      const file = toFileRule({ ...rule, result }, (kind, id) => `${kind} ${id}`);
      const read = fromFileRule(file, (kind, name) => name.replace(`${kind} `, ''));
      expect(read.result).toEqual(result);
    }
  });
});

import { describe, expect, it } from 'vitest';
import { codingRule, ruleFacts, ruleLine, said, takesAll } from '../../testing/rules.ts';
import { laneOf } from '../proposal.ts';
import { checkRule, type RuleBooks } from './checkRule.ts';
import { verdictOf } from './nearMiss.ts';
import { proposeFromRule, type RuleProposalBooks, withBankFields } from './proposeFromRule.ts';
import type { Condition, RuleBody, RuleResult } from './rule.ts';
import { readRuleLine } from './ruleLine.ts';
import { ruleWords } from './ruleWords.ts';
import { narrowed, takesFor } from './takesFor.ts';
import { wordWarnings } from './wordWarnings.ts';

const books: RuleBooks = {
  account: (id) => {
    if (id === 'gone') return null;
    if (id === 'payables')
      return {
        name: 'Payables',
        type: 'liability',
        role: 'payables',
        isBank: false,
        tax: 'byType',
      };
    if (id === 'drawings')
      return { name: 'Drawings', type: 'equity', role: 'drawings', isBank: false, tax: 'byType' };
    return { name: id, type: 'expense', role: null, isBank: false, tax: 'byType' };
  },
  hasPayee: (id) => id !== 'gone',
  taxCodeName: (id) => (id === 'gone' ? null : id),
  hasCostObject: (id) => id !== 'gone',
  bankAccountName: (id) => (id === 'gone' ? null : id),
};
const clay = codingRule('clay', 'tidemark');
const withTakes = (conditions: RuleBody['takes']['conditions']): RuleBody => ({
  ...clay,
  takes: takesAll(conditions),
});
const withResult = (result: RuleResult, takes = clay.takes): RuleBody => ({
  ...clay,
  result,
  takes,
});
const part = (change: object) => ({
  accountId: 'clay',
  taxCodeId: null,
  share: { kind: 'rest' } as const,
  ...change,
});
const coded = (...parts: ReturnType<typeof part>[]): RuleResult => ({
  kind: 'code',
  payee: { kind: 'open' },
  parts,
  note: null,
});

describe('a rule that can’t be meant', () => {
  const percent = (basisPoints: number) => part({ share: { kind: 'percent', basisPoints } });
  const anyBank = takesAll([said('tax pot')]);
  it.each<[string, RuleBody, string]>([
    ['has no condition', withTakes([]), 'RULE_NO_CONDITION'],
    [
      'has an empty group',
      withTakes([{ kind: 'group', match: 'any', conditions: [] }]),
      'RULE_EMPTY_GROUP',
    ],
    ['looks for nothing', withTakes([said('  ')]), 'RULE_NO_TEXT'],
    ['looks for one letter', withTakes([said('T')]), 'RULE_SHORT_WORD'],
    ['looks for wildcards only', withTakes([said('**', { test: 'looksLike' })]), 'RULE_WILD'],
    [
      'has amounts the wrong way round',
      withTakes([{ kind: 'amount', from: 2, to: 1 }]),
      'RULE_AMOUNTS',
    ],
    ['has no amount', withTakes([{ kind: 'amount', from: null, to: null }]), 'RULE_AMOUNTS'],
    [
      'has dates the wrong way round',
      withTakes([{ kind: 'date', from: '2026-02-01', to: '2026-01-01' }]),
      'RULE_DATES',
    ],
    ['has a day 32', withTakes([{ kind: 'day', from: 1, to: 32 }]), 'RULE_DAYS'],
    ['has a percentage of 110', withResult(coded(percent(11_000))), 'RULE_PERCENT'],
    ['has percentages of 90', withResult(coded(percent(4_000), percent(5_000))), 'SPLIT_PERCENT'],
    ['has no part', withResult(coded()), 'SPLIT_EMPTY'],
    [
      'names an account that is gone',
      withResult(coded(part({ accountId: 'gone' }))),
      'RULE_NAMES_GONE',
    ],
    [
      'codes to what suppliers are owed',
      withResult(coded(part({ accountId: 'payables' }))),
      'ACCOUNT_CONTROL',
    ],
    [
      'puts tax on the owner’s money',
      withResult(coded(part({ accountId: 'drawings', taxCodeId: 'standard' }))),
      'TAX_NOT_HERE',
    ],
    [
      'moves lines of an account to itself',
      withResult(
        { kind: 'transfer', bankAccountId: 'pot' },
        { ...anyBank, bankAccountIds: ['pot'] },
      ),
      'RULE_CYCLE',
    ],
    [
      'moves lines of every account to one',
      withResult({ kind: 'transfer', bankAccountId: 'pot' }, anyBank),
      'RULE_CYCLE',
    ],
    [
      'asks nobody',
      withResult({ kind: 'ask', askedOf: ' ', words: 'What is it?' }),
      'RULE_NO_QUESTION',
    ],
    [
      'takes no bank account',
      { ...clay, takes: { ...clay.takes, bankAccountIds: [] } },
      'RULE_NO_BANK_ACCOUNT',
    ],
    [
      'asks at once',
      {
        ...withResult({ kind: 'ask', askedOf: 'Mo', words: 'What?' }),
        after: { kind: 'post', largest: null },
      },
      'RULE_POST_WHAT',
    ],
  ])('%s', (_name, body, code) => {
    expect(() => checkRule(body, books)).toThrow(expect.objectContaining({ code }));
  });

  it('is not one that is complete', () => {
    expect(() => checkRule(clay, books)).not.toThrow();
    const split = coded(part({ share: { kind: 'fixed', amount: -100 } }), part({}));
    expect(() => checkRule(withResult(split), books)).not.toThrow();
    expect(() => checkRule(withTakes([said('T', { test: 'is' })]), books)).not.toThrow();
  });
});

describe('a rule in words', () => {
  const names = {
    account: (id: string) => (id === 'clay' ? '5000 Clay and glazes' : id),
    bankAccount: (id: string) => id,
    amount: (minor: number) => (minor / 100).toFixed(2),
  };

  it('is one line', () => {
    const takes = takesAll([said('tidemark'), said('import')], {
      direction: 'out',
      bankAccountIds: ['Everyday', 'Card'],
    });
    expect(ruleWords({ ...clay, takes }, names)).toBe(
      'out, any of 2 accounts, has “tidemark” and “import” → 5000 Clay and glazes',
    );
  });

  it('names groups, amounts, days and what becomes of the line', () => {
    const group: RuleBody['takes']['conditions'][number] = {
      kind: 'group',
      match: 'any',
      conditions: [said('tax pot'), said('', { field: 'reference', test: 'isEmpty' })],
    };
    const body = withResult(
      { kind: 'transfer', bankAccountId: 'Tax pot' },
      takesAll([group, { kind: 'amount', from: 100, to: 100 }, { kind: 'day', from: 1, to: 3 }]),
    );
    expect(ruleWords(body, names)).toBe(
      '(has “tax pot” or reference is empty) and amount is 1.00 and day 1 to 3 → transfer, Tax pot',
    );
    expect(ruleWords(withResult({ kind: 'ask', askedOf: 'Rosa', words: '?' }), names)).toContain(
      'ask Rosa',
    );
    const atOnce = { ...clay, after: { kind: 'post', largest: null } } as const;
    expect(ruleWords(atOnce, names)).toBe('has “tidemark” → 5000 Clay and glazes, at once');
    expect(ruleWords(withResult({ kind: 'exclude', reason: 'beforeOpening' }), names)).toContain(
      'exclude, before the opening balance',
    );
  });
});

describe('what a rule proposes', () => {
  const proposalBooks: RuleProposalBooks = {
    isAccountOn: (id) => id !== 'off',
    bankLedger: (id) => (id === 'Tax pot' ? 'pot’s account' : null),
    payeeNamed: (name) => (name === 'TIDEMARK FREIGHT' ? 'tidemark' : null),
    recordOf: () => ({ kept: 0, of: 0, keptInRow: 0 }),
  };
  const propose = (result: RuleResult, change = {}, facts = ruleFacts('CRD PUR TIDEMARK 702')) =>
    proposeFromRule({ ...clay, result }, facts, { ...proposalBooks, ...change });

  it('is its coding, Ready, on the ground of the rule', () => {
    const proposal = propose(coded(part({ taxCodeId: '20' })));
    expect(laneOf(proposal)).toBe('ready');
    expect(proposal).toMatchObject({
      kind: 'post',
      source: 'rule',
      coding: { payeeId: null, parts: [{ accountId: 'clay', taxCodeId: '20', tax: null }] },
      grounds: [{ kind: 'rule', ruleId: 'clay', name: 'clay', leaves: ['payee'] }],
    });
  });

  it('waits in Check while it goes against what was coded by hand, until three were kept in a row', () => {
    const after = (keptInRow: number) =>
      proposeFromRule({ ...clay, result: coded(part({})), against: 72 }, ruleFacts('TIDEMARK'), {
        ...proposalBooks,
        recordOf: () => ({ kept: 0, of: 0, keptInRow }),
      });
    expect(laneOf(after(0))).toBe('check');
    expect(after(2)?.doubts).toEqual([{ kind: 'ruleAgainstHand', times: 72, needed: 1 }]);
    expect(laneOf(after(3))).toBe('ready');
  });

  it('takes the payee that the bank names, where it is in the books', () => {
    const result = { ...coded(part({})), payee: { kind: 'bank' } } as RuleResult;
    const named = (payee: string | null) => propose(result, {}, ruleFacts('X', -1, { payee }));
    expect(named('Tidemark Freight')).toMatchObject({ coding: { payeeId: 'tidemark' } });
    expect(named(null)).toMatchObject({ coding: { payeeId: null }, doubts: [] });
    expect(named('Nobody')?.doubts).toEqual([
      { kind: 'unknownName', what: 'payee', name: 'Nobody' },
    ]);
  });

  it('stops where its parts do not fit, and doubts what is switched off or mostly overruled', () => {
    const fixed = part({ share: { kind: 'fixed', amount: -9_900 } });
    expect(propose(coded(fixed, part({})))?.doubts).toMatchObject([{ kind: 'ruleStopped' }]);
    expect(propose(coded(part({ accountId: 'off' })))?.doubts).toEqual([
      { kind: 'accountOff', accountId: 'off' },
    ]);
    const record = (kept: number, of: number) => ({ recordOf: () => ({ kept, of }) });
    expect(propose(coded(part({})), record(1, 6))?.doubts).toEqual([
      { kind: 'ruleOverruled', kept: 1, of: 6 },
    ]);
    expect(propose(coded(part({})), record(0, 3))?.doubts).toEqual([]);
    expect(propose(coded(part({})), record(3, 6))?.doubts).toEqual([]);
  });

  it('is a move to the other bank account, or nothing where that is not there', () => {
    const result: RuleResult = { kind: 'transfer', bankAccountId: 'Tax pot' };
    expect(propose(result)).toMatchObject({
      kind: 'post',
      coding: { parts: [{ accountId: 'pot’s account' }] },
    });
    expect(propose({ ...result, bankAccountId: 'gone' })).toBeNull();
  });

  it('is a question or a reason that waits in Check', () => {
    const ask = propose({ kind: 'ask', askedOf: 'Rosa', words: 'What was {description}?' });
    expect(ask).toMatchObject({ kind: 'ask', words: 'What was CRD PUR TIDEMARK 702?' });
    expect(laneOf(ask)).toBe('check');
    expect(laneOf(propose({ kind: 'exclude', reason: 'secondCopy' }))).toBe('check');
  });

  it('fills the bank’s fields into a note, and leaves other braces alone', () => {
    const facts = ruleFacts('TIDEMARK', -1, { reference: 'HC-40221' });
    expect(withBankFields('Invoice {reference} {payee} {x}', facts)).toBe('Invoice HC-40221 {x}');
  });
});

describe('a near miss', () => {
  const amount: Condition = { kind: 'amount', from: 9_600, to: 9_600 };
  const miss = verdictOf(takesAll([said('tidemark'), amount], { direction: 'out' }));

  it('is for want of one thing', () => {
    expect(miss(ruleLine('TIDEMARK', -9_600))).toBe('taken');
    expect(miss(ruleLine('TIDEMARK', -10_140))).toBe('amount');
    expect(miss(ruleLine('TIDEMARK', 9_600))).toBe('direction');
    expect(miss(ruleLine('TIDEMARK', 10_140))).toBeNull();
  });

  it('is none where the wording it looks for is not there at all', () => {
    expect(miss(ruleLine('STAGWELL', -9_600))).toBeNull();
    const two = verdictOf(takesAll([said('tidemark'), said('import')]));
    expect(two(ruleLine('TIDEMARK FRT'))).toBe('wording');
    expect(two(ruleLine('STAGWELL'))).toBeNull();
    const any = verdictOf(takesAll([said('tidemark'), said('import')], { match: 'any' }));
    expect(any(ruleLine('IMPORT'))).toBe('taken');
    const bare = verdictOf(takesAll([amount]));
    expect(bare(ruleLine('STAGWELL', -9_600))).toBe('taken');
    expect(bare(ruleLine('STAGWELL', -1))).toBeNull();
  });
});

describe('conditions made from lines', () => {
  const isCommon = (word: string) => ['CRD', 'PUR'].includes(word);
  const lines = (...texts: string[]) => texts.map((text) => readRuleLine(ruleFacts(text)));

  it('are the stable part of the wording, without numbers and without what many have', () => {
    const found = takesFor(lines('CRD PUR TIDEMARK FRT 20318', 'CRD PUR TIDEMARK FRT 9'), isCommon);
    expect(found).toEqual({
      direction: 'out',
      bankAccountIds: null,
      match: 'all',
      conditions: [said('tidemark frt')],
    });
  });

  it('leave the reference number of a single line out', () => {
    expect(takesFor(lines('CRD PUR TIDEMARK FRT AB1234'), isCommon).conditions).toEqual([
      said('tidemark frt'),
    ]);
  });

  it('are several words where something stands between them', () => {
    const found = takesFor(lines('TIDEMARK 12 IMPORT', 'TIDEMARK 77 IMPORT'), isCommon);
    expect(found.conditions).toEqual([said('tidemark'), said('import')]);
  });

  it('are any of the wordings where no word is stable', () => {
    const found = takesFor(lines('LINNETPOST', 'LINNET POST', 'LINNET POST'), isCommon);
    expect(found).toMatchObject({
      match: 'any',
      conditions: [said('linnet post'), said('linnetpost')],
    });
  });

  it('get what separates the accounts of a payee', () => {
    const takes = takesFor(lines('TIDEMARK FRT'), isCommon);
    const word = { kind: 'word', word: 'IMPORT' } as const;
    expect(narrowed(takes, word, true, []).conditions).toEqual([
      said('tidemark frt'),
      said('import'),
    ]);
    expect(narrowed(takes, word, false, []).conditions[1]).toEqual(
      said('import', { test: 'hasNot' }),
    );
    const amount = { kind: 'amount', limit: 5_000 } as const;
    expect(narrowed(takes, amount, false, []).conditions[1]).toEqual({
      kind: 'amount',
      from: 5_001,
      to: null,
    });
    const day = { kind: 'day', limit: 5 } as const;
    expect(narrowed(takes, day, false, []).conditions[1]).toEqual({ kind: 'day', from: 6, to: 31 });
    expect(narrowed(takes, day, true, []).conditions[1]).toEqual({ kind: 'day', from: 1, to: 5 });
    const bank = { kind: 'bankAccount', bankAccountId: 'card' } as const;
    expect(narrowed(takes, bank, false, ['everyday']).bankAccountIds).toEqual(['everyday']);
    const either = takesFor(lines('LINNETPOST', 'LINNET POST'), isCommon);
    expect(narrowed(either, word, true, []).conditions[0]).toMatchObject({
      kind: 'group',
      match: 'any',
    });
  });
});

describe('warnings of words', () => {
  const isCommon = (word: string) => word === 'MARKET';
  it('are given for short and common ones that stand alone', () => {
    expect(wordWarnings(takesAll([said('frt')]), isCommon)).toEqual([
      { word: 'FRT', kind: 'short' },
    ]);
    expect(wordWarnings(takesAll([said('market')]), isCommon)).toEqual([
      { word: 'MARKET', kind: 'common' },
    ]);
    expect(wordWarnings(takesAll([said('market'), said('saltmarsh')]), isCommon)).toEqual([]);
    const any = takesAll([said('market'), said('saltmarsh')], { match: 'any' });
    expect(wordWarnings(any, isCommon)).toHaveLength(1);
  });
});

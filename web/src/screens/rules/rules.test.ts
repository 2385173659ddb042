import type { ListedRule, RuleBody } from '@zubrell/contract/rules';
import { describe, expect, it } from 'vitest';
import { markedPieces } from './marking.ts';
import {
  bodyToSave,
  bodyToTry,
  draftOfRule,
  emptyDraft,
  emptyPart,
  emptyResult,
  followRule,
  twinOf,
  withConditionAt,
  wordsToMark,
} from './ruleDraft.ts';
import { shownRules } from './ruleShown.ts';

const said = (text: string) =>
  ({ kind: 'text', field: 'wording', test: 'has', text, isExact: false }) as const;
const body = (text: string, accountId: string): RuleBody => ({
  takes: { direction: 'out', bankAccountIds: null, match: 'all', conditions: [said(text)] },
  result: {
    kind: 'code',
    payee: { kind: 'open' },
    parts: [{ accountId, taxCodeId: null, share: { kind: 'rest' } }],
    note: null,
  },
  after: { kind: 'hold' },
});

describe('a rule that is being written', () => {
  const opened = {
    id: 'r',
    name: 'Tidemark',
    isOn: true,
    lastStep: 4,
    body: body('tidemark', 'a'),
  };
  const rule = (change: object) => ({ ...opened, ...change }) as ListedRule;
  const untouched = { opened: rule({}), draft: draftOfRule(rule({})) };
  const typed = { ...untouched, draft: { ...untouched.draft, name: 'Tidemark imports' } };

  it('follows its rule while nothing is typed', () => {
    const now = rule({ lastStep: 7, isOn: false });
    expect(followRule(untouched, rule({}))).toBe(untouched);
    expect(followRule(untouched, now)).toEqual({ opened: now, draft: draftOfRule(now) });
  });

  it('keeps what is typed, and may be saved, where its rule was only moved', () => {
    const now = rule({ lastStep: 7, number: 1 });
    expect(followRule(typed, now)).toEqual({ opened: now, draft: typed.draft });
  });

  it('keeps what is typed, and may not be saved unseen, where its rule says something else', () => {
    expect(followRule(typed, rule({ lastStep: 7, isOn: false }))).toBe(typed);
  });

  it('is the rule once it is saved, in whatever order its fields come back', () => {
    const { takes, result, after } = opened.body;
    const now = rule({ lastStep: 7, name: 'Tidemark imports', body: { after, result, takes } });
    expect(followRule(typed, now)).toEqual({ opened: now, draft: typed.draft });
  });

  it('can be tried before an account is chosen, and saved only after', () => {
    expect(bodyToTry(emptyDraft).result).toMatchObject({ kind: 'code', parts: [] });
    expect(bodyToSave(emptyDraft)).toEqual({ missing: 'a name' });
    expect(bodyToSave({ ...emptyDraft, name: 'Clay' })).toEqual({ missing: 'the account' });
    const rule = draftOfRule({ name: 'Clay', body: body('tidemark', 'clay') });
    expect(bodyToSave(rule)).toEqual({ body: body('tidemark', 'clay') });
    const move = { ...rule, result: emptyResult('transfer') };
    expect(bodyToSave(move)).toEqual({ missing: 'the bank account' });
    const asking = { ...rule, result: emptyResult('ask') };
    expect(bodyToSave(asking)).toMatchObject({ body: { result: { kind: 'ask' } } });
  });

  it('begins with an empty part where none could be filled in', () => {
    const bare = body('tidemark', 'clay');
    const drafted = { ...bare, result: { ...bare.result, parts: [] } } as RuleBody;
    expect(draftOfRule({ name: 'X', body: drafted }).result).toMatchObject({ parts: [emptyPart] });
  });

  it('has conditions changed and taken out by their place', () => {
    expect(withConditionAt(['a', 'b', 'c'], 1, 'x')).toEqual(['a', 'x', 'c']);
    expect(withConditionAt(['a', 'b', 'c'], 1, null)).toEqual(['a', 'c']);
  });

  it('has a twin for money back, whose fixed amounts turn', () => {
    const rule = draftOfRule({ name: 'Clay', body: body('tidemark', 'clay') });
    const fixed = { ...emptyPart, share: { kind: 'fixed', amount: -100 } as const };
    const split = { ...rule.result, parts: [fixed, emptyPart] } as typeof rule.result;
    const twin = twinOf({ ...rule, result: split, after: { kind: 'post', largest: null } });
    expect(twin).toMatchObject({
      name: 'Clay, money back',
      takes: { direction: 'in' },
      result: { parts: [{ share: { amount: 100 } }, emptyPart] },
      after: { kind: 'hold' },
    });
  });
});

describe('what a rule looks for', () => {
  it('is marked in the wording, whatever the case, whole words only', () => {
    const conditions = [
      said('tidemark frt'),
      { kind: 'group', match: 'any', conditions: [said('imp*')] } as const,
      { ...said('no'), test: 'hasNot' } as const,
    ];
    const words = wordsToMark(conditions);
    expect(words).toEqual(['tidemark', 'frt', 'imp*']);
    const pieces = markedPieces('CRD TIDEMARK-Frt IMPORT NO TIDEMARKS', words);
    expect(pieces.filter(({ isMarked }) => isMarked).map(({ text }) => text)).toEqual([
      'TIDEMARK',
      'Frt',
      'IMPORT',
    ]);
    expect(pieces.map(({ text }) => text).join('')).toBe('CRD TIDEMARK-Frt IMPORT NO TIDEMARKS');
  });
});

const listed = (name: string, change: Partial<ListedRule> = {}): ListedRule => ({
  id: name,
  number: 1,
  name,
  isOn: true,
  body: body(name.toLowerCase(), name),
  lastStep: 1,
  used: 0,
  open: 0,
  kept: 0,
  looked: 0,
  postedAtOnce: 0,
  keptInRow: 0,
  lastUsed: null,
  health: [],
  ...change,
});
const names = {
  account: (id: string) => `5000 ${id}`,
  bankAccount: (id: string) => id,
  payee: (id: string) => id,
  amount: String,
};

describe('the list of rules', () => {
  const rules = [
    listed('Pitch', { used: 2, lastUsed: '2026-01-01' }),
    listed('Clay', { used: 9, lastUsed: '2026-03-01' }),
    listed('Fuel'),
  ];
  const found = (typed: string, order: Parameters<typeof shownRules>[2]) =>
    shownRules(rules, typed, order, names).map(({ name }) => name);

  it('is searched by name and meaning, and sorted', () => {
    expect(found('5000 clay', 'number')).toEqual(['Clay']);
    expect(found('', 'use')).toEqual(['Clay', 'Pitch', 'Fuel']);
    expect(found('', 'lastUse')).toEqual(['Clay', 'Pitch', 'Fuel']);
    expect(found('', 'account')).toEqual(['Clay', 'Fuel', 'Pitch']);
  });
});

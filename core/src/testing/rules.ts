import type { Condition, Rule, RuleFacts, RuleTakes } from '../propose/rule/rule.ts';
import { type RuleLine, readRuleLine } from '../propose/rule/ruleLine.ts';

/** What of a line rules look at, for tests. */
export function ruleFacts(
  description: string,
  amount = -4_850,
  change: Partial<RuleFacts> = {},
): RuleFacts {
  return {
    date: '2026-03-12',
    amount,
    bankAccountId: 'everyday',
    description,
    reference: null,
    payee: null,
    counterparty: null,
    type: null,
    chequeNumber: null,
    category: null,
    ...change,
  };
}

/** A line as rules read it, for tests. */
export function ruleLine(
  description: string,
  amount?: number,
  change?: Partial<RuleFacts>,
): RuleLine {
  return readRuleLine(ruleFacts(description, amount, change));
}

/** A condition on the whole wording. */
export function said(
  text: string,
  change: Partial<Extract<Condition, { kind: 'text' }>> = {},
): Extract<Condition, { kind: 'text' }> {
  return { kind: 'text', field: 'wording', test: 'has', text, isExact: false, ...change };
}

/** What a rule takes, where all of some conditions must hold. */
export function takesAll(
  conditions: RuleTakes['conditions'],
  change: Partial<RuleTakes> = {},
): RuleTakes {
  return { direction: 'either', bankAccountIds: null, match: 'all', conditions, ...change };
}

/** A rule that codes to an account what has a word. */
export function codingRule(id: string, text: string, accountId = 'clay'): Rule {
  return {
    id,
    name: id,
    takes: takesAll([said(text)]),
    result: {
      kind: 'code',
      payee: { kind: 'open' },
      parts: [{ accountId, taxCodeId: null, share: { kind: 'rest' } }],
      note: null,
    },
    after: { kind: 'hold' },
  };
}

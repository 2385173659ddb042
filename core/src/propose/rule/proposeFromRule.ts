import { ZubrellError } from '../../errors.ts';
import type { AccountId, BankAccountId, PayeeId, RuleId } from '../../ids.ts';
import { type Coding, wholeLineCoding } from '../../ledger/coding.ts';
import { splitAmount } from '../../money/splitAmount.ts';
import { plainWording } from '../../text/plainWording.ts';
import type { Doubt, Ground, Proposal } from '../proposal.ts';
import type { Rule, RuleFacts, RuleResult } from './rule.ts';
import { rawText } from './ruleLine.ts';

/** What became of a rule's newest proposals that somebody looked at. */
export interface RuleRecord {
  readonly kept: number;
  readonly of: number;
  /** How many in a row were kept up to the newest, since it says what it says. */
  readonly keptInRow: number;
}

/** What of the books a rule's proposals depend on. */
export interface RuleProposalBooks {
  readonly isAccountOn: (accountId: AccountId) => boolean;
  /** The ledger account of a bank account of these books; null where there is none. */
  readonly bankLedger: (bankAccountId: BankAccountId) => string | null;
  /** The payee of a plain name; null where there is none. */
  readonly payeeNamed: (plainName: string) => string | null;
  readonly recordOf: (ruleId: RuleId) => RuleRecord;
}

/** So few looked at prove nothing against a rule. */
const TOO_FEW = 4;
/** A rule that goes against what was coded by hand is trusted once so many of its proposals in a row were kept. */
const KEPT_TO_TRUST = 3;

/**
 * What a rule proposes for a line that it takes. A rule fills only what it states; what it states and is
 * not there, or does not fit the line, is a doubt.
 *
 * @returns null where it moves money to an account that is not there
 */
export function proposeFromRule(
  rule: Rule,
  line: RuleFacts,
  books: RuleProposalBooks,
): Proposal | null {
  const { id: ruleId, name } = rule;
  const grounds: Ground[] = [{ kind: 'rule', ruleId, name, leaves: leftOpen(rule.result) }];
  const doubts: Doubt[] = [];
  const { kept, of, keptInRow } = books.recordOf(rule.id);
  const { against = 0 } = rule;
  if (against > 0 && keptInRow < KEPT_TO_TRUST) {
    doubts.push({ kind: 'ruleAgainstHand', times: against, needed: KEPT_TO_TRUST - keptInRow });
  }
  if (of >= TOO_FEW && 2 * kept < of) doubts.push({ kind: 'ruleOverruled', kept, of });
  const { result } = rule;
  switch (result.kind) {
    case 'ask':
      return {
        kind: 'ask',
        source: 'rule',
        askedOf: result.askedOf,
        words: withBankFields(result.words, line),
        grounds,
        doubts: [...doubts, { kind: 'toAsk', askedOf: result.askedOf }],
      };
    case 'exclude':
      return {
        kind: 'exclude',
        source: 'rule',
        reason: result.reason,
        grounds,
        doubts: [...doubts, { kind: 'toExclude', reason: result.reason }],
      };
    case 'transfer': {
      const otherId = books.bankLedger(result.bankAccountId);
      if (otherId === null) return null;
      const coding = wholeLineCoding(otherId, null, null);
      return { kind: 'post', source: 'rule', coding, grounds, doubts };
    }
    case 'code': {
      const { payeeId, doubt } = payeeOf(result.payee, line, books);
      if (doubt) doubts.push(doubt);
      const off = result.parts.find(({ accountId }) => !books.isAccountOn(accountId));
      if (off) doubts.push({ kind: 'accountOff', accountId: off.accountId });
      const why = misfitOf(line.amount, result);
      if (why !== null) doubts.push({ kind: 'ruleStopped', why });
      const coding: Coding = {
        payeeId,
        parts: result.parts.map((part) => ({ ...part, tax: null })),
        note: result.note === null ? null : withBankFields(result.note, line),
      };
      return { kind: 'post', source: 'rule', coding, grounds, doubts };
    }
  }
}

/** What a rule leaves to be filled in by what is usual. */
function leftOpen(result: RuleResult): ('payee' | 'tax')[] {
  if (result.kind !== 'code') return [];
  const isTaxOpen = result.parts.length === 1 && result.parts[0]?.taxCodeId === null;
  return [
    ...(result.payee.kind === 'open' ? (['payee'] as const) : []),
    ...(isTaxOpen ? (['tax'] as const) : []),
  ];
}

/** Why the parts of a rule do not add up to a line; null where they do. */
function misfitOf(amount: number, { parts }: Extract<RuleResult, { kind: 'code' }>): string | null {
  try {
    splitAmount(
      amount,
      parts.map(({ share }) => share),
    );
    return null;
  } catch (error) {
    if (!(error instanceof ZubrellError)) throw error;
    return error.message;
  }
}

function payeeOf(
  payee: Extract<RuleResult, { kind: 'code' }>['payee'],
  line: RuleFacts,
  books: RuleProposalBooks,
): { readonly payeeId: PayeeId | null; readonly doubt?: Doubt } {
  if (payee.kind === 'open') return { payeeId: null };
  if (payee.kind === 'fixed') return { payeeId: payee.payeeId };
  if (!line.payee) return { payeeId: null };
  const payeeId = books.payeeNamed(plainWording(line.payee));
  return payeeId === null
    ? { payeeId, doubt: { kind: 'unknownName', what: 'payee', name: line.payee } }
    : { payeeId };
}

/** The bank's fields that a note or question may take. */
export const noteFields = ['description', 'reference', 'payee', 'chequeNumber', 'date'] as const;

/**
 * A text with the bank's own fields put in.
 *
 * @example withBankFields('Invoice {reference}', line) // 'Invoice HC-40221'
 */
export function withBankFields(text: string, line: RuleFacts): string {
  return text
    .replace(/\{(\w+)\}/g, (whole, name: string) => {
      const field = noteFields.find((each) => each === name);
      if (field === undefined) return whole;
      return field === 'date' ? line.date : rawText(line, field);
    })
    .replace(/\s+/g, ' ')
    .trim();
}

import { fail } from '../../errors.ts';
import type { BankAccountId } from '../../ids.ts';
import { isControlRole } from '../../ledger/accountRoles.ts';
import { type TaxedAccount, takesTax } from '../../ledger/taxSide.ts';
import { plainWording } from '../../text/plainWording.ts';
import type { Condition, ConditionGroup, RuleBody, RuleResult } from './rule.ts';
import { fieldNames } from './ruleWords.ts';

/** What of the books a rule may name. */
export interface RuleBooks {
  /** What of an account decides what can be coded to it; null where it is not in the books. */
  readonly account: (id: string) => (TaxedAccount & { readonly name: string }) | null;
  readonly hasPayee: (id: string) => boolean;
  /** The name of a tax code; null where it is not in the books. */
  readonly taxCodeName: (id: string) => string | null;
  readonly hasCostObject: (id: string) => boolean;
  /** The name of a bank account; null where it is not in the books. */
  readonly bankAccountName: (id: string) => string | null;
}

const WHOLE = 10_000;

/**
 * Refuses a rule that can't be meant.
 *
 * @throws {ZubrellError} RULE_NO_CONDITION, RULE_EMPTY_GROUP, RULE_NO_TEXT, RULE_SHORT_WORD, RULE_WILD,
 * RULE_AMOUNTS, RULE_DATES, RULE_DAYS, RULE_PERCENT, RULE_NO_BANK_ACCOUNT, RULE_CYCLE, RULE_NO_QUESTION,
 * RULE_NAMES_GONE, RULE_POST_WHAT, ACCOUNT_CONTROL, TAX_NOT_HERE, SPLIT_EMPTY, SPLIT_PERCENT, SPLIT_RATE
 */
export function checkRule({ takes, result, after }: RuleBody, books: RuleBooks): void {
  const { bankAccountIds, conditions } = takes;
  if (conditions.length === 0) fail('RULE_NO_CONDITION');
  for (const condition of conditions) checkCondition(condition);
  if (bankAccountIds?.length === 0) fail('RULE_NO_BANK_ACCOUNT');
  for (const id of bankAccountIds ?? []) {
    if (books.bankAccountName(id) === null) fail('RULE_NAMES_GONE', { what: 'a bank account' });
  }
  checkResult(result, bankAccountIds, books);
  if (after.kind === 'post' && result.kind !== 'code' && result.kind !== 'transfer') {
    fail('RULE_POST_WHAT');
  }
}

function checkCondition(condition: Condition | ConditionGroup): void {
  switch (condition.kind) {
    case 'group':
      if (condition.conditions.length === 0) fail('RULE_EMPTY_GROUP');
      for (const each of condition.conditions) checkCondition(each);
      return;
    case 'text':
      checkText(condition);
      return;
    case 'amount': {
      const { from, to } = condition;
      const isWrong = from !== null && to !== null && from > to;
      if (isWrong || (from === null && to === null) || (from ?? 0) < 0 || (to ?? 0) < 0) {
        fail('RULE_AMOUNTS', { from: shown(from), to: shown(to) });
      }
      return;
    }
    case 'date': {
      const { from, to } = condition;
      const isWrong = from !== null && to !== null && from > to;
      if (isWrong || (from === null && to === null)) {
        fail('RULE_DATES', { from: from ?? '—', to: to ?? '—' });
      }
      return;
    }
    case 'day': {
      const { from, to } = condition;
      const isDay = (day: number) => Number.isInteger(day) && day >= 1 && day <= 31;
      if (!isDay(from) || !isDay(to)) fail('RULE_DAYS', { from, to });
    }
  }
}

const shown = (minor: number | null) => (minor === null ? '—' : minor / 100);

function checkText({ field, test, text, isExact }: Extract<Condition, { kind: 'text' }>): void {
  if (test === 'isEmpty') return;
  const letters = plainWording(text.replace(/[*?]/g, ' '));
  if (test === 'looksLike' && letters === '' && text.trim() !== '') fail('RULE_WILD', { text });
  if (isExact ? text === '' : letters === '') fail('RULE_NO_TEXT', { field: fieldNames[field] });
  if (!isExact && test !== 'is' && letters.length === 1) fail('RULE_SHORT_WORD', { word: text });
}

function checkResult(
  result: RuleResult,
  bankAccountIds: readonly BankAccountId[] | null,
  books: RuleBooks,
): void {
  const gone = (what: string): never => fail('RULE_NAMES_GONE', { what });
  switch (result.kind) {
    case 'code': {
      if (result.parts.length === 0) fail('SPLIT_EMPTY');
      if (result.payee.kind === 'fixed' && !books.hasPayee(result.payee.payeeId)) gone('a payee');
      for (const { accountId, taxCodeId, costCentreId, jobId } of result.parts) {
        const account = books.account(accountId) ?? gone('an account');
        if (isControlRole(account.role)) fail('ACCOUNT_CONTROL', { name: account.name });
        if (taxCodeId !== null) {
          const code = books.taxCodeName(taxCodeId) ?? gone('a tax code');
          if (!takesTax(account)) fail('TAX_NOT_HERE', { account: account.name, code });
        }
        if (costCentreId && !books.hasCostObject(costCentreId)) gone('a cost centre');
        if (jobId && !books.hasCostObject(jobId)) gone('a job');
      }
      checkShares(result.parts.map(({ share }) => share));
      return;
    }
    case 'transfer': {
      const name = books.bankAccountName(result.bankAccountId);
      if (name === null) fail('RULE_NAMES_GONE', { what: 'a bank account' });
      if (bankAccountIds === null || bankAccountIds.includes(result.bankAccountId)) {
        fail('RULE_CYCLE', { name });
      }
      return;
    }
    case 'ask':
      if (result.askedOf.trim() === '' || result.words.trim() === '') fail('RULE_NO_QUESTION');
      return;
    case 'exclude':
      return;
  }
}

type Share = Extract<RuleResult, { kind: 'code' }>['parts'][number]['share'];

/** Percentages must be possible, and the parts must be able to add up to any line. */
function checkShares(shares: readonly Share[]): void {
  let sum = 0;
  let rate = 0;
  for (const share of shares) {
    if (share.kind === 'percent' || share.kind === 'grossUp') {
      const { basisPoints } = share;
      if (basisPoints < 0 || basisPoints > WHOLE) {
        fail('RULE_PERCENT', { percent: basisPoints / 100 });
      }
      if (share.kind === 'percent') sum += basisPoints;
      else rate += basisPoints;
    } else if (share.kind === 'rest') sum += WHOLE;
  }
  if (rate >= WHOLE) fail('SPLIT_RATE', { rate: rate / 100 });
  if (sum !== WHOLE) fail('SPLIT_PERCENT', { sum: sum / 100 });
}

import type { AccountId, BankAccountId, PayeeId, TaxCodeId } from '../../ids.ts';
import type { CostObjects } from '../../ledger/coding.ts';
import type { Minor } from '../../money/minor.ts';
import type { SplitPart } from '../../money/splitAmount.ts';

/** The texts of a line that a condition can look at; the whole wording is description, payee and reference. */
export const textFields = [
  'wording',
  'description',
  'reference',
  'payee',
  'counterparty',
  'type',
  'chequeNumber',
  'category',
] as const;
export type TextField = (typeof textFields)[number];

/** How a text is compared: by whole words, where case, accents, punctuation and spacing do not count. */
export const textTests = [
  'has',
  'hasNot',
  'is',
  'startsWith',
  'endsWith',
  'isEmpty',
  'looksLike',
] as const;
export type TextTest = (typeof textTests)[number];

/** What a rule asks of one thing about a line. */
export type Condition =
  | {
      readonly kind: 'text';
      readonly field: TextField;
      readonly test: TextTest;
      /** For `looksLike`, `*` stands for anything and `?` for one character. */
      readonly text: string;
      /** Characters are compared as they are, not words. */
      readonly isExact: boolean;
    }
  /** By size, without sign; both bounds are included, null leaves that side open. */
  | { readonly kind: 'amount'; readonly from: Minor | null; readonly to: Minor | null }
  /** Both days are included; null leaves that side open. */
  | { readonly kind: 'date'; readonly from: string | null; readonly to: string | null }
  /** Days of the month; from 28 to 3 goes over its end. */
  | { readonly kind: 'day'; readonly from: number; readonly to: number };

/** Conditions of which all or any one must hold. */
export interface ConditionGroup {
  readonly kind: 'group';
  readonly match: 'all' | 'any';
  readonly conditions: readonly Condition[];
}

/** Which lines a rule takes. */
export interface RuleTakes {
  readonly direction: 'in' | 'out' | 'either';
  /** Null for every bank account of the books. */
  readonly bankAccountIds: readonly BankAccountId[] | null;
  readonly match: 'all' | 'any';
  readonly conditions: readonly (Condition | ConditionGroup)[];
}

/** A part of what a rule codes. */
export interface RulePart extends CostObjects {
  readonly accountId: AccountId;
  readonly taxCodeId: TaxCodeId | null;
  readonly share: SplitPart;
}

/** Whom a rule names as the payee: somebody, whom the bank names, or nobody. */
export type RulePayee =
  | { readonly kind: 'fixed'; readonly payeeId: PayeeId }
  | { readonly kind: 'bank' }
  | { readonly kind: 'open' };

/** Why a rule may exclude a line: only what can be seen to hold for each line it takes. */
export const ruleExcludeReasons = ['secondCopy', 'beforeOpening'] as const;

/** What becomes of a line that a rule takes. */
export type RuleResult =
  | {
      readonly kind: 'code';
      readonly payee: RulePayee;
      readonly parts: readonly RulePart[];
      /** May hold fields of the bank, such as `{reference}`. */
      readonly note: string | null;
    }
  | { readonly kind: 'transfer'; readonly bankAccountId: BankAccountId }
  | { readonly kind: 'exclude'; readonly reason: (typeof ruleExcludeReasons)[number] }
  | { readonly kind: 'ask'; readonly askedOf: string; readonly words: string };

/** What a rule says, without its place and its name. */
export interface RuleBody {
  readonly takes: RuleTakes;
  readonly result: RuleResult;
  /** Whether its lines wait for a look, or are posted at once up to an amount by size. */
  readonly after:
    | { readonly kind: 'hold' }
    | { readonly kind: 'post'; readonly largest: Minor | null };
}

/** A rule as it is applied. Earlier rules go first. */
export interface Rule extends RuleBody {
  readonly id: string;
  readonly name: string;
  /** How many lines had been coded otherwise by hand when it was saved, where those were the most of what it takes. */
  readonly against?: number;
}

/** What of a line a rule can look at. */
export interface RuleFacts {
  readonly date: string;
  /** In positive, out negative. */
  readonly amount: Minor;
  readonly bankAccountId: BankAccountId;
  readonly description: string;
  readonly reference: string | null;
  readonly payee: string | null;
  readonly counterparty: string | null;
  readonly type: string | null;
  readonly chequeNumber: string | null;
  readonly category: string | null;
}

/** So many proposals of a rule in a row must be kept before it may post at once. */
export const KEPT_TO_POST = 10;

import type { Coding } from '../ledger/coding.ts';
import type { DemandedField } from '../ledger/demands.ts';
import type { Minor } from '../money/minor.ts';
import type { NudgeKind } from './nudge/nudges.ts';

/** Where an open line stands. */
export type Lane = 'ready' | 'check' | 'blank' | 'asked';

/** Why a proposal is what it is. */
export type Ground =
  | {
      readonly kind: 'lookAlikes';
      /** How many decided look-alikes went to the proposed account, of how many. */
      readonly times: number;
      readonly of: number;
      readonly accountId: string;
    }
  /** What tells apart the accounts that look-alikes went to. */
  | {
      readonly kind: 'separator';
      readonly by: 'word' | 'amount' | 'direction' | 'bankAccount';
      readonly word?: string;
      /** Up to this amount, whatever its sign, it is one account, and above it another. */
      readonly limit?: Minor;
    }
  | { readonly kind: 'prepared' }
  /** A word of the wording says what it may be. */
  | { readonly kind: 'word'; readonly word: string };

/** Why a proposal may be wrong. One is enough for Check. */
export type Doubt =
  | { readonly kind: 'seenSeldom'; readonly times: number }
  | {
      readonly kind: 'severalAccounts';
      readonly accounts: readonly { readonly accountId: string; readonly times: number }[];
    }
  | { readonly kind: 'severalTaxCodes' }
  | { readonly kind: 'unusualAmount' }
  /** The wording is new for this payee. */
  | { readonly kind: 'newWording' }
  | { readonly kind: 'unsure' }
  | { readonly kind: 'accountOff'; readonly accountId: string }
  /** The books demand more of a coding than is proposed. */
  | { readonly kind: 'incomplete'; readonly missing: readonly DemandedField[] }
  /** A prepared file names something that is not in the books. */
  | { readonly kind: 'unknownName'; readonly what: 'payee' | 'tax'; readonly name: string }
  /** It may be no plain cost or income, and rather belong to the account that is pointed to. */
  | {
      readonly kind: 'nudge';
      readonly nudge: NudgeKind;
      readonly accountId: string | null;
    };

/** What the program proposes for an open line, with its grounds and doubts. */
export interface Proposal {
  readonly kind: 'post';
  readonly source: 'habit' | 'file' | 'starter';
  readonly coding: Coding;
  readonly grounds: readonly Ground[];
  readonly doubts: readonly Doubt[];
}

/** Tells doubts of a proposal apart. @example 'nudge loan' */
export function doubtKey(doubt: Doubt): string {
  return doubt.kind === 'nudge' ? `nudge ${doubt.nudge}` : doubt.kind;
}

/** The lane of an open line: Ready without a doubt, Check with one, Blank without a proposal. */
export function laneOf(proposal: Proposal | null): Lane {
  if (proposal === null) return 'blank';
  return proposal.doubts.length === 0 ? 'ready' : 'check';
}

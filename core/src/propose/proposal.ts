import type { Coding } from '../ledger/coding.ts';

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
  | { readonly kind: 'prepared' };

/** Why a proposal may be wrong. One is enough for Check. */
export type Doubt =
  | { readonly kind: 'seenSeldom'; readonly times: number }
  | {
      readonly kind: 'severalAccounts';
      readonly accounts: readonly { readonly accountId: string; readonly times: number }[];
    }
  | { readonly kind: 'severalTaxCodes' }
  | { readonly kind: 'accountOff'; readonly accountId: string }
  /** A prepared file names something that is not in the books. */
  | { readonly kind: 'unknownName'; readonly what: 'payee' | 'tax'; readonly name: string };

/** What the program proposes for an open line, with its grounds and doubts. */
export interface Proposal {
  readonly kind: 'post';
  readonly source: 'habit' | 'file';
  readonly coding: Coding;
  readonly grounds: readonly Ground[];
  readonly doubts: readonly Doubt[];
}

/** The lane of an open line: Ready without a doubt, Check with one, Blank without a proposal. */
export function laneOf(proposal: Proposal | null): Lane {
  if (proposal === null) return 'blank';
  return proposal.doubts.length === 0 ? 'ready' : 'check';
}

import type { AccountId, BankAccountId, LineId, RuleId } from '../ids.ts';
import type { Coding } from '../ledger/coding.ts';
import type { MissableField } from '../ledger/demands.ts';
import type { Minor } from '../money/minor.ts';
import type {
  AmountReason,
  Candidate,
  PairDifference,
  PairReason,
  SetReason,
} from '../pair/pairing.ts';
import type { separatorKinds } from './habit/separators.ts';
import type { NudgeKind } from './nudge/nudges.ts';
import type { ruleExcludeReasons } from './rule/rule.ts';

/** Where an open line stands. */
export type Lane = 'ready' | 'check' | 'blank' | 'asked';

/** Why a proposal is what it is. */
export type Ground =
  | {
      readonly kind: 'lookAlikes';
      /** How many decided look-alikes went to the proposed account, of how many. */
      readonly times: number;
      readonly of: number;
      readonly accountId: AccountId;
    }
  /** What tells apart the accounts that look-alikes went to. */
  | {
      readonly kind: 'separator';
      readonly by: (typeof separatorKinds)[number];
      /** The word or the number. */
      readonly word?: string;
      /** Up to this amount, whatever its sign, or this day of the month it is one account, then another. */
      readonly limit?: Minor;
    }
  /** The newest look-alikes, so many in a row, went there, and none before. */
  | { readonly kind: 'changed'; readonly times: number; readonly accountId: AccountId }
  | { readonly kind: 'prepared' }
  /** A written rule takes the line. What it leaves open, look-alikes fill in. */
  | {
      readonly kind: 'rule';
      readonly ruleId: RuleId;
      readonly name: string;
      readonly leaves: readonly ('payee' | 'tax')[];
    }
  /** Past decisions would have it otherwise. */
  | {
      readonly kind: 'habitSays';
      readonly accountId: AccountId;
      readonly times: number;
      readonly of: number;
    }
  /** It stands in the books already: what speaks for that, and why several where it is several. */
  | {
      readonly kind: 'fits';
      readonly by: readonly PairReason[];
      readonly because: SetReason | null;
    }
  /** The other half of a move is open on another own account. */
  | {
      readonly kind: 'otherHalf';
      readonly lineId: LineId;
      readonly bankAccountId: BankAccountId;
      readonly date: string;
    }
  /** The wording names another own account. */
  | { readonly kind: 'namesAccount'; readonly bankAccountId: BankAccountId }
  /** It comes to what a card's statement leaves to be paid, in the weeks after its end. */
  | { readonly kind: 'paysCard'; readonly bankAccountId: BankAccountId; readonly to: string }
  /** A word of the wording says what it may be. */
  | { readonly kind: 'word'; readonly word: string }
  /** So many of the owner's other books, of those that know the payee, have it on an account like this. */
  | {
      readonly kind: 'otherBooks';
      readonly books: number;
      readonly of: number;
      readonly accountId: AccountId;
    }
  /** The merchant category code says what kind of business it is. */
  | { readonly kind: 'category'; readonly code: string; readonly trade: string };

/** Why a proposal may be wrong. One is enough for Check. */
export type Doubt =
  | { readonly kind: 'seenSeldom'; readonly times: number }
  | {
      readonly kind: 'severalAccounts';
      readonly accounts: readonly { readonly accountId: AccountId; readonly times: number }[];
    }
  | { readonly kind: 'severalTaxCodes' }
  | { readonly kind: 'unusualAmount' }
  /** The newest look-alike, by nothing told apart, went to an account where none went before. */
  | { readonly kind: 'lastElsewhere'; readonly accountId: AccountId }
  /** The wording is new for this payee. */
  | { readonly kind: 'newWording' }
  /** Numbers tell the accounts apart, and the line has one that was never seen. */
  | { readonly kind: 'newNumber'; readonly number: string }
  | { readonly kind: 'unsure' }
  | { readonly kind: 'accountOff'; readonly accountId: AccountId }
  /** The books demand more of a coding than is proposed. */
  | { readonly kind: 'incomplete'; readonly missing: readonly MissableField[] }
  /** So many lines were coded otherwise by hand when the rule was saved; it is trusted after so many more. */
  | { readonly kind: 'ruleAgainstHand'; readonly times: number; readonly needed: number }
  /** What the rule proposed was changed by hand on most of its newest lines. */
  | { readonly kind: 'ruleOverruled'; readonly kept: number; readonly of: number }
  /** The parts of the rule do not fit the line. */
  | { readonly kind: 'ruleStopped'; readonly why: string }
  /** A rule wants somebody to be asked, or the line to be kept out; that is done one by one. */
  | { readonly kind: 'toAsk'; readonly askedOf: string }
  | { readonly kind: 'toExclude'; readonly reason: (typeof ruleExcludeReasons)[number] }
  /** Nothing of these books speaks for it, only what is usual. */
  | { readonly kind: 'onlyUsual' }
  /** Nothing of these books speaks for it, only what the owner's other books do. */
  | { readonly kind: 'onlyOtherBooks' }
  /** A prepared file or the bank names something that is not in the books. */
  | { readonly kind: 'unknownName'; readonly what: 'payee' | 'tax'; readonly name: string }
  /** So many others of the same amount fit nearly as well. */
  | { readonly kind: 'anotherFits'; readonly count: number }
  /** So many other lines fit what it is paired with as well, and nothing else in the books. */
  | {
      readonly kind: 'equalLines';
      readonly count: number;
      readonly targets: readonly Pick<Candidate, 'kind' | 'number'>[];
    }
  /** It is nearly what stands in the books: coded as something new it may be booked twice. */
  | {
      readonly kind: 'nearlyInBooks';
      readonly targets: readonly Pick<Candidate, 'kind' | 'number'>[];
      /** How much more the line is. */
      readonly by: Minor;
      readonly because: AmountReason | null;
    }
  /** What fits is not the same in everything. */
  | { readonly kind: 'pairDiffers'; readonly differences: readonly PairDifference[] }
  /** The half of a move on this other own account is not in yet. */
  | { readonly kind: 'otherSideMissing'; readonly bankAccountId: BankAccountId }
  /** Only the amount supports it. */
  | { readonly kind: 'unsurePair' }
  /** It fits, and a rule or past decisions would have it coded. */
  | { readonly kind: 'codedOtherwise'; readonly by: 'rule' | 'habit' }
  /** It may be no plain cost or income, and rather belong to the account that is pointed to. */
  | {
      readonly kind: 'nudge';
      readonly nudge: NudgeKind;
      readonly accountId: AccountId | null;
    };

/**
 * What proposes: what stands in the books, the other half of a move, a written rule, a habit, the coding columns
 * of a prepared file, what the owner's other books do, or what is usual.
 */
export const proposalSources = [
  'pair',
  'transfer',
  'rule',
  'habit',
  'file',
  'otherBooks',
  'starter',
] as const;
export type ProposalSource = (typeof proposalSources)[number];
/** Where a decision comes from: a proposal, or somebody's hand alone. */
export const decisionSources = [...proposalSources, 'hand'] as const;

/** Where a proposal comes from, with its grounds and doubts. */
interface Grounded {
  readonly source: ProposalSource;
  readonly grounds: readonly Ground[];
  readonly doubts: readonly Doubt[];
}

/** To post the line with a coding. */
export interface PostProposal extends Grounded {
  readonly kind: 'post';
  readonly coding: Coding;
}

/** To ask somebody about the line. */
export interface AskProposal extends Grounded {
  readonly kind: 'ask';
  readonly askedOf: string;
  readonly words: string;
}

/** To keep the line out of the books. */
export interface ExcludeProposal extends Grounded {
  readonly kind: 'exclude';
  readonly reason: (typeof ruleExcludeReasons)[number];
}

/** What a line is proposed to be paired with. */
export type PairTarget = Pick<
  Candidate,
  'id' | 'kind' | 'date' | 'dueDate' | 'amount' | 'payeeId' | 'number'
>;

/** To pair the line with what stands in the books already. */
export interface PairProposal extends Grounded {
  readonly kind: 'pair';
  readonly targets: readonly PairTarget[];
}

/** What the program proposes for an open line. */
export type Proposal = PostProposal | AskProposal | ExcludeProposal | PairProposal;

/** The coding that is proposed, if the line is to be posted. */
export function proposedCoding(proposal: Proposal | null): Coding | null {
  return proposal?.kind === 'post' ? proposal.coding : null;
}

/** The rule that made a proposal; null for other sources. */
export function ruleOf(proposal: Proposal | null): string | null {
  return ruleGround(proposal)?.ruleId ?? null;
}

/** The ground of a proposal that a rule made; null for other sources. */
export function ruleGround(proposal: Proposal | null): Extract<Ground, { kind: 'rule' }> | null {
  return proposal?.grounds.find((ground) => ground.kind === 'rule') ?? null;
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

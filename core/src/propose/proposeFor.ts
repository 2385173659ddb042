import type { CardDue } from '../closing/cards.ts';
import type { AccountId, BankAccountId, PayeeId, TaxCodeId } from '../ids.ts';
import { type ClientMoneyBooks, lacksClient } from '../ledger/clientMoney.ts';
import { type CodingPart, wholeLineCoding } from '../ledger/coding.ts';
import { type Demands, type MissableField, missingFields } from '../ledger/demands.ts';
import type { HalfFound } from '../pair/findHalves.ts';
import type { NearlyFound, PairFound } from '../pair/proposePairs.ts';
import type { OtherBooksSay } from './elsewhere/elsewhere.ts';
import { isWeak, proposeFromElsewhere } from './elsewhere/proposeFromElsewhere.ts';
import type { HabitLine } from './habit/features.ts';
import type { Prediction } from './habit/predict.ts';
import { type HabitBooks, type HabitProposal, proposeFromHabit } from './habit/proposeFromHabit.ts';
import { type NudgeBooks, type NudgedLine, nudged } from './nudge/nudgeProposal.ts';
import {
  type Doubt,
  type Ground,
  type PostProposal,
  type Proposal,
  ruleGround,
} from './proposal.ts';
import { type FileCoding, proposeFromFile } from './proposeFromFile.ts';
import { proposeFromHalf, proposeFromPair, proposeOneSide } from './proposeFromPair.ts';
import { proposeFromStarter, type StarterBooks } from './starter/proposeFromStarter.ts';

/** What of the books proposals depend on. */
export interface ProposalBooks extends NudgeBooks, HabitBooks, StarterBooks, ClientMoneyBooks {
  readonly demands: Demands;
  /** The ledger account of a bank account of these books. */
  readonly bankLedger: (bankAccountId: BankAccountId) => string | null;
  /** The account between the books and a payee that is another business of the owner; null for others. */
  readonly betweenAccount: (payeeId: PayeeId) => AccountId | null;
  /** Whether an account can have this tax code. */
  readonly fitsTax: (accountId: AccountId, taxCodeId: TaxCodeId) => boolean;
}

/** What is known that bears on an open line. */
export interface Knowledge {
  /** What past decisions on look-alikes say; null where there are none. */
  readonly prediction: Prediction | null;
  /** What stands in the books that it most likely is; null where nothing does. */
  readonly fromPair: PairFound | null;
  /** What stands in the books that it nearly is; null where nothing does. */
  readonly nearly: NearlyFound | null;
  /** The other half, where it is one of a move between own accounts; else null. */
  readonly fromHalf: HalfFound | null;
  /** The other own account that its wording names; null where it names none. */
  readonly namedAccount: string | null;
  /** The card's statement that it pays; null where it pays none. */
  readonly cardDue: CardDue | null;
  /** The first rule that takes it; null where none does. */
  readonly fromRule: Proposal | null;
  /** What the owner's other books did with its payee; null where they know nothing or are not to be asked. */
  readonly fromElsewhere: OtherBooksSay | null;
  /** What the prepared file that it came in says; null where it says nothing that is in the books. */
  readonly fromFile: FileCoding | null;
}

/** A proposal with how sure it is, where that is known. */
export interface SureProposal {
  readonly proposal: Proposal;
  readonly odds: number | null;
  readonly sureness: number | null;
}

/**
 * What is proposed for an open line: what stands in the books already, else the other half of a move, else by
 * rule, else by habit, else by what its file
 * says, else by what the owner's other books did, else by words that say what it is, else by what is usual; with the doubts that there are.
 *
 * @returns null where nothing is
 */
export function proposeFor(
  line: NudgedLine & HabitLine,
  knowledge: Knowledge,
  books: ProposalBooks,
): SureProposal | null {
  const { fromPair, nearly, fromHalf } = knowledge;
  const coded = withNearly(proposeCoding(line, knowledge, books), nearly);
  if (fromPair !== null) {
    const proposal = proposeFromPair(fromPair, coded?.proposal ?? null);
    return { proposal, odds: null, sureness: null };
  }
  const otherId = fromHalf && books.bankLedger(fromHalf.other.bankAccountId);
  const oneSide = oneSideOf(knowledge, books);
  if (oneSide && !otherId && (coded === null || coded.proposal.source === 'starter')) {
    return { proposal: oneSide, odds: null, sureness: null };
  }
  if (!fromHalf || !otherId) return coded;
  return { proposal: proposeFromHalf(fromHalf, otherId), odds: null, sureness: null };
}

/** A move to or from an own account of which only this side is known: what a number proves before what a name says. */
function oneSideOf(
  { cardDue, namedAccount }: Knowledge,
  { bankLedger }: ProposalBooks,
): PostProposal | null {
  const ground =
    (cardDue &&
      ({ kind: 'paysCard', bankAccountId: cardDue.bankAccountId, to: cardDue.to } as const)) ??
    (namedAccount && ({ kind: 'namesAccount', bankAccountId: namedAccount } as const));
  const accountId = ground && bankLedger(ground.bankAccountId);
  return ground && accountId ? proposeOneSide(ground, accountId) : null;
}

/** What a line nearly is in the books makes coding it as something new doubtful. */
function withNearly(coded: SureProposal | null, nearly: NearlyFound | null): SureProposal | null {
  if (coded === null || nearly === null) return coded;
  const { candidates, by, because } = nearly;
  const targets = candidates.map(({ kind, number }) => ({ kind, number }));
  const doubt: Doubt = { kind: 'nearlyInBooks', targets, by, because };
  return {
    ...coded,
    proposal: { ...coded.proposal, doubts: [doubt, ...coded.proposal.doubts] },
  };
}

/** What is proposed for a line that is in no books yet. */
function proposeCoding(
  line: NudgedLine & HabitLine,
  { prediction, fromRule, fromElsewhere, fromFile }: Knowledge,
  books: ProposalBooks,
): SureProposal | null {
  const learned = proposeFromHabit(prediction, books);
  const habit = isBackwards(line, learned, prediction, books) ? null : learned;
  if (fromRule !== null)
    return byRule(line, fromRule, { habit: habit?.proposal ?? null, prediction }, books);
  const elsewhere =
    fromElsewhere && isWeak(habit, prediction) ? proposeFromElsewhere(fromElsewhere) : null;
  const own = elsewhere === null || fromFile !== null ? habit : null;
  const proposal = own?.proposal ?? (fromFile && proposeFromFile(fromFile)) ?? elsewhere;
  // What was predicted but is not worth proposing settles nothing.
  const settled = settledBy(own === null ? null : prediction, books);
  const known = nudged(line, proposal, settled, books) ?? proposeFromStarter(line, books);
  if (known === null) return null;
  const sureness = own?.sureness ?? null;
  return { proposal: withMissing(line, known, books), odds: own?.odds ?? null, sureness };
}

/**
 * Whether money that goes out would be coded as income only because look-alikes of nobody known came in: one word,
 * such as interest, stands for both, and the direction tells them apart.
 */
function isBackwards(
  { amount }: NudgedLine,
  habit: HabitProposal | null,
  prediction: Prediction | null,
  { accountType }: NudgeBooks,
): boolean {
  const { payeeId, parts } = habit?.proposal.coding ?? { payeeId: null, parts: [] };
  const [part] = parts;
  return (
    amount < 0 &&
    part !== undefined &&
    payeeId === null &&
    accountType(part.accountId) === 'income' &&
    prediction?.signs.isSameSide === false
  );
}

/** A rule has the word; what a habit would have said is kept beside it. */
function byRule(
  line: NudgedLine & HabitLine,
  fromRule: Proposal,
  { habit, prediction }: { habit: PostProposal | null; prediction: Prediction | null },
  books: ProposalBooks,
): SureProposal {
  if (fromRule.kind !== 'post') return { proposal: fromRule, odds: null, sureness: null };
  // Somebody wrote the rule, so only the size of a purchase is worth a word.
  const past = {
    ...settledBy(prediction, books),
    times: Number.POSITIVE_INFINITY,
    isSameSide: true,
  };
  const filled = filledIn(fromRule, habit);
  const proposal = withMissing(line, nudged(line, filled, past, books) ?? filled, books);
  const said = habit?.grounds.find((ground) => ground.kind === 'lookAlikes');
  const isSame = fromRule.coding.parts.some((part) => part.accountId === said?.accountId);
  if (said?.kind !== 'lookAlikes' || isSame) return { proposal, odds: null, sureness: null };
  const { accountId, times, of } = said;
  const grounds: readonly Ground[] = [
    ...proposal.grounds,
    { kind: 'habitSays', accountId, times, of },
  ];
  return { proposal: { ...proposal, grounds }, odds: null, sureness: null };
}

/** A rule's coding with the payee that it leaves open as look-alikes have it, and so the tax, if on the same account. */
function filledIn(fromRule: PostProposal, habit: PostProposal | null): PostProposal {
  const [part, ...others] = fromRule.coding.parts;
  const [usual] = habit?.coding.parts ?? [];
  const leaves = ruleGround(fromRule)?.leaves ?? [];
  if (!habit || !part) return fromRule;
  const payeeId = leaves.includes('payee') ? habit.coding.payeeId : fromRule.coding.payeeId;
  const isSame = usual?.accountId === part.accountId;
  const taxCodeId = leaves.includes('tax') && isSame ? usual.taxCodeId : part.taxCodeId;
  const parts = [{ ...part, taxCodeId }, ...others];
  return { ...fromRule, coding: { ...fromRule.coding, payeeId, parts } };
}

/** How often look-alikes went to the predicted account, in this direction, and with large amounts. */
function settledBy(prediction: Prediction | null, { assetThreshold }: NudgeBooks) {
  const accountId = prediction?.accounts[0]?.accountId;
  const examples = prediction?.heard.examples ?? [];
  const there = examples.filter((example) => example.accountId === accountId);
  const isLarge = ({ amount }: { readonly amount: number }) =>
    assetThreshold !== null && Math.abs(amount) >= assetThreshold;
  return {
    times: there.length,
    largeTimes: there.filter(isLarge).length,
    isSameSide: prediction?.signs.isSameSide ?? false,
  };
}

/** What is proposed cannot be Ready while the books demand more of it. */
function withMissing(
  { bankAccountId }: HabitLine,
  proposed: Proposal,
  books: ProposalBooks,
): Proposal {
  if (proposed.kind !== 'post') return proposed;
  const proposal = withoutTax(betweenBusinesses(proposed, books), books);
  const { coding } = proposal;
  const missing: readonly MissableField[] = [
    ...missingFields(books.demands, coding, books.accountType),
    ...(lacksClient(coding, books.bankLedger(bankAccountId), books) ? (['clientId'] as const) : []),
  ];
  if (missing.length === 0) return proposal;
  return { ...proposal, doubts: [...proposal.doubts, { kind: 'incomplete', missing }] };
}

/** Money to or from another business of the owner goes to the account between the two, whatever was done before. */
function betweenBusinesses(proposal: PostProposal, books: ProposalBooks): PostProposal {
  const { payeeId, note, parts } = proposal.coding;
  const accountId = payeeId === null ? null : books.betweenAccount(payeeId);
  if (accountId === null || parts.every((part) => part.accountId === accountId)) return proposal;
  return { ...proposal, coding: wholeLineCoding(accountId, payeeId, null, note) };
}

/**
 * Tax is never proposed on the owner's money, moves, loans and the like, nor by a code that is switched off or is for the
 * other side, whatever was done before.
 */
function withoutTax(proposal: PostProposal, { fitsTax }: ProposalBooks): PostProposal {
  const { parts } = proposal.coding;
  const fits = ({ accountId, taxCodeId }: CodingPart) =>
    taxCodeId === null || fitsTax(accountId, taxCodeId);
  if (parts.every(fits)) return proposal;
  const untaxed = parts.map((part) =>
    fits(part) ? part : { ...part, taxCodeId: null, tax: null },
  );
  return { ...proposal, coding: { ...proposal.coding, parts: untaxed } };
}

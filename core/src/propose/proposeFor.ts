import { type Demands, missingFields } from '../ledger/demands.ts';
import type { HabitLine } from './habit/features.ts';
import type { Prediction } from './habit/predict.ts';
import { type HabitBooks, proposeFromHabit } from './habit/proposeFromHabit.ts';
import { type NudgeBooks, type NudgedLine, nudged } from './nudge/nudgeProposal.ts';
import type { Proposal } from './proposal.ts';
import { type FileCoding, proposeFromFile } from './proposeFromFile.ts';

/** What of the books proposals depend on. */
export interface ProposalBooks extends NudgeBooks, HabitBooks {
  readonly demands: Demands;
}

/** What is known that bears on an open line. */
export interface Knowledge {
  /** What past decisions on look-alikes say; null where there are none. */
  readonly prediction: Prediction | null;
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
 * What is proposed for an open line: by habit, else by what its file says, else by words that say what it
 * is; with the doubts that there are.
 *
 * @returns null where nothing is
 */
export function proposeFor(
  line: NudgedLine & HabitLine,
  { prediction, fromFile }: Knowledge,
  books: ProposalBooks,
): SureProposal | null {
  const habit = proposeFromHabit(prediction, books);
  const proposal = habit?.proposal ?? (fromFile && proposeFromFile(fromFile));
  // What was predicted but is not worth proposing settles nothing.
  const settled = settledBy(habit === null ? null : prediction, books);
  const complete = withMissing(nudged(line, proposal, settled, books), books);
  if (complete === null) return null;
  return { proposal: complete, odds: habit?.odds ?? null, sureness: habit?.sureness ?? null };
}

/** How often look-alikes went to the predicted account, in this direction, and with large amounts. */
function settledBy(prediction: Prediction | null, { assetThreshold }: NudgeBooks) {
  const accountId = prediction?.accounts[0]?.accountId;
  const there = (prediction?.witnesses ?? []).filter(
    ({ example }) => example.accountId === accountId,
  );
  const isLarge = ({ amount }: { readonly amount: number }) =>
    assetThreshold !== null && Math.abs(amount) >= assetThreshold;
  return {
    times: there.length,
    largeTimes: there.filter(({ example }) => isLarge(example)).length,
    isSameSide: prediction?.signs.isSameSide ?? false,
  };
}

/** What is proposed cannot be Ready while the books demand more of it. */
function withMissing(proposal: Proposal | null, books: ProposalBooks): Proposal | null {
  if (proposal === null) return null;
  const missing = missingFields(books.demands, proposal.coding, books.accountType);
  if (missing.length === 0) return proposal;
  return { ...proposal, doubts: [...proposal.doubts, { kind: 'incomplete', missing }] };
}

import { type Demands, missingFields } from '../ledger/demands.ts';
import { type PastCoding, proposeFromHabit } from './habit/proposeFromHabit.ts';
import { type NudgeBooks, type NudgedLine, nudged, refundProposal } from './nudge/nudgeProposal.ts';
import type { Proposal } from './proposal.ts';
import { type FileCoding, proposeFromFile } from './proposeFromFile.ts';

/** What of the books proposals depend on. */
export interface ProposalBooks extends NudgeBooks {
  readonly demands: Demands;
}

/** What is known that bears on an open line. */
export interface Knowledge {
  /** Decisions on look-alikes of the same direction. */
  readonly past: readonly PastCoding[];
  /** Decisions on look-alikes of the other direction. */
  readonly pastOfOther: readonly PastCoding[];
  /** What the prepared file that it came in says; null where it says nothing that is in the books. */
  readonly fromFile: FileCoding | null;
}

/**
 * What is proposed for an open line: by habit, else by what its file says, else as a refund of what was
 * paid before, else by words that say what it is; with the doubts that there are.
 *
 * @returns null where nothing is
 */
export function proposeFor(
  line: NudgedLine,
  { past, pastOfOther, fromFile }: Knowledge,
  books: ProposalBooks,
): Proposal | null {
  const habit = proposeFromHabit(past);
  const accountId = habit?.coding.parts[0]?.accountId;
  const there = past.filter((each) => each.accountId === accountId);
  const settled = {
    times: there.reduce((sum, { times }) => sum + times, 0),
    largeTimes: there.reduce((sum, { largeTimes }) => sum + largeTimes, 0),
  };
  const proposal =
    habit ?? (fromFile && proposeFromFile(fromFile)) ?? asRefund(line, pastOfOther, books);
  const isRefund = proposal?.doubts.some((doubt) => doubt.kind === 'nudge');
  return withMissing(isRefund ? proposal : nudged(line, proposal, settled, books), books);
}

/** What is proposed cannot be Ready while the books demand more of it. */
function withMissing(proposal: Proposal | null, books: ProposalBooks): Proposal | null {
  if (proposal === null) return null;
  const missing = missingFields(books.demands, proposal.coding, books.accountType);
  if (missing.length === 0) return proposal;
  return { ...proposal, doubts: [...proposal.doubts, { kind: 'incomplete', missing }] };
}

function asRefund(
  line: NudgedLine,
  pastOfOther: readonly PastCoding[],
  books: NudgeBooks,
): Proposal | null {
  if (line.amount < 0) return null;
  const fromCosts = proposeFromHabit(pastOfOther);
  return fromCosts && refundProposal(line, fromCosts, books);
}

import type { Coding } from '../../ledger/coding.ts';
import type { Doubt } from '../proposal.ts';
import { type NudgeBooks, type NudgedLine, nudged } from './nudgeProposal.ts';

/**
 * What a coding by hand is asked about, as a proposal would be: a large purchase to a running cost, wages to an
 * expense, tax to costs.
 *
 * @param coding goes to an account that look-alikes hardly ever went to
 * @returns null where there is nothing to ask
 */
export function nudgeOfCoding(
  line: NudgedLine,
  coding: Coding,
  books: NudgeBooks,
): Extract<Doubt, { kind: 'nudge' }> | null {
  const proposal = { kind: 'post', source: 'habit', coding, grounds: [], doubts: [] } as const;
  const nothing = { times: 0, largeTimes: 0, isSameSide: true };
  const found = nudged(line, proposal, nothing, books)?.doubts.find(({ kind }) => kind === 'nudge');
  return found?.kind === 'nudge' ? found : null;
}

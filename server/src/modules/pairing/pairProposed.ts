import type { LinesDone, Target } from '@zubrell/contract/desk';
import { linesSaid, say } from '@zubrell/core/words/say';
import { booksCurrency } from '../books/queries.ts';
import { postAsStep } from '../lines/postLines.ts';
import { leftOutFor, targetLines, withoutTwice } from '../lines/targetLines.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { pairedWords, proposedPlans } from './pairLines.ts';

/**
 * Pairs open lines with what each is proposed to be, as one step. Lines that are not proposed to be paired, or
 * whose pair somebody took meanwhile, are left out and named.
 */
export async function pairProposed(
  command: BooksCommand,
  { target, seenStep }: { readonly target: Target; readonly seenStep: number },
): Promise<LinesDone> {
  const { tx, booksId } = command;
  const currency = await booksCurrency(tx, booksId);
  const found = withoutTwice(await targetLines({ tx, booksId }, currency, target, seenStep));
  const { plans, leftOut: unpairable } = await proposedPlans(tx, booksId, found.lines);
  const planned = new Set(plans.flatMap(({ lines }) => lines.map(({ id }) => id)));
  const named = new Set(unpairable.map(({ lineId }) => lineId));
  const leftOut = [
    ...found.leftOut,
    ...unpairable,
    ...found.lines
      .filter(({ id }) => !planned.has(id) && !named.has(id))
      .map(({ id }) => leftOutFor(id, 'PAIR_NOTHING')),
  ];
  const [only] = plans;
  if (!only) return { step: null, words: 'Nothing paired', done: [], leftOut };
  const words =
    plans.length === 1
      ? pairedWords(1, only.targets, null)
      : say`Paired ${linesSaid(plans.length)} with entries in the books`;
  const way = plans.length === 1 ? 'line' : 'stack';
  const step = { kind: 'pair', way, words, postings: [], plans } as const;
  return { ...(await postAsStep(command, step)), leftOut };
}

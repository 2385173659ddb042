import type { ConfirmBothReal, LinesDone } from '@zubrell/contract/desk';
import { linesSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { booksCurrency } from '../books/queries.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { plainWords, recordStep } from '../steps/recordStep.ts';
import { leftOutFor, targetLines } from './targetLines.ts';

/** Says that lines which look like second copies are payments of their own, as one step. */
export async function confirmBothReal(
  command: BooksCommand,
  { lineIds, seenStep }: ConfirmBothReal,
): Promise<LinesDone> {
  const { tx, booksId, step } = command;
  const currency = await booksCurrency(tx, booksId);
  const found = await targetLines({ tx, booksId }, currency, { lineIds }, seenStep);
  const lines = found.lines.filter(({ twiceOf }) => twiceOf !== null);
  const leftOut = [
    ...found.leftOut,
    ...found.lines
      .filter(({ twiceOf }) => twiceOf === null)
      .map(({ id }) => leftOutFor(id, 'LINE_NOT_TWICE')),
  ];
  if (lines.length === 0) return { step: null, words: 'Nothing to say', done: [], leftOut };
  const ids = lines.map(({ id }) => id);
  await tx.execute(
    sql`update lines set twice_of = null, last_step = ${step}
        where books_id = ${booksId} and id = any(${sql.param(ids)}::uuid[])`,
  );
  const words = say`Confirmed ${linesSaid(lines.length)} as real, no second copy`;
  await recordStep(command, {
    kind: 'bothReal',
    words,
    items: lines.map(({ id, twiceOf }) => ({
      thing: 'twice',
      thingId: id,
      before: { twiceOf },
      after: { twiceOf: null },
    })),
  });
  return { step, words: plainWords(words), done: ids, leftOut };
}

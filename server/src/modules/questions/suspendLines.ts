import type { LinesDone } from '@zubrell/contract/desk';
import type { SuspendLines } from '@zubrell/contract/questions';
import { fail } from '@zubrell/core/errors';
import { wholeLineCoding } from '@zubrell/core/ledger/coding';
import { linesSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { rowsOf } from '../../db/database.ts';
import { IdRow } from '../../db/rows.ts';
import { booksCurrency } from '../books/queries.ts';
import { coveredPostings } from '../lines/postings.ts';
import { postAsStep } from '../lines/postLines.ts';
import { leftOutFor, type TargetLine, targetLines } from '../lines/targetLines.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';

/**
 * Posts lines that a question is out about to the suspense account, as one step, so that a month can end.
 * The question stays open; the Board shows the account until it is nil. Nothing is learned from it.
 *
 * @throws {ZubrellError} SUSPENSE_MISSING
 */
export async function suspendLines(
  command: BooksCommand,
  { target, seenStep }: SuspendLines,
): Promise<LinesDone> {
  const { tx, booksId } = command;
  const [suspense] = await rowsOf(
    tx,
    IdRow,
    sql`select id from accounts where books_id = ${booksId} and role = 'suspense' and is_here and is_on`,
  );
  if (!suspense) fail('SUSPENSE_MISSING');
  const currency = await booksCurrency(tx, booksId);
  const found = await targetLines({ tx, booksId }, currency, target, seenStep);
  const coding = wholeLineCoding(suspense.id, null, null, 'waits for an answer');
  const wanted = found.lines.filter(isAsked).map((line) => ({ line, coding }));
  const { postings, leftOut: unpostable } = await coveredPostings(tx, booksId, wanted);
  const leftOut = [
    ...found.leftOut,
    ...found.lines
      .filter((line) => !isAsked(line))
      .map(({ id }) => leftOutFor(id, 'LINE_NOT_ASKED')),
    ...unpostable,
  ];
  if (postings.length === 0) return { step: null, words: 'Nothing posted', done: [], leftOut };
  const words = say`Put ${linesSaid(postings.length)} on suspense until the answer arrives`;
  const way = 'suspense';
  const step = { kind: 'suspend', way, words, postings } as const;
  return { ...(await postAsStep(command, step)), leftOut };
}

const isAsked = ({ asked }: TargetLine) => asked === 'open';

import type { LinesDone } from '@zubrell/contract/desk';
import type { SuspendLines } from '@zubrell/contract/questions';
import { fail } from '@zubrell/core/errors';
import { wholeLineCoding } from '@zubrell/core/ledger/coding';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import type { Actor, Services } from '../../services.ts';
import { booksCurrency } from '../books/queries.ts';
import { insertPostings, postingsOf } from '../lines/postings.ts';
import { countLines, settleLines } from '../lines/postLines.ts';
import { leftOutFor, targetLines } from '../lines/targetLines.ts';
import { recordStep, takeStepNumber } from '../steps/recordStep.ts';

/**
 * Posts lines that a question is out about to the suspense account, as one step, so that a month can end.
 * The question stays open; the Board shows the account until it is nil. Nothing is learned from it.
 *
 * @throws {ZubrellError} SUSPENSE_MISSING
 */
export async function suspendLines(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  { target, seenStep }: SuspendLines,
): Promise<LinesDone> {
  const [suspense] = await rowsOf<{ id: string }>(
    tx,
    sql`select id from accounts where books_id = ${booksId} and role = 'suspense' and is_on`,
  );
  if (!suspense) fail('SUSPENSE_MISSING');
  const currency = await booksCurrency(tx, booksId);
  const found = await targetLines(tx, booksId, currency, target, seenStep);
  const asked = await askedIds(
    tx,
    booksId,
    found.lines.map(({ id }) => id),
  );
  const coding = wholeLineCoding(suspense.id, null, null, 'waits for an answer');
  const wanted = found.lines.filter(({ id }) => asked.has(id)).map((line) => ({ line, coding }));
  const { postings, leftOut: unpostable } = await postingsOf(tx, booksId, wanted);
  const leftOut = [
    ...found.leftOut,
    ...found.lines
      .filter(({ id }) => !asked.has(id))
      .map(({ id }) => leftOutFor(id, 'LINE_NOT_ASKED')),
    ...unpostable,
  ];
  if (postings.length === 0) return { step: null, words: 'Nothing posted', done: [], leftOut };
  const lines = postings.map(({ line }) => line);
  const step = await takeStepNumber(tx, booksId);
  const items = await insertPostings(tx, booksId, step, 'suspense', postings);
  await settleLines(tx, booksId, step, lines);
  const words = `Put ${countLines(lines.length)} on the suspense account until the answer comes`;
  await recordStep(tx, services, booksId, actor, step, { kind: 'suspend', words, items });
  return { step, words, done: lines.map(({ id }) => id), leftOut };
}

async function askedIds(
  tx: Tx,
  booksId: string,
  lineIds: readonly string[],
): Promise<ReadonlySet<string>> {
  const rows = await rowsOf<{ id: string }>(
    tx,
    sql`select id from lines where books_id = ${booksId} and asked = 'open'
          and id = any(${sql.param(lineIds)}::uuid[])`,
  );
  return new Set(rows.map(({ id }) => id));
}

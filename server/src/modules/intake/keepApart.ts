import { randomUUID } from 'node:crypto';
import type { StepDone } from '@zubrell/contract/common';
import { fail } from '@zubrell/core/errors';
import type { BatchId, BooksId, LineId } from '@zubrell/core/ids';
import { amountSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { needs } from '../books/needsOf.ts';
import { bankAccountOf, booksCurrency } from '../books/queries.ts';
import { aliasOf } from '../lines/aliases.ts';
import { seenBesides } from '../lines/lineHereThing.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { putItems } from '../steps/putItems.ts';
import { plainWords, recordStep, type StepItem } from '../steps/recordStep.ts';
import { batchOf } from './queries.ts';
import { factColumns, factsOf, joinAsSeen } from './sightedFacts.ts';

/**
 * Makes a line of its own of a row that was taken for a line that was there, as one step. It is the
 * batch's, and goes with it.
 *
 * @param lineId the line that the row was found to be
 * @throws {ZubrellError} NOT_FOUND, LINE_NOT_FOLDED, LINE_APART
 */
export async function keepApart(
  command: BooksCommand,
  batchId: BatchId,
  lineId: LineId,
): Promise<StepDone> {
  const { tx, booksId, step } = command;
  const batch = await batchOf(tx, booksId, batchId);
  const row = await rowOf(tx, booksId, batchId, lineId);
  if (!row.isFold || !row.isHereWithout || batch.status !== 'kept') fail('LINE_NOT_FOLDED');
  if (row.isApart) fail('LINE_APART');
  const { amount } = row;
  const { name } = await bankAccountOf(tx, booksId, batch.bankAccountId);
  const id = row.apartLineId ?? (await insertApart(command, batchId, lineId));
  const items: StepItem[] = [
    { thing: 'lineHere', thingId: id, before: { isHere: false }, after: { isHere: true } },
  ];
  await putItems(command, items);
  const shown = amountSaid(amount, await booksCurrency(tx, booksId), true);
  const words = say`Kept row ${row.place} of ${batch.fileName}, ${shown} in ${name}, as a line of its own`;
  await recordStep(command, { kind: 'keepApart', words, items, needs: needs('batch', [batchId]) });
  return { step, words: plainWords(words) };
}

const ApartRow = z.object({ id: z.string(), isDecided: z.boolean() });

/** Lines that were made of rows of a batch, are there and that no other batch has seen. */
export function apartOf(
  tx: Tx,
  booksId: BooksId,
  batchId: BatchId,
): Promise<{ id: string; isDecided: boolean }[]> {
  return rowsOf(
    tx,
    ApartRow,
    sql`select l.id, exists (select from decision_lines dl
            where dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live) as "isDecided"
        from sightings g join lines l on l.books_id = g.books_id and l.id = g.apart_line_id
        where g.books_id = ${booksId} and g.batch_id = ${batchId} and l.is_own`,
  );
}

/** That a line is not here by itself any more. */
export const goesAway = ({ id }: { readonly id: string }): StepItem => ({
  thing: 'lineHere',
  thingId: id,
  before: { isHere: true },
  after: { isHere: false },
});

const Row = z.object({
  date: z.string(),
  amount: z.number(),
  place: z.number(),
  isFold: z.boolean(),
  isHereWithout: z.boolean(),
  /** The line that was made of it before, whether it is there now or not. */
  apartLineId: idRow<LineId>().nullable(),
  isApart: z.boolean(),
});
type Row = z.infer<typeof Row>;

async function rowOf(tx: Tx, booksId: BooksId, batchId: BatchId, lineId: LineId): Promise<Row> {
  const [row] = await rowsOf(
    tx,
    Row,
    sql`select f.date, f.amount, g.place, g.is_fold as "isFold",
          o.is_own or ${seenBesides([batchId], 'o')} as "isHereWithout",
          g.apart_line_id as "apartLineId", coalesce(a.is_here, false) as "isApart"
        from sightings g
        join lines o on o.books_id = g.books_id and o.id = g.line_id
        left join lines a on a.books_id = g.books_id and a.id = g.apart_line_id
        ${joinAsSeen}
        where g.books_id = ${booksId} and g.batch_id = ${batchId} and g.line_id = ${lineId}`,
  );
  return row ?? fail('NOT_FOUND');
}

/** Writes the line that the row tells, not in the books yet. */
async function insertApart(
  { tx, booksId, step }: BooksCommand,
  batchId: BatchId,
  lineId: LineId,
): Promise<string> {
  const id = randomUUID();
  await tx.execute(
    sql`insert into lines (books_id, id, bank_account_id, ${factColumns}, position, stem, own_stem,
          plain, is_here, last_step)
        select f.books_id, ${id}, f.bank_account_id, ${factsOf('f')}, f.position,
          coalesce((${aliasOf(booksId, sql`f.own_stem`, sql`f.plain`)}), f.own_stem), f.own_stem,
          f.plain, false, ${step}
        from sightings g
        join lines o on o.books_id = g.books_id and o.id = g.line_id
        ${joinAsSeen}
        where g.books_id = ${booksId} and g.batch_id = ${batchId} and g.line_id = ${lineId}`,
  );
  await tx.execute(
    sql`update sightings set apart_line_id = ${id}
        where books_id = ${booksId} and batch_id = ${batchId} and line_id = ${lineId}`,
  );
  return id;
}

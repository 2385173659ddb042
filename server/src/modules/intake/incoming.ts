import type { BatchId, BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import type { OpenCopy, Tx } from '../../db/database.ts';
import { copyColumns } from './copyRows.ts';
import type { ReadFile, WantedOfFile } from './readInThread.ts';
import type { ReadFacts } from './readWorker.ts';
import { factColumns, factsOf, joinAsSeen } from './sightedFacts.ts';

/**
 * Makes the table of incoming lines, for this transaction only: what a source reports, before it is
 * known which of it is here already.
 */
export async function createIncoming(tx: Tx): Promise<void> {
  await tx.execute(
    sql`create temporary table incoming (
          position integer not null, place integer not null, date date not null,
          value_date date, amount bigint not null, description text not null, reference text,
          payee text, bank_id text, type text, cheque_number text, counterparty text,
          category text, cardholder text, original text, prepared jsonb, balance bigint, stem text not null,
          plain text not null
        ) on commit drop`,
  );
}

/**
 * Fills the table of incoming lines from a file, as it is read.
 *
 * @throws {ZubrellError} where it is no bank file; the transaction is to be rolled back then
 */
export async function copyIncoming(
  openCopy: OpenCopy,
  readFile: ReadFile,
  pieces: AsyncIterable<Uint8Array>,
  wanted: WantedOfFile,
): Promise<ReadFacts> {
  const copy = openCopy(`incoming (${copyColumns.join(', ')})`);
  try {
    const facts = await readFile(pieces, wanted, copy.write);
    await copy.end();
    return facts;
  } catch (error) {
    copy.abort(error instanceof Error ? error : new Error('reading failed'));
    throw error;
  }
}

/** Fills the table of incoming lines with those that a batch has seen. */
export async function copyIncomingFromBatch(
  tx: Tx,
  booksId: BooksId,
  batchId: BatchId,
): Promise<void> {
  await tx.execute(
    sql`insert into incoming
          (position, place, ${factColumns}, stem, plain)
        select row_number() over (order by g.place, o.position, o.id) - 1, g.place,
          ${factsOf('f')}, f.own_stem, f.plain
        from sightings g join lines o on o.books_id = g.books_id and o.id = g.line_id
        ${joinAsSeen}
        where g.books_id = ${booksId} and g.batch_id = ${batchId}`,
  );
}

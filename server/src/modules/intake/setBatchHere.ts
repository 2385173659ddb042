import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { renewProposals } from '../lines/proposals.ts';

/**
 * Takes a batch back or brings it back. With it go the open lines that no other kept batch has seen;
 * decided ones stay.
 *
 * @param step the number of the step under way
 * @returns false where the batch stands otherwise already
 */
export async function setBatchHere(
  tx: Tx,
  booksId: string,
  batchId: string,
  isHere: boolean,
  step: number,
): Promise<boolean> {
  const [from, to] = isHere ? ['takenBack', 'kept'] : ['kept', 'takenBack'];
  const changed = await rowsOf(
    tx,
    sql`update batches set status = ${to}
        where books_id = ${booksId} and id = ${batchId} and status = ${from} returning id`,
  );
  if (changed.length === 0) return false;
  const rows = await rowsOf<{ stem: string }>(
    tx,
    sql`update lines l set is_here = ${isHere}, last_step = ${step}
        where l.books_id = ${booksId}
          and l.id in (
            select line_id from sightings where books_id = ${booksId} and batch_id = ${batchId})
          and not exists (
            select from sightings g
            join batches b on b.books_id = g.books_id and b.id = g.batch_id
            where g.books_id = l.books_id and g.line_id = l.id and g.batch_id <> ${batchId}
              and b.status = 'kept')
          and l.is_here <> ${isHere}
          and (${isHere} or not exists (
            select from decision_lines dl
            where dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live))
        returning l.stem`,
  );
  await renewProposals(
    tx,
    booksId,
    rows.map((row) => row.stem),
  );
  return true;
}

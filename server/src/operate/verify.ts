import type { ChainCheck, ChainFault } from '@zubrell/contract/audit';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { countRows, type Database, type Tx } from '../db/database.ts';
import { verifyRecords, verifySteps } from '../modules/audit/verifyChains.ts';
import { type Outcome, withNamedBooks } from './namedBooks.ts';

const NAMES: Readonly<Record<ChainCheck['chain'], readonly [one: string, all: string]>> = {
  steps: ['Step', 'steps'],
  records: ['Record', 'records'],
  signIns: ['Record of no books', 'records of no books'],
};

const FAULTS: Readonly<Record<ChainFault['what'], string>> = {
  changed: 'or the one before it is not as it was written',
  missing: 'is missing',
  open: 'was never sealed',
  forgotten: 'has lost its address and names, though nobody of it was erased',
};

/**
 * Goes through the steps and records of books, and through what is on record of no books, and says what is not as it
 * was written.
 *
 * @param owner the database as the tables' owner, who sees the rows of all books
 * @param books their id, or their name
 * @param since a hash that was printed before: it has to be in a chain still
 */
export async function verify(
  owner: Database,
  books: string,
  since: string | null,
): Promise<Outcome> {
  return owner.transaction((tx) =>
    withNamedBooks(tx, books, async ({ id, name }) => {
      const checks = [
        await verifySteps(tx, id),
        await verifyRecords(tx, id),
        await verifyRecords(tx, null),
      ];
      const gone = since !== null && !(await isKnown(tx, id, since));
      const lines = checks.flatMap(linesOf);
      if (gone) lines.push('The given hash is in none of the chains: they were rewritten.');
      else if (since !== null) lines.push('The given hash is in its chain still.');
      const isWell = !gone && checks.every(({ faults }) => faults.length === 0);
      return { lines: [`${name} (${id})`, ...lines], code: isWell ? 0 : 1 };
    }),
  );
}

function linesOf({ chain, count, faults, head }: ChainCheck): string[] {
  const [one, all] = NAMES[chain];
  const state = faults.length === 0 ? 'all as they were written' : `${faults.length} at fault`;
  return [
    `${count} ${all}: ${state}. Hash at the end: ${head === '' ? 'none yet' : head}`,
    ...faults.map(({ no, what }) => `  ${one} ${no} ${FAULTS[what]}.`),
  ];
}

/** Whether a hash is that of a step or record, of these books or of none. */
async function isKnown(tx: Tx, booksId: BooksId, hash: string): Promise<boolean> {
  const rows = await countRows(
    tx,
    sql`select from steps where books_id = ${booksId} and encode(hash, 'hex') = ${hash}
        union all
        select from audit_records
        where (books_id = ${booksId} or books_id is null) and encode(hash, 'hex') = ${hash}`,
  );
  return rows > 0;
}

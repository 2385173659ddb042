import type { BooksId, EntryId, PayeeId } from '@zubrell/core/ids';
import { plainWording } from '@zubrell/core/text/plainWording';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow, NameRow, StemRow } from '../../db/rows.ts';
import { isOpenLine, isOpenOfSize } from '../lines/lineState.ts';
import type { NamedAmount } from '../steps/follow.ts';
import { renewSoon } from './renewProposals.ts';

/**
 * Proposes anew for open lines that something may be which came into the books, changed or went: those of its amount,
 * and those whose wording has the longest word of its payee's name.
 *
 * @param amounts whatever their sign
 */
export async function renewNamed(
  tx: Tx,
  booksId: BooksId,
  amounts: readonly number[],
  payeeIds: readonly (string | null)[],
): Promise<void> {
  const payees = await rowsOf(
    tx,
    NameRow,
    sql`select name from payees where books_id = ${booksId}
          and id = any(${sql.param([...new Set(payeeIds.flatMap((id) => id ?? []))])}::uuid[])`,
  );
  const patterns = payees.map(({ name }) => {
    const [longest = name] = plainWording(name)
      .split(' ')
      .sort((a, b) => b.length - a.length);
    return `%${longest}%`;
  });
  const rows = await rowsOf(
    tx,
    StemRow,
    sql`select distinct l.stem from lines l
        where l.books_id = ${booksId} and ${isOpenLine}
          and (${isOpenOfSize(amounts)} or l.plain like any(${sql.param(patterns)}::text[]))`,
  );
  await renewSoon(
    tx,
    booksId,
    rows.map(({ stem }) => stem),
  );
}

const LegRow = z.object({ amount: z.number(), payeeId: idRow<PayeeId>().nullable() });

/** Proposes anew for lines that entries may be. */
export async function renewForEntries(
  tx: Tx,
  booksId: BooksId,
  entryIds: readonly EntryId[],
): Promise<void> {
  if (entryIds.length === 0) return;
  const legs = await rowsOf(
    tx,
    LegRow,
    sql`select g.own as amount, e.payee_id as "payeeId" from legs g
        join entries e on e.books_id = g.books_id and e.id = g.entry_id
        where g.books_id = ${booksId} and g.role = 'bank'
          and g.entry_id = any(${sql.param(entryIds)}::uuid[])`,
  );
  await renewNamed(
    tx,
    booksId,
    legs.map(({ amount }) => amount),
    legs.map(({ payeeId }) => payeeId),
  );
}

/** Proposes anew for lines that documents may be. */
export function renewForDocuments(
  tx: Tx,
  booksId: BooksId,
  documents: readonly NamedAmount[],
): Promise<void> {
  return renewNamed(
    tx,
    booksId,
    documents.map(({ amount }) => amount),
    documents.map(({ payeeId }) => payeeId),
  );
}

import { Cycle } from '@zubrell/contract/books';
import { type CardDue, statedDues } from '@zubrell/core/closing/cards';
import type { BankAccountId, BooksId } from '@zubrell/core/ids';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow, StemRow } from '../../db/rows.ts';
import { isOpenLine, isOpenOfSize } from '../lines/lineState.ts';
import { statedBalances } from '../proof/statedBalances.ts';

const CardRow = z.object({ id: idRow<BankAccountId>(), cycle: Cycle });

const SaidRow = z.object({
  bankAccountId: idRow<BankAccountId>(),
  to: z.string(),
  amount: z.int(),
});

/**
 * What the statements of the books' cards leave to be paid: as somebody typed or agreed it, else as files state it.
 *
 * @param bankAccountId only of this one; none where it is no card
 */
export async function cardDues(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId | null = null,
): Promise<readonly CardDue[]> {
  const isWanted = (id: SQL) =>
    bankAccountId === null ? sql`true` : sql`${id} = ${bankAccountId}`;
  const cards = await rowsOf(
    tx,
    CardRow,
    sql`select id, cycle from bank_accounts where books_id = ${booksId} and kind = 'card' and is_here
          and ${isWanted(sql`id`)}`,
  );
  if (cards.length === 0) return [];
  const said = await rowsOf(
    tx,
    SaidRow,
    sql`select s.bank_account_id as "bankAccountId", s.to_date as to,
          -coalesce(s.agreed_closing, s.closing) as amount
        from statements s
        join bank_accounts b on b.books_id = s.books_id and b.id = s.bank_account_id
          and b.kind = 'card'
        where s.books_id = ${booksId} and s.is_here and ${isWanted(sql`b.id`)}
          and coalesce(s.agreed_closing, s.closing) is not null`,
  );
  const dues: CardDue[] = said.filter(({ amount }) => amount > 0);
  for (const { id, cycle } of cards) {
    const stated = statedDues(id, cycle, await statedBalances(tx, booksId, id));
    const isSaid = (to: string) => said.some((each) => each.bankAccountId === id && each.to === to);
    dues.push(...stated.filter(({ to }) => !isSaid(to)));
  }
  return dues;
}

/** The stems of open lines that may pay a statement of a card as its statements are now, or are proposed to. */
export async function stemsPaying(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
): Promise<readonly string[]> {
  const amounts = (await cardDues(tx, booksId, bankAccountId)).map(({ amount }) => amount);
  const rows = await rowsOf(
    tx,
    StemRow,
    sql`select distinct l.stem from lines l
        join bank_accounts b on b.books_id = l.books_id and b.id = ${bankAccountId}
          and b.kind = 'card' and b.id <> l.bank_account_id
        left join proposals p on p.books_id = l.books_id and p.line_id = l.id
        where l.books_id = ${booksId} and ${isOpenLine}
          and (l.amount < 0 and ${isOpenOfSize(amounts)}
            or p.proposal @> ${JSON.stringify({ grounds: [{ kind: 'paysCard', bankAccountId }] })}::jsonb)`,
  );
  return rows.map(({ stem }) => stem);
}

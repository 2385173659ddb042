import { Statement } from '@zubrell/contract/statements';
import { DUE_DAYS } from '@zubrell/core/closing/cards';
import { addDays } from '@zubrell/core/dates/calendarDate';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { isOpenLine } from '../lines/lineState.ts';
import type { AccountFacts } from './accountFacts.ts';

const PaidRow = Statement.shape.payment.unwrap().shape.paid.unwrap();

/**
 * What a card's statement leaves to be paid, and the line of another own account that pays it: one that was booked to
 * the card, else an open one of the same amount.
 *
 * @param closing what the statement closed at; null where nobody says
 * @returns null where it is no card, or nothing is owed
 */
export async function cardPayment(
  tx: Tx,
  booksId: BooksId,
  { bankAccountId, kind, accountId }: AccountFacts,
  { to, closing }: { readonly to: string; readonly closing: number | null },
): Promise<Statement['payment']> {
  if (kind !== 'card' || closing === null || closing >= 0) return null;
  const [paid] = await rowsOf(
    tx,
    PaidRow,
    sql`select l.date, l.id as "lineId", l.bank_account_id as "bankAccountId",
          ${isOpenLine} as "isOpen"
        from lines l
        where l.books_id = ${booksId} and l.amount = ${closing}
          and l.bank_account_id <> ${bankAccountId} and l.is_here
          and l.date between ${addDays(to, 1)} and ${addDays(to, DUE_DAYS)}
          and (${isOpenLine} or exists (
            select from decision_lines dl
            join decision_legs x on x.books_id = dl.books_id and x.decision_id = dl.decision_id
            join legs g on g.books_id = x.books_id and g.id = x.leg_id
            join legs other on other.books_id = g.books_id and other.entry_id = g.entry_id
              and other.account_id = ${accountId}
            where dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live))
        order by ${isOpenLine}, l.date limit 1`,
  );
  return { due: -closing, paid: paid ?? null };
}

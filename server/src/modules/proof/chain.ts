import type { BankAccountId, BooksId } from '@zubrell/core/ids';
import {
  type ChainBreak,
  firstBreak,
  type StatedDifference,
  statedDifferences,
} from '@zubrell/core/intake/balanceChain';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import { isWeighed } from '../decisions/isWeighed.ts';
import { bankDays } from './bankDays.ts';
import { statedBalances } from './statedBalances.ts';

/** What a bank account's stated balances say. */
export interface BalanceChain {
  readonly hasOpening: boolean;
  readonly differences: readonly StatedDifference[];
  readonly firstBreak: ChainBreak | null;
}

const OpeningRow = z.object({
  id: z.string(),
  date: z.string().nullable(),
  amount: z.int().nullable(),
});

const MovedRow = z.object({ id: z.string(), date: z.string(), amount: z.int() });

/**
 * The chains of stated balances of bank accounts: of kept batches the closing balance, the opening one
 * and end-of-day ones. Of several for one day the newest batch's counts.
 *
 * @param bankAccountId only this one
 */
export async function balanceChains(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId | null = null,
): Promise<Map<string, BalanceChain>> {
  const only = (column: ReturnType<typeof sql>) =>
    bankAccountId === null ? sql`true` : sql`${column} = ${bankAccountId}`;
  const openingsThere = rowsOf(
    tx,
    OpeningRow,
    sql`select b.id, o.date, o.amount
        from bank_accounts b
        left join lateral (
          select e.date, g.own as amount from entries e
          join legs g on g.books_id = e.books_id and g.entry_id = e.id and g.role = 'bank'
          where e.books_id = b.books_id and e.opening_of = b.id and not e.is_void) o on true
        where b.books_id = ${booksId} and b.is_here and ${only(sql`b.id`)}`,
  );
  const movedThere = rowsOf(
    tx,
    MovedRow,
    sql`select d.bank_account_id as id, d.date, sum(d.amount)::bigint as amount
        from ${bankDays(booksId)} d
        where ${only(sql`d.bank_account_id`)} and ${isWeighed}
        group by 1, 2`,
  );
  const [openings, moved, stated] = await together(
    openingsThere,
    movedThere,
    statedBalances(tx, booksId, bankAccountId),
  );
  return new Map(
    openings.map(({ id, date, amount }) => {
      const opening = date === null || amount === null ? null : { date, amount };
      const differences = statedDifferences(
        opening,
        moved.filter((each) => each.id === id),
        stated.filter((each) => each.id === id),
      );
      const chain = { hasOpening: opening !== null, differences };
      return [id, { ...chain, firstBreak: firstBreak(differences) }];
    }),
  );
}

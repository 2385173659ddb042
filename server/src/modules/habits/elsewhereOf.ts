import { AccountType } from '@zubrell/contract/books';
import type { BooksId } from '@zubrell/core/ids';
import { controlRoles } from '@zubrell/core/ledger/accountRoles';
import {
  type Elsewhere,
  makeElsewhere,
  type OtherHabit,
  type OwnAccount,
} from '@zubrell/core/propose/elsewhere/elsewhere';
import { sql } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';

/** What was taken in of other books. */
interface Known {
  /** Names the other books and this chart: with others, it is taken in anew at once. */
  readonly from: string;
  /** Names what was done in them by then. */
  readonly done: string | undefined;
  /** When it was taken in, in milliseconds of this process. */
  readonly at: number;
  readonly elsewhere: Elsewhere;
  /** How many habits it is made of. */
  readonly count: number;
}

/** What was done in other books since may wait so long (milliseconds): somebody who goes from one to the other works in both. */
const HOLDS = 300_000;

/** So many habits of other books, for all books together, are kept in mind. */
const MOST_HABITS = 50_000;

const known = new LRUCache<string, Known>({
  maxSize: MOST_HABITS,
  sizeCalculation: ({ count }) => Math.min(MOST_HABITS, count + 100),
});

const VersionsRow = z.object({ others: z.string(), chart: z.string() });

/**
 * What the owner's other books did, in terms of these books' accounts. The database decides which books may be asked
 * and gives out no line of theirs.
 *
 * @returns null where none may be asked
 */
export async function elsewhereOf(tx: Tx, booksId: BooksId): Promise<Elsewhere | null> {
  const [row] = await rowsOf(
    tx,
    VersionsRow,
    sql`select other_books_version() as others, (
          select md5(string_agg(concat_ws('|', id, name, purpose), ',' order by id)) from accounts
          where books_id = ${booksId} and is_here and is_on) as chart`,
  );
  if (!row || row.others === '') {
    known.delete(booksId);
    return null;
  }
  const [others, done] = row.others.split(' ');
  const from = `${others} ${row.chart}`;
  const at = performance.now();
  const found = known.get(booksId);
  if (found?.from === from && (found.done === done || at - found.at < HOLDS)) {
    return found.elsewhere;
  }
  const habits = await otherHabits(tx);
  const elsewhere = makeElsewhere(habits, await ownAccounts(tx, booksId));
  known.set(booksId, { from, done, at, elsewhere, count: habits.length });
  return elsewhere;
}

const OtherHabitsRow = z.object({
  book: z.int(),
  payee: z.string().nullable(),
  wording: z.string(),
  isOut: z.boolean(),
  times: z.int(),
  key: z.string(),
  name: z.string(),
  purpose: z.string(),
  type: AccountType,
});

async function otherHabits(tx: Tx): Promise<OtherHabit[]> {
  const rows = await rowsOf(
    tx,
    OtherHabitsRow,
    sql`select book, payee, wording, is_out as "isOut", times, account_key as key,
          account_name as name, account_purpose as purpose, account_type as type
        from habits_of_other_books()`,
  );
  return rows.map(({ key, name, purpose, type, ...habit }) => ({
    ...habit,
    account: { id: key, name, purpose, type },
  }));
}

const OwnAccountsRow = z.object({
  id: z.string(),
  type: AccountType,
  name: z.string(),
  purpose: z.string(),
  payees: z.array(z.string()),
}) satisfies z.ZodType<OwnAccount>;

/** The accounts that are on, with the payees whose lines were posted there. */
function ownAccounts(tx: Tx, booksId: BooksId): Promise<OwnAccount[]> {
  return rowsOf(
    tx,
    OwnAccountsRow,
    sql`with used as (
          select coalesce(a.merged_into, a.id) as account_id,
            json_agg(distinct y.name) as payees
          from decisions d
          join accounts a on a.books_id = d.books_id
            and a.id = (d.coding -> 'parts' -> 0 ->> 'accountId')::uuid
          join payees y on y.books_id = d.books_id and y.id = d.payee_id
          where d.books_id = ${booksId} and d.kind = 'posted' and exists (
            select from decision_lines dl
            where dl.books_id = d.books_id and dl.decision_id = d.id and dl.is_live)
          group by 1)
        select a.id, a.name, a.purpose, a.type, coalesce(used.payees, '[]') as payees
        from accounts a left join used on used.account_id = a.id
        where a.books_id = ${booksId} and a.is_here and a.is_on
          and coalesce(a.role, '') <> all(${sql.param(['suspense', ...controlRoles])}::text[])
        order by a.code`,
  );
}

import { Feed, FeedResult } from '@zubrell/contract/feeds';
import type { BankAccountId, BooksId, FeedId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';

/** What is stored of a fetch: its result with what the bank says of its allowance. */
export const StoredResult = z.object({ result: FeedResult, callsLeft: z.number().nullable() });
export type StoredResult = z.infer<typeof StoredResult>;

const FeedRow = Feed.omit({ result: true, callsLeft: true }).extend({
  stored: StoredResult.nullable(),
});

/** The feeds of books with their last results and what their banks have announced. */
export async function feedsOf(tx: Tx, booksId: BooksId): Promise<Feed[]> {
  const rows = await rowsOf(
    tx,
    FeedRow,
    sql`select f.id, c.connector, c.bank_name as "bankName", f.remote_name as "remoteName",
          f.remote_number as "remoteNumber", f.bank_account_id as "bankAccountId",
          f.is_daily as "isDaily", f.look_back_days as "lookBackDays",
          f.is_fetching as "isFetching", to_json(f.last_at) #>> '{}' as "lastAt",
          to_json(f.last_good_at) #>> '{}' as "lastGoodAt", f.last_from as "lastFrom",
          f.last_to as "lastTo", f.last_result as stored, to_json(f.next_at) #>> '{}' as "nextAt",
          f.failures, c.expires as "consentExpires",
          coalesce((select jsonb_agg(jsonb_build_object('date', a.date, 'amount', a.amount,
              'description', a.description) order by a.position)
            from announced_lines a where a.books_id = f.books_id and a.feed_id = f.id), '[]')
            as announced
        from feeds f join consents c on c.books_id = f.books_id and c.id = f.consent_id
        where f.books_id = ${booksId}
        order by c.bank_name, f.remote_name, f.id`,
  );
  return rows.map(({ stored, ...feed }) => ({
    ...feed,
    result: stored?.result ?? null,
    callsLeft: stored?.callsLeft ?? null,
  }));
}

/** What a fetch has to know. */
export const FeedToFetch = z.object({
  connector: z.string(),
  bankName: z.string(),
  consentId: z.string(),
  /** As it is sealed. */
  token: z.string(),
  remoteId: z.string(),
  remoteName: z.string(),
  bankAccountId: idRow<BankAccountId>(),
  accountName: z.string(),
  currency: z.string(),
  isDaily: z.boolean(),
  lookBackDays: z.number().nullable(),
  knownTo: z.string().nullable(),
  failures: z.number(),
  opened: z.string().nullable(),
  closedTo: z.string().nullable(),
  /** The newest closing balance that this feed brought. */
  closing: z.number().nullable(),
  closingDate: z.string().nullable(),
});
export type FeedToFetch = z.infer<typeof FeedToFetch>;

/** A feed that is to be fetched, or null where that is over or not possible. */
export async function feedToFetch(
  tx: Tx,
  booksId: BooksId,
  feedId: FeedId,
): Promise<FeedToFetch | null> {
  const [row] = await rowsOf(
    tx,
    FeedToFetch,
    sql`select c.connector, c.bank_name as "bankName", c.id as "consentId", c.token, f.remote_id as "remoteId",
          f.remote_name as "remoteName", f.bank_account_id as "bankAccountId",
          b.name as "accountName", coalesce(b.currency, k.currency) as currency, f.is_daily as "isDaily",
          f.look_back_days as "lookBackDays", f.last_to as "knownTo", f.failures,
          (select e.date from entries e where e.books_id = f.books_id
            and e.opening_of = f.bank_account_id and not e.is_void) as opened,
          b.closed_to as "closedTo", t.closing, t.closing_date as "closingDate"
        from feeds f
        join consents c on c.books_id = f.books_id and c.id = f.consent_id and c.token is not null
        join bank_accounts b on b.books_id = f.books_id and b.id = f.bank_account_id
        join books k on k.id = f.books_id
        left join lateral (
          select closing, closing_date from batches t
          where t.books_id = f.books_id and t.feed_id = f.id and t.status = 'kept'
          order by t.created_at desc limit 1) t on true
        where f.books_id = ${booksId} and f.id = ${feedId} and f.is_fetching`,
  );
  return row ?? null;
}

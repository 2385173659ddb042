import type { ChangeFeed } from '@zubrell/contract/feeds';
import { fail } from '@zubrell/core/errors';
import type { BankAccountId, BooksId, FeedId, UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { type BooksTx, rowsOf, type Tx } from '../../db/database.ts';
import { queueJob } from '../../db/queueJob.ts';
import { idRow } from '../../db/rows.ts';
import type { Actor } from '../../services.ts';
import { giveMandate } from '../session/giveMandate.ts';

/** What the queue holds of a feed to be fetched. */
export const FetchFeedJob = z.object({
  booksId: idRow<BooksId>(),
  feedId: idRow<FeedId>(),
  /** In whose name the batch is kept. */
  userId: idRow<UserId>(),
});
export type FetchFeedJob = z.infer<typeof FetchFeedJob>;

const FeedRow = z.object({
  remoteName: z.string(),
  bankAccountId: idRow<BankAccountId>().nullable(),
});
type FeedRow = z.infer<typeof FeedRow>;

async function feedRow(tx: Tx, booksId: BooksId, feedId: FeedId): Promise<FeedRow> {
  const [row] = await rowsOf(
    tx,
    FeedRow,
    sql`select remote_name as "remoteName", bank_account_id as "bankAccountId" from feeds
        where books_id = ${booksId} and id = ${feedId} for update`,
  );
  return row ?? fail('FEED_UNKNOWN');
}

/**
 * Changes what a feed feeds, how often and how far back.
 *
 * @returns what the bank calls its account
 * @throws {ZubrellError} FEED_UNKNOWN, BANK_ACCOUNT_UNKNOWN, FEED_TAKEN
 */
export async function changeFeed(
  tx: Tx,
  booksId: BooksId,
  feedId: FeedId,
  { bankAccountId, isDaily, lookBackDays }: ChangeFeed,
): Promise<string> {
  const feed = await feedRow(tx, booksId, feedId);
  if (bankAccountId) await checkFree(tx, booksId, feedId, bankAccountId);
  // Another account begins anew: what was fetched says nothing about it.
  const isOther = bankAccountId !== undefined && bankAccountId !== feed.bankAccountId;
  await tx.execute(
    sql`update feeds set
          bank_account_id = ${bankAccountId === undefined ? feed.bankAccountId : bankAccountId},
          last_to = case when ${isOther} then null else last_to end,
          is_daily = coalesce(${isDaily ?? null}::boolean, is_daily),
          next_at = case when ${isDaily === false} then null else next_at end,
          look_back_days = case when ${lookBackDays === undefined} then look_back_days
            else ${lookBackDays ?? null}::integer end
        where books_id = ${booksId} and id = ${feedId}`,
  );
  return feed.remoteName;
}

const AccountRow = z.object({ name: z.string(), feed: z.string().nullable() });

async function checkFree(
  tx: Tx,
  booksId: BooksId,
  feedId: FeedId,
  bankAccountId: BankAccountId,
): Promise<void> {
  const [account] = await rowsOf(
    tx,
    AccountRow,
    sql`select b.name, f.remote_name as feed
        from bank_accounts b
        left join feeds f on f.books_id = b.books_id and f.bank_account_id = b.id
          and f.id <> ${feedId}
        where b.books_id = ${booksId} and b.id = ${bankAccountId} and b.is_here`,
  );
  if (!account) fail('BANK_ACCOUNT_UNKNOWN');
  if (account.feed !== null) fail('FEED_TAKEN', { name: account.name, feed: account.feed });
}

/**
 * Ends a feed: its batches stay, its announced lines go.
 *
 * @returns what the bank calls its account
 * @throws {ZubrellError} FEED_UNKNOWN
 */
export async function endFeed(tx: Tx, booksId: BooksId, feedId: FeedId): Promise<string> {
  const { remoteName } = await feedRow(tx, booksId, feedId);
  await tx.execute(
    sql`delete from announced_lines where books_id = ${booksId} and feed_id = ${feedId}`,
  );
  await tx.execute(sql`delete from feeds where books_id = ${booksId} and id = ${feedId}`);
  return remoteName;
}

const OwnerRow = z.object({ owner: z.string() });

/**
 * Puts a feed into the queue, unless it is there.
 *
 * @param actor in whose name; null for whoever gave the consent
 * @param dueBy only if its time has come by then: somebody may have fetched it meanwhile
 * @throws {ZubrellError} FEED_UNKNOWN, FEED_NO_ACCOUNT
 */
export async function queueFetch(
  { tx, booksId }: BooksTx,
  feedId: FeedId,
  actor: Actor | null,
  dueBy: Date | null = null,
): Promise<void> {
  const feed = await feedRow(tx, booksId, feedId);
  if (actor !== null) await giveMandate(tx, booksId, actor);
  if (feed.bankAccountId === null) fail('FEED_NO_ACCOUNT', { name: feed.remoteName });
  const [queued] = await rowsOf(
    tx,
    OwnerRow,
    sql`update feeds f set is_fetching = true, next_at = null from consents c
        where f.books_id = ${booksId} and f.id = ${feedId} and not f.is_fetching
          and (${dueBy === null} or f.next_at <= ${dueBy?.toISOString() ?? null}::timestamptz)
          and c.books_id = f.books_id and c.id = f.consent_id
        returning c.created_by as owner`,
  );
  if (!queued) return;
  const job: FetchFeedJob = { booksId, feedId, userId: actor?.userId ?? queued.owner };
  await queueJob(tx, 'fetchFeed', job);
}

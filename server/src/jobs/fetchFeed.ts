import { addDays, type CalendarDate } from '@zubrell/core/dates/calendarDate';
import { type ErrorCode, fail, ZubrellError } from '@zubrell/core/errors';
import { refusedOf } from '@zubrell/core/formats/bankFile';
import type { BooksId, FeedId } from '@zubrell/core/ids';
import { fetchWindow } from '@zubrell/core/intake/fetchWindow';
import { closingBalance, type LinesSummary } from '@zubrell/core/intake/statementBalances';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { beginCommand } from '../commands/beginCommand.ts';
import { bulkInsert } from '../db/bulkInsert.ts';
import { inBooks, inBooksCopying, rowsOf, type Tx } from '../db/database.ts';
import { isDatabaseAway, knownError } from '../db/databaseErrors.ts';
import { queueJob } from '../db/queueJob.ts';
import type { FetchFeedJob } from '../modules/feeds/changeFeed.ts';
import { connectorOf } from '../modules/feeds/consents.ts';
import { type FeedToFetch, feedToFetch, type StoredResult } from '../modules/feeds/queries.ts';
import { copyIncoming, createIncoming } from '../modules/intake/incoming.ts';
import { keepIncoming } from '../modules/intake/keepIncoming.ts';
import { standingBalance } from '../modules/intake/queries.ts';
import type { ReadFile } from '../modules/intake/readInThread.ts';
import type { ReadFacts } from '../modules/intake/readWorker.ts';
import { insertBatch } from '../modules/intake/startBatch.ts';
import { storeUpload, uploadBytes } from '../modules/intake/uploads.ts';
import type { Services } from '../services.ts';

type Fetched = Extract<StoredResult['result'], { kind: 'fetched' }>;
type Window = ReturnType<typeof fetchWindow>;

/** Minutes until it is tried again by itself, after the first failure in a row, the second and so on. */
const BACK_OFF = [5, 20, 60, 240] as const;
/** Trouble that trying again does not mend. */
const LASTING: ReadonlySet<ErrorCode> = new Set([
  'FEED_CONSENT_EXPIRED',
  'FEED_ACCOUNT_GONE',
  'FEED_REFUSED',
  'FEED_KEY_GONE',
  'FILE_OTHER_CURRENCY',
]);
const FORMATS: ReadonlySet<string> = new Set(['camt', 'ofx1', 'ofx2']);
/** The hour of the day at which daily feeds are fetched, in UTC. */
const DAILY_HOUR = 5;
/** Where the balance does not come out and nothing says where the books begin, so far back. */
const FARTHEST = 365;

/**
 * Fetches a feed: asks its bank for the days that may hold something new and keeps what is, as a batch,
 * whole or not at all. If the balance that the bank states is then not reached, days may be missing: it
 * asks again for all days since the opening balance. Trouble is written at the feed, with the time at
 * which it is tried again.
 *
 * @param isLastTry whether the queue gives up after this
 */
export async function fetchFeed(
  services: Services,
  readFile: ReadFile,
  job: FetchFeedJob,
  isLastTry = false,
): Promise<void> {
  const { database, clock } = services;
  const { booksId, feedId } = job;
  const feed = await inBooks(database, booksId, (tx) => feedToFetch(tx, booksId, feedId));
  if (feed === null) {
    await inBooks(database, booksId, (tx) =>
      tx.execute(
        sql`update feeds set is_fetching = false where books_id = ${booksId} and id = ${feedId}`,
      ),
    );
    return;
  }
  const today = clock.today();
  const window = fetchWindow({ ...feed, today, isMending: feed.failures > 0 });
  try {
    let done = await fetchDays({ ...services, readFile }, job, feed, window);
    const earliest = feed.opened ? addDays(feed.opened, 1) : addDays(today, -FARTHEST);
    if (done.fetched.difference && earliest < window.from) {
      // What was just kept is no news any more.
      const now = { ...feed, ...done.stated };
      const wider = await fetchDays({ ...services, readFile }, job, now, {
        ...window,
        from: earliest,
      });
      done = { ...wider, fetched: bothOf(done.fetched, wider.fetched) };
    }
    const stored: StoredResult = { result: done.fetched, callsLeft: done.callsLeft };
    await settle(services, job, stored, {
      window,
      nextAt: feed.isDaily ? nextMorning(today) : null,
      isGood: true,
    });
  } catch (error) {
    if (isDatabaseAway(error)) throw error;
    const known = knownError(error) ?? (isLastTry ? new ZubrellError('JOB_GIVEN_UP') : null);
    if (known === null) throw error;
    await settleTrouble(services, job, feed, known);
  }
}

/** Ends the fetching of a feed that nothing fetches any more. */
export async function freeFeed(
  services: Pick<Services, 'database' | 'clock'>,
  job: Pick<FetchFeedJob, 'booksId' | 'feedId'>,
  error: ZubrellError,
): Promise<void> {
  const { booksId, feedId } = job;
  const feed = await inBooks(services.database, booksId, (tx) => feedToFetch(tx, booksId, feedId));
  await settleTrouble(services, job, feed ?? { failures: 0, isDaily: false }, error);
}

/** Writes trouble at the feed, with the time at which it is tried again. */
async function settleTrouble(
  services: Pick<Services, 'database' | 'clock'>,
  job: Pick<FetchFeedJob, 'booksId' | 'feedId'>,
  feed: Pick<FeedToFetch, 'failures' | 'isDaily'>,
  error: ZubrellError,
): Promise<void> {
  const { code, message } = error;
  const stored: StoredResult = { result: { kind: 'trouble', code, message }, callsLeft: null };
  await settle(services, job, stored, {
    window: null,
    nextAt: retryAt(services.clock.now(), feed, error),
    isGood: false,
  });
}

/** What two fetches of one time brought together. */
function bothOf(first: Fetched, second: Fetched): Fetched {
  return {
    ...second,
    newCount: first.newCount + second.newCount,
    doubtfulCount: first.doubtfulCount + second.doubtfulCount,
    batchId: second.batchId ?? first.batchId,
  };
}

function nextMorning(today: CalendarDate): Date {
  return new Date(`${addDays(today, 1)}T${String(DAILY_HOUR).padStart(2, '0')}:00:00Z`);
}

/** When it is tried again: soon at first, then ever later, then with the daily fetch; or not at all. */
function retryAt(
  now: Date,
  feed: Pick<FeedToFetch, 'failures' | 'isDaily'>,
  { code, params }: ZubrellError,
): Date | null {
  if (LASTING.has(code)) return null;
  const minutes = BACK_OFF[feed.failures];
  if (minutes === undefined) {
    return feed.isDaily ? nextMorning(now.toISOString().slice(0, 10)) : null;
  }
  const asked = code === 'FEED_TOO_MANY' ? Number(params.minutes) : 0;
  return new Date(now.getTime() + Math.max(minutes, asked) * 60_000);
}

/** Writes at the feed what came of it. */
async function settle(
  { database, clock }: Pick<Services, 'database' | 'clock'>,
  { booksId, feedId }: Pick<FetchFeedJob, 'booksId' | 'feedId'>,
  stored: StoredResult,
  { window, nextAt, isGood }: { window: Window | null; nextAt: Date | null; isGood: boolean },
): Promise<void> {
  const now = clock.now().toISOString();
  await inBooks(database, booksId, async (tx) => {
    await queueJob(tx, 'summariseBooks', { booksId });
    await tx.execute(
      sql`update feeds set is_fetching = false, last_at = ${now},
            last_result = ${JSON.stringify(stored)}::jsonb,
            next_at = ${nextAt?.toISOString() ?? null},
            last_good_at = case when ${isGood} then ${now}::timestamptz else last_good_at end,
            last_from = coalesce(${window?.from ?? null}::date, last_from),
            last_to = coalesce(${window?.to ?? null}::date, last_to),
            failures = case when ${isGood} then 0 else failures + 1 end
          where books_id = ${booksId} and id = ${feedId}`,
    );
  });
}

interface Days {
  readonly fetched: Fetched;
  /** The closing balance that the bank stated, if a batch keeps it now. */
  readonly stated: Partial<Pick<FeedToFetch, 'closing' | 'closingDate'>>;
  readonly callsLeft: number | null;
}

/** Fetches and keeps the lines of some days. */
async function fetchDays(
  services: Services & { readonly readFile: ReadFile },
  { booksId, feedId, userId }: FetchFeedJob,
  feed: FeedToFetch,
  { from, to }: Window,
): Promise<Days> {
  const { database, readFile } = services;
  const { bankName: bank, bankAccountId, currency } = feed;
  const fileName = `${bank} feed`;
  const connector = connectorOf(services, feed.connector);
  const { bytes, callsLeft } = await connector.fetchLines(
    tokenOf(services, feed),
    feed.remoteId,
    from,
    to,
  );
  const uploadId = await inBooks(database, booksId, (tx) =>
    storeUpload({ tx, booksId, ...services }, fileName, bytes).catch((error) =>
      knownError(error)?.code === 'FILE_EMPTY'
        ? fail('FEED_GARBAGE', { bank, detail: 'the answer is empty' })
        : Promise.reject(error),
    ),
  );
  const kept = await inBooksCopying(database, booksId, async (tx, openCopy) => {
    await createIncoming(tx);
    const pieces = uploadBytes(database, booksId, uploadId);
    const wanted = { currency, statementIndex: 0 };
    const facts = await copyIncoming(openCopy, readFile, pieces, wanted).catch((error) => {
      const known = knownError(error);
      return known ? fail('FEED_GARBAGE', { bank, detail: known.message }) : Promise.reject(error);
    });
    const statement = properStatement(facts, feed);
    const command = await beginCommand(tx, services, booksId, { userId, name: '', session: null });
    const { closing, opening } = statement;
    const summary = await tidyIncoming(
      tx,
      from,
      to,
      closing !== null && opening !== null ? closing - opening : null,
    );
    await replaceAnnounced(tx, booksId, feedId, facts);
    const stated = closingBalance(statement);
    const isNews =
      stated !== null && (stated.date !== feed.closingDate || stated.amount !== feed.closing);
    const placed = await keepIfNew(tx, isNews, summary, async (inner) => {
      const batch = { uploadId, statementIndex: 0, bankAccountId, feedId };
      const keeping = { ...command, tx: inner };
      const { batchId } = await insertBatch(keeping, batch);
      const counts = await keepIncoming(keeping, {
        batchId,
        bankAccountId,
        accountName: feed.accountName,
        fileName,
        createdBy: userId,
        currency,
        confirmBalance: true,
        wholeDays: { from, to },
        withOpening: true,
        facts: { file: facts.file, summary },
        statement: { ...statement, from, to },
      });
      return { ...counts, batchId };
    });
    const standing = stated && (await standingBalance(tx, booksId, bankAccountId, stated.date));
    const fetched: Fetched = {
      kind: 'fetched',
      lineCount: summary.count,
      newCount: placed?.newCount ?? 0,
      doubtfulCount: placed?.doubtfulCount ?? 0,
      batchId: placed?.batchId ?? null,
      difference: stated === null || standing === null ? null : stated.amount - standing,
    };
    return {
      fetched,
      stated: placed && stated ? { closing: stated.amount, closingDate: stated.date } : {},
    };
  });
  return { ...kept, callsLeft };
}

/** The consent's token. @throws {ZubrellError} FEED_KEY_GONE */
function tokenOf({ secrets }: Services, { token, consentId, bankName: bank }: FeedToFetch): string {
  try {
    return secrets.open(token, consentId);
  } catch {
    return fail('FEED_KEY_GONE', { bank });
  }
}

/** The answer's statement, if it is a proper list of lines. @throws {ZubrellError} FEED_GARBAGE and others */
function properStatement({ file }: ReadFacts, feed: FeedToFetch) {
  const { bankName: bank, accountName: account, currency } = feed;
  const [wrong] = refusedOf(file);
  const [statement] = file.statements;
  if (wrong || !statement || !FORMATS.has(file.format)) {
    return fail('FEED_GARBAGE', { bank, detail: wrong?.message ?? 'no statement in it' });
  }
  if (statement.currency !== null && statement.currency !== currency) {
    fail('FILE_OTHER_CURRENCY', { file: statement.currency, account, currency });
  }
  return statement;
}

/**
 * Leaves of the incoming lines those of the asked days, each once: an answer that gives one id twice with
 * the same facts says the same thing twice, unless its balances say otherwise.
 *
 * @param moved what the balances say that the lines come to; null where they don't
 */
async function tidyIncoming(
  tx: Tx,
  from: CalendarDate,
  to: CalendarDate,
  moved: number | null,
): Promise<LinesSummary> {
  await tx.execute(sql`delete from incoming where date < ${from} or date > ${to}`);
  const before = await summaryOfIncoming(tx);
  if (moved !== null && before.total === moved) return before;
  await tx.execute(
    sql`delete from incoming where position in (
          select position from (
            select position, row_number() over (
              partition by bank_id, date, amount, plain, reference order by position) as no
            from incoming where bank_id is not null) numbered
          where no > 1)`,
  );
  return summaryOfIncoming(tx);
}

const SummaryOfIncomingRow = z.object({
  count: z.number(),
  /** Earliest and latest date; null without lines. */
  first: z.string().nullable(),
  last: z.string().nullable(),
  total: z.int(),
});

async function summaryOfIncoming(tx: Tx): Promise<LinesSummary> {
  const [row] = await rowsOf(
    tx,
    SummaryOfIncomingRow,
    sql`select count(*)::int as count, min(date) as first, max(date) as last,
          coalesce(sum(amount), 0)::bigint as total from incoming`,
  );
  return row ?? { count: 0, first: null, last: null, total: 0 };
}

/** What the bank has announced takes the place of what it announced before. */
async function replaceAnnounced(
  tx: Tx,
  booksId: BooksId,
  feedId: FeedId,
  { announced }: ReadFacts,
): Promise<void> {
  await tx.execute(
    sql`delete from announced_lines where books_id = ${booksId} and feed_id = ${feedId}`,
  );
  await bulkInsert(
    tx,
    'announced_lines',
    {
      books_id: 'uuid',
      feed_id: 'uuid',
      position: 'integer',
      date: 'date',
      amount: 'bigint',
      description: 'text',
    },
    announced.map(({ date, amount, description }, position) => ({
      books_id: booksId,
      feed_id: feedId,
      position,
      date,
      amount,
      description,
    })),
  );
}

interface Kept {
  readonly newCount: number;
  readonly doubtfulCount: number;
}

/** Nothing came of it, so nothing of it is to stay. */
class NothingNew extends Error {}

/** Keeps lines in a part of the transaction that is rolled back where nothing was new after all. */
async function keepIfNew<T extends Kept>(
  tx: Tx,
  isNews: boolean,
  { count }: LinesSummary,
  keep: (tx: Tx) => Promise<T>,
): Promise<T | null> {
  if (count === 0) return null;
  try {
    return await tx.transaction(async (inner) => {
      const kept = await keep(inner);
      if (!isNews && kept.newCount === 0 && kept.doubtfulCount === 0) throw new NothingNew();
      return kept;
    });
  } catch (error) {
    if (error instanceof NothingNew) return null;
    throw error;
  }
}

import { fail } from '@zubrell/core/errors';
import { controlRoles } from '@zubrell/core/ledger/starterBooks';
import { textOf, wordingFeatures } from '@zubrell/core/propose/habit/features';
import { type Memory, makeMemory } from '@zubrell/core/propose/habit/memory';
import { type Outcome, ownShift } from '@zubrell/core/propose/habit/sureness';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { habitLineColumns } from '../lines/lineColumns.ts';
import { committedStep } from '../steps/booksCommand.ts';
import { isMarked } from './isMarked.ts';
import { keepNewest } from './keepNewest.ts';

/** What was posted unread teaches less, so that the program does not confirm itself. */
const UNREAD = 0.5;

/** What a line was coded to, or that it no longer is. */
const TaughtLine = z.object({
  ...habitLineColumns,
  id: z.string(),
  /** Null where it is open, kept out, split, waits on the suspense account, or is not to be learned. */
  accountId: z.string().nullable(),
  payeeId: z.string().nullable(),
  taxCodeId: z.string().nullable(),
  isUnread: z.boolean(),
});
type TaughtLine = z.infer<typeof TaughtLine>;

/** The habits of some books, as far as committed steps taught them. */
interface Known {
  readonly memory: Memory;
  /** Names the payees that were put together when it was made: with others, it is made anew. */
  readonly merged: string;
  /** The newest step that is in it. */
  step: number;
  /** How much the record shifts odds, and the step at which it was worked out. */
  shift: number;
  shiftStep: number;
}

const known = new Map<string, Known>();

/** The habits of books as a transaction sees them. */
export interface BooksHabits {
  /** Runs what asks the habits; it must not wait for anything. */
  readonly ask: <T>(work: (memory: Memory) => T) => T;
  /** How much the books' own record shifts all odds. */
  readonly shift: number;
}

const BookRow = z.object({ lastStep: z.number(), merged: z.string() });

/**
 * The habits of books, learned from all live decisions. They are a cache in this process that can be built
 * from the decisions at any time: committed steps are added to it as they come, what the transaction itself
 * did is only put in while it asks, so that nothing is left behind where it is rolled back.
 */
export async function habitsOf(tx: Tx, booksId: string): Promise<BooksHabits> {
  const [books] = await rowsOf(
    tx,
    BookRow,
    sql`select last_step as "lastStep", coalesce((
            select md5(string_agg(id::text || merged_into, ',' order by id)) from payees
            where books_id = ${booksId} and merged_into is not null), '') as merged
        from books where id = ${booksId}`,
  );
  const { lastStep, merged } = books ?? fail('BOOKS_UNKNOWN');
  const found = known.get(booksId);
  const isThere = found !== undefined && found.step <= lastStep && found.merged === merged;
  const mine: Known = isThere
    ? found
    : { memory: makeMemory(), merged, step: -1, shift: 0, shiftStep: -SHIFT_HOLDS };
  keepNewest(known, booksId, mine);
  const changed = await taughtSince(tx, booksId, mine.step);
  // What the transaction itself did may be rolled back, also where it is several steps.
  const committed = await committedStep(tx, booksId);
  const own = changed.filter(({ lastStep: step }) => step > committed);
  await teachAll(
    mine.memory,
    changed.filter(({ lastStep: step }) => step <= committed),
  );
  mine.step = Math.max(mine.step, committed);
  if (lastStep - mine.shiftStep >= SHIFT_HOLDS) {
    mine.shift = ownShift(await recordOf(tx, booksId));
    mine.shiftStep = lastStep;
  }
  return {
    shift: mine.shift,
    ask: (work) => {
      const before = own.map((line) => mine.memory.take(line.id));
      for (const line of own) teach(mine.memory, line);
      try {
        return work(mine.memory);
      } finally {
        for (const line of own) mine.memory.take(line.id);
        // Each goes back where it stood, so the last taken out is the first.
        for (const putBack of before.reverse()) putBack?.();
      }
    },
  };
}

/** The record is looked at again after so many steps. */
const SHIFT_HOLDS = 20;

/** So many lines are learned before others get their turn. */
const AT_ONCE = 1_000;

async function teachAll(memory: Memory, lines: readonly TaughtLine[]): Promise<void> {
  for (let from = 0; from < lines.length; from += AT_ONCE) {
    for (const line of lines.slice(from, from + AT_ONCE)) teach(memory, line);
    await new Promise((done) => setImmediate(done));
  }
}

function teach(memory: Memory, line: TaughtLine): void {
  memory.take(line.id);
  const { id, accountId, payeeId, taxCodeId, isUnread } = line;
  if (accountId === null) return;
  const weight = isUnread ? UNREAD : 1;
  const features = wordingFeatures(textOf(line));
  memory.add({ id, accountId, payeeId, taxCodeId, weight }, line, features);
}

const TaughtSinceRow = TaughtLine.extend({ lastStep: z.number() });

/** The lines that steps after one touched, with what they are coded to now. */
function taughtSince(
  tx: Tx,
  booksId: string,
  step: number,
): Promise<(TaughtLine & { readonly lastStep: number })[]> {
  const isFirst = step < 0;
  return rowsOf(
    tx,
    TaughtSinceRow,
    sql`select l.id, l.date, l.amount, l.description, l.reference, l.payee,
          l.bank_account_id as "bankAccountId", l.last_step as "lastStep",
          t.account_id as "accountId", t.payee_id as "payeeId", t.tax_code_id as "taxCodeId",
          coalesce(t.way in ('sweep', 'rule'), false) as "isUnread"
        from lines l
        ${isFirst ? sql`join` : sql`left join`} lateral (
          select part ->> 'accountId' as account_id, part ->> 'taxCodeId' as tax_code_id,
            coalesce(y.merged_into::text, d.coding ->> 'payeeId') as payee_id, d.way
          from decision_lines dl
          join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
          cross join lateral (select d.coding -> 'parts' -> 0 as part) first_part
          join accounts a on a.books_id = d.books_id and a.id = (part ->> 'accountId')::uuid
          left join payees y on y.books_id = d.books_id
            and y.id = (d.coding ->> 'payeeId')::uuid
          where dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live and l.is_here
            and d.kind = 'posted' and jsonb_array_length(d.coding -> 'parts') = 1
            and coalesce(a.role, '') <> all(${sql.param(['suspense', ...controlRoles])}::text[])
            and not d.is_once
            and not exists (
              select from habit_marks m
              where m.books_id = d.books_id and m.is_live
                and (m.kind = 'blocked' or d.step <= m.step)
                and ${isMarked(sql`coalesce(y.merged_into, y.id)`)})) t on true
        where l.books_id = ${booksId} and l.last_step > ${step}
        order by l.date, l.position, l.id`,
  );
}

const OutcomeRow = z.object({ odds: z.number(), isRight: z.boolean() });

/** What habits proposed for lines that somebody looked at, and whether the account was left. */
function recordOf(tx: Tx, booksId: string): Promise<Outcome[]> {
  return rowsOf(
    tx,
    OutcomeRow,
    sql`select odds, is_account_kept as "isRight" from (
          select d.odds, d.is_account_kept, d.step from decisions d
          where d.books_id = ${booksId} and d.odds is not null and d.way in ('line', 'stack')
          order by d.step desc limit 800) newest
        order by step`,
  );
}

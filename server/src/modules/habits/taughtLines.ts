import type { AccountId, BooksId, PayeeId, TaxCodeId } from '@zubrell/core/ids';
import { controlRoles } from '@zubrell/core/ledger/accountRoles';
import { textOf, wordingFeatures } from '@zubrell/core/propose/habit/features';
import { labelOf, type Memory } from '@zubrell/core/propose/habit/memory';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { habitLineColumns } from '../lines/lineColumns.ts';
import { changedStepOfLine, isChangedSince } from '../lines/lineState.ts';
import { isMarked } from './isMarked.ts';

/** What was posted unread teaches less, so that the program does not confirm itself. */
const UNREAD = 0.5;

/** What a line was coded to, or that it no longer is. */
const TaughtLine = z.object({
  ...habitLineColumns,
  id: z.string(),
  position: z.int(),
  stem: z.string(),
  /** The newest step that changed what it teaches. */
  changed: z.number(),
  /** Null where it is open, kept out, split, waits on the suspense account, or is not to be learned. */
  accountId: idRow<AccountId>().nullable(),
  payeeId: idRow<PayeeId>().nullable(),
  taxCodeId: idRow<TaxCodeId>().nullable(),
  isUnread: z.boolean(),
});
export type TaughtLine = z.infer<typeof TaughtLine>;

/**
 * What lines teach by now that steps after one changed, with those that teach nothing any more.
 *
 * @param step where it is 0, only what teaches something
 */
export async function* taughtSince(
  tx: Tx,
  booksId: BooksId,
  step: number,
): AsyncGenerator<readonly TaughtLine[], void> {
  if (step === 0) return yield* allTaught(tx, booksId);
  yield await rowsOf(tx, TaughtLine, taught(booksId, isChangedSince(booksId, step)));
}

/** So many lines are read at once where all are. */
const PAGE = 5_000;

/** What all decided lines teach by now, the oldest first, page by page: however many they are, few are read at once. */
async function* allTaught(tx: Tx, booksId: BooksId): AsyncGenerator<readonly TaughtLine[], void> {
  for (let place: TaughtLine | undefined; ; ) {
    const from = place ? sql`(n.date, n.id) > (${place.date}, ${place.id}::uuid)` : sql`true`;
    // The page is cut first, so that nothing else is read of more lines than it has.
    const page = sql`(select * from lines n
      where n.books_id = ${booksId} and ${from} order by n.date, n.id limit ${PAGE})`;
    const lines = await rowsOf(tx, TaughtLine, taught(booksId, sql`true`, page));
    yield lines.filter(({ accountId }) => accountId !== null);
    if (lines.length < PAGE) return;
    place = lines.reduce((one, other) => (isBefore(one, other) ? other : one));
  }
}

/** Whether a line stands before another by day and id. */
const isBefore = (one: TaughtLine, other: TaughtLine): boolean =>
  one.date < other.date || (one.date === other.date && one.id < other.id);

function taught(booksId: BooksId, which: SQL, from: SQL = sql`lines`): SQL {
  // Each line's decision is looked up by itself: else all decisions are read for each where few are expected.
  const decided = sql`(
    select d.* from decision_lines dl
    cross join lateral (
      select * from decisions d where d.books_id = dl.books_id and d.id = dl.decision_id offset 0) d
    where dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live offset 0)`;
  return sql`select l.id, l.date, l.position, l.amount, l.description, l.reference, l.payee, l.stem,
          l.bank_account_id as "bankAccountId", ${changedStepOfLine} as changed,
          t.account_id as "accountId", t.payee_id as "payeeId", t.tax_code_id as "taxCodeId",
          coalesce(t.way in ('sweep', 'rule'), false) as "isUnread"
        from ${from} l
        left join lateral (
          select coalesce(a.merged_into, a.id)::text as account_id, part ->> 'taxCodeId' as tax_code_id,
            coalesce(y.merged_into, d.payee_id)::text as payee_id, d.way
          from ${decided} d
          cross join lateral (select d.coding -> 'parts' -> 0 as part) first_part
          join accounts a on a.books_id = d.books_id and a.id = (part ->> 'accountId')::uuid
          left join payees y on y.books_id = d.books_id
            and y.id = d.payee_id
          where l.is_here and d.kind = 'posted' and jsonb_array_length(d.coding -> 'parts') = 1
            and coalesce(a.role, '') <> all(${sql.param(['suspense', ...controlRoles])}::text[])
            and not d.is_once
            and not exists (
              select from habit_marks m
              where m.books_id = d.books_id and m.is_live
                and (m.kind = 'blocked' or d.step <= m.step)
                and ${isMarked(sql`coalesce(y.merged_into, y.id)`)})) t on true
        where l.books_id = ${booksId} and ${which}`;
}

/** Puts what a line teaches by now in place of what it taught before. */
export function teach(memory: Memory, line: TaughtLine): void {
  memory.take(line.id);
  const { id, position, stem, accountId, payeeId, taxCodeId, isUnread } = line;
  if (accountId === null) return;
  const decided = { id, position, label: labelOf(payeeId, stem), accountId, payeeId, taxCodeId };
  const weight = isUnread ? UNREAD : 1;
  memory.add({ ...decided, weight }, line, wordingFeatures(textOf(line)));
}

/** So many lines are learned before others get their turn. */
const AT_ONCE = 1_000;

/** Teaches lines, and lets others get their turn in between. */
export async function teachAll(memory: Memory, lines: readonly TaughtLine[]): Promise<void> {
  for (let from = 0; from < lines.length; from += AT_ONCE) {
    for (const line of lines.slice(from, from + AT_ONCE)) teach(memory, line);
    await new Promise((done) => setImmediate(done));
  }
}

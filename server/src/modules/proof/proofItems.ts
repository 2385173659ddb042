import { ProofCause } from '@zubrell/contract/desk';
import type { BooksId, DecisionId, EntryId } from '@zubrell/core/ids';
import { ownKinds, waitingKinds } from '@zubrell/core/ledger/entries';
import { causeKinds } from '@zubrell/core/proof/prove';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { accountTable, type ProofAccount } from './proofAccounts.ts';

/** Something on a bank account's ledger account, or a line, that the other side does not match by the day. */
export const ProofItem = ProofCause.omit({ kind: true, since: true, likely: true }).extend({
  /** `outstanding` may rightly wait for the bank; anything else is unexplained. */
  kind: z.enum([...causeKinds, 'outstanding']).exclude(['bankDiffers', 'unknown']),
});
export type ProofItem = z.infer<typeof ProofItem>;

/**
 * What of the ledger and of decided lines has no match on the other side by the day. Entries of the kinds that wait,
 * and pairings that agree as a whole, may wait for the bank; whatever else stands on the account with no line that
 * agrees is unexplained.
 */
export async function proofItems(
  tx: Tx,
  booksId: BooksId,
  accounts: readonly ProofAccount[],
): Promise<ProofItem[]> {
  const items = await together(
    differingItems(tx, booksId, accounts),
    untiedItems(tx, booksId, accounts),
    turnedItems(tx, booksId, accounts),
  );
  return items.flat().filter(({ amount }) => amount !== 0);
}

const DecisionRow = z.object({ id: idRow<DecisionId>() });
const EarlyDay = z.object({ id: z.string(), date: z.string() });

/** Decisions whose lines and legs are not the same on the day, or whose lines are from before the opening balance. */
async function differingItems(
  tx: Tx,
  booksId: BooksId,
  accounts: readonly ProofAccount[],
): Promise<ProofItem[]> {
  const days = accounts.flatMap(({ day }) => day ?? []).sort();
  const unevenThere = rowsOf(
    tx,
    DecisionRow,
    sql`select decision_id as id from uneven_decisions
        where books_id = ${booksId} and from_date <= ${days.at(-1) ?? null}::date
          and (until_date is null or until_date > ${days[0] ?? null}::date)`,
  );
  const earlyThere = rowsOf(
    tx,
    EarlyDay,
    sql`select distinct y.bank_account_id as id, y.date from ${accountTable(accounts)}
        join decided_days y on y.books_id = ${booksId} and y.bank_account_id = a.id and y.date <= a.opening_date
        where y.kind in ('posted', 'paired') and y.count > 0`,
  );
  const [uneven, early] = await together(unevenThere, earlyThere);
  const before =
    early.length === 0
      ? []
      : await rowsOf(
          tx,
          DecisionRow,
          sql`select dl.decision_id as id
              from unnest(${sql.param(early.map(({ id }) => id))}::uuid[],
                ${sql.param(early.map(({ date }) => date))}::date[]) as early (id, date)
              join lines l on l.books_id = ${booksId} and l.date = early.date and l.bank_account_id = early.id
                and l.is_here
              join decision_lines dl on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live`,
        );
  const ids = [...new Set([...uneven, ...before].map(({ id }) => id))];
  if (ids.length === 0) return [];
  const these = sql`unnest(${sql.param(ids)}::uuid[]) as u (id)`;
  return rowsOf(
    tx,
    ProofItem,
    sql`with decided as (
          select a.id, d.id as decision_id, sum(l.amount) as whole,
            coalesce(sum(l.amount) filter (
              where l.date <= a.day and l.date > coalesce(a.opening_date, '-infinity')), 0) as by_day,
            coalesce(bool_or(l.date <= a.opening_date), false) as is_before,
            min(l.date) as date, min(l.id::text)::uuid as line_id, min(l.description) as text
          from ${these}
          join decisions d on d.books_id = ${booksId} and d.id = u.id and d.kind in ('posted', 'paired')
          join decision_lines dl on dl.books_id = d.books_id and dl.decision_id = d.id and dl.is_live
          join lines l on l.books_id = dl.books_id and l.id = dl.line_id and l.is_here
          join ${accountTable(accounts)} on a.id = l.bank_account_id
          group by 1, 2
        ), tied as (
          select a.id, x.decision_id, sum(g.own) as whole,
            coalesce(sum(g.own) filter (where e.date <= a.day), 0) as by_day, min(e.date) as date,
            min(e.id::text)::uuid as entry_id, min(e.note) as note
          from ${these}
          join decision_legs x on x.books_id = ${booksId} and x.decision_id = u.id and x.is_live
          join legs g on g.books_id = x.books_id and g.id = x.leg_id
          join entries e on e.books_id = g.books_id and e.id = g.entry_id and not e.is_void
          join ${accountTable(accounts)} on a.account_id = g.account_id
          group by 1, 2
        )
        select case
            when d.decision_id is null then 'lineGone'
            when d.is_before then 'beforeOpening'
            when coalesce(d.whole, 0) <> coalesce(t.whole, 0) then 'sidesDiffer'
            else 'outstanding' end as kind,
          coalesce(d.id, t.id) as "bankAccountId",
          (case
            when not coalesce(d.is_before, false) and d.whole = t.whole
              then t.by_day - d.by_day
            else coalesce(d.by_day, 0) - coalesce(t.by_day, 0) end)::bigint as amount,
          coalesce(d.date, t.date) as date, d.line_id as "lineId", t.entry_id as "entryId",
          coalesce(d.text, t.note) as text
        from decided d full join tied t on t.id = d.id and t.decision_id = d.decision_id
        where d.is_before or d.whole is distinct from t.whole or d.by_day is distinct from t.by_day`,
  );
}

/** What stands on a bank account's ledger account that no line is decided to be. */
function untiedItems(
  tx: Tx,
  booksId: BooksId,
  accounts: readonly ProofAccount[],
): Promise<ProofItem[]> {
  return rowsOf(
    tx,
    ProofItem,
    sql`with leg as (
          select a.id, g.id as leg_id, g.own as amount, e.id as entry_id, e.date, e.kind, e.content, e.note
          from untied_legs u
          join legs g on g.books_id = u.books_id and g.id = u.leg_id
          join entries e on e.books_id = g.books_id and e.id = g.entry_id
          join ${accountTable(accounts)} on a.account_id = g.account_id
          where u.books_id = ${booksId} and e.date <= a.day)
        select case
            when ${isWaiting(booksId)} then 'outstanding'
            when kind = 'journal' then 'notAwaited'
            else 'lineGone' end as kind,
          id as "bankAccountId", (case when ${isWaiting(booksId)} then amount else -amount end)::bigint as amount,
          date, null as "lineId", entry_id as "entryId", note as text
        from leg`,
  );
}

const EntryIdRow = z.object({ id: idRow<EntryId>() });

/** Entries of closed periods that were taken back, or came again: what of them the day does not count yet. */
async function turnedItems(
  tx: Tx,
  booksId: BooksId,
  accounts: readonly ProofAccount[],
): Promise<ProofItem[]> {
  const turned = await rowsOf(
    tx,
    EntryIdRow,
    sql`select distinct entry_id as id from late_turns where books_id = ${booksId}`,
  );
  if (turned.length === 0) return [];
  return rowsOf(
    tx,
    ProofItem,
    sql`select 'outstanding' as kind, a.id as "bankAccountId",
          (sum(case when m.date <= a.day then m.own else 0 end)
            - case when e.is_void or e.date > a.day then 0 else g.own end)::bigint as amount,
          e.date, null as "lineId", e.id as "entryId", e.note as text
        from unnest(${sql.param(turned.map(({ id }) => id))}::uuid[]) as late (entry_id)
        join legs g on g.books_id = ${booksId} and g.entry_id = late.entry_id
        join ${accountTable(accounts)} on a.account_id = g.account_id
        join entries e on e.books_id = g.books_id and e.id = g.entry_id
        join movements m on m.books_id = g.books_id and m.entry_id = g.entry_id and m.leg_id = g.id
        group by a.id, a.day, e.id, e.books_id, g.id, g.books_id`,
  );
}

/**
 * Whether an untied leg of `leg` may rightly wait for the bank: it was entered by hand as something that does, or is
 * the other half of a transfer whose first half a line is.
 */
function isWaiting(booksId: BooksId): SQL {
  const kindsOf = (kinds: readonly string[]) => sql`any(${sql.param(kinds)}::text[])`;
  return sql`(kind = ${kindsOf(waitingKinds)} or coalesce((content ->> 'isAwaited')::boolean, false)
    or kind = ${kindsOf(ownKinds)} and exists (
      select from legs half
      join decision_legs held on held.books_id = half.books_id and held.leg_id = half.id and held.is_live
      where half.books_id = ${booksId} and half.entry_id = leg.entry_id and half.id <> leg.leg_id and half.role = 'bank'))`;
}

import { OutstandingItem, ProofCause, type Scope } from '@zubrell/contract/desk';
import type { BankAccountId, BooksId } from '@zubrell/core/ids';
import { ownKinds, waitingKinds } from '@zubrell/core/ledger/entries';
import { causeKinds, type Proof, prove, sumProofs } from '@zubrell/core/proof/prove';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { booksCurrency } from '../books/queries.ts';
import { isWeighed } from '../decisions/isWeighed.ts';
import { explainedBreaks } from './explainedBreaks.ts';

const SumsRow = z.object({
  bankAccountId: idRow<BankAccountId>(),
  currency: z.string(),
  date: z.string(),
  calculated: z.int(),
  open: z.int(),
  openCount: z.int(),
  keptOut: z.int(),
  keptOutCount: z.int(),
  books: z.int(),
  statedDate: z.string().nullable(),
  statedAmount: z.int().nullable(),
  since: z.int(),
  sinceCount: z.int(),
});
type SumsRow = z.infer<typeof SumsRow>;

/** Something on a bank account's ledger account, or a line, that the other side does not match by the day. */
export const ProofItem = ProofCause.omit({ kind: true, since: true, likely: true }).extend({
  /** `outstanding` may rightly wait for the bank; anything else is unexplained. */
  kind: z.enum([...causeKinds, 'outstanding']).exclude(['bankDiffers', 'unknown']),
});
export type ProofItem = z.infer<typeof ProofItem>;

/**
 * The proof of the bank accounts in a scope on its last day, or on each account's last day with a
 * line, an entry or a stated balance; null where there is none.
 */
export async function scopeProof(tx: Tx, booksId: BooksId, scope: Scope): Promise<Proof | null> {
  const sums = await accountSums(tx, booksId, scope);
  const items = await proofItems(tx, booksId, scope);
  const isBroken = sums.some(({ statedAmount, since, calculated }) =>
    statedAmount === null ? false : statedAmount + since !== calculated,
  );
  const breaks = isBroken ? await explainedBreaks(tx, booksId) : null;
  const proofs = sums.map(({ statedDate, statedAmount, since, sinceCount, ...terms }) => {
    const own = items.filter(({ bankAccountId }) => bankAccountId === terms.bankAccountId);
    const waiting = own.filter(({ kind }) => kind === 'outstanding');
    const proof = prove({
      ...terms,
      outstanding: waiting.reduce((sum, { amount }) => sum + amount, 0),
      outstandingCount: waiting.length,
      causes: own.flatMap(({ kind, ...item }) =>
        kind === 'outstanding' ? [] : [{ ...item, kind, since: null, likely: null }],
      ),
      stated:
        statedDate === null || statedAmount === null
          ? null
          : { date: statedDate, amount: statedAmount, since, sinceCount },
    });
    const broken = breaks?.get(terms.bankAccountId);
    if (!broken) return proof;
    const causes = proof.causes.map((cause) =>
      cause.kind === 'bankDiffers' ? { ...cause, ...broken } : cause,
    );
    return { ...proof, causes };
  });
  const [first] = proofs;
  if (!first) return null;
  const days = proofs.map(({ date }) => date).sort();
  return proofs.length === 1
    ? first
    : sumProofs(proofs, days.at(-1) ?? first.date, await booksCurrency(tx, booksId));
}

const EntryRow = OutstandingItem.pick({ kind: true, number: true, payee: true }).extend({
  id: z.string(),
});

/** What may rightly wait for the bank: just what the proof sums as outstanding, the oldest first. */
export async function outstandingItems(
  tx: Tx,
  booksId: BooksId,
  scope: Scope,
): Promise<OutstandingItem[]> {
  const items = (await proofItems(tx, booksId, scope)).filter(({ kind }) => kind === 'outstanding');
  const ids = items.flatMap(({ entryId }) => entryId ?? []);
  const entries = await rowsOf(
    tx,
    EntryRow,
    sql`select e.id, case when e.kind = any(${sql.param(ownKinds)}::text[]) then 'transfer' else e.kind end
            as kind, e.number, y.name as payee
        from entries e
        left join payees p on p.books_id = e.books_id and p.id = e.payee_id
        left join payees y on y.books_id = p.books_id and y.id = coalesce(p.merged_into, p.id)
        where e.books_id = ${booksId} and e.id = any(${sql.param(ids)}::uuid[])`,
  );
  const byId = new Map(entries.map(({ id, ...facts }) => [id, facts]));
  const nothing = { kind: null, number: null, payee: null };
  return items
    .map(({ kind: _kind, ...item }) => ({ ...item, ...(byId.get(item.entryId ?? '') ?? nothing) }))
    .sort((a, b) => (a.date < b.date ? -1 : 1));
}

/** The bank accounts of a scope, each with its day and opening balance, as the table `account`. */
function accountsOf(booksId: BooksId, scope: Scope): SQL {
  const chosen = scope.bankAccountId
    ? sql`b.id = any(${sql.param(scope.bankAccountId)}::uuid[])`
    : sql`true`;
  return sql`account as (
    select b.id, b.account_id, coalesce(b.currency, k.currency) as currency, o.date as opening_date, coalesce(o.amount, 0) as opening,
      coalesce(${scope.to ?? null}::date, greatest(
        (select max(l.date) from lines l
          where l.books_id = b.books_id and l.bank_account_id = b.id and l.is_here),
        (select max(t.closing_date) from batches t
          where t.books_id = b.books_id and t.bank_account_id = b.id and t.status = 'kept'),
        o.date)) as day
    from bank_accounts b
    join books k on k.id = b.books_id
    left join lateral (
      select e.date, g.own as amount from entries e
      join legs g on g.books_id = e.books_id and g.entry_id = e.id and g.account_id = b.account_id
      where e.books_id = b.books_id and e.opening_of = b.id and not e.is_void) o on true
    where b.books_id = ${booksId} and b.is_here and ${chosen})`;
}

/** What the bank and the ledger come to, each from its own rows. */
function accountSums(tx: Tx, booksId: BooksId, scope: Scope): Promise<SumsRow[]> {
  return rowsOf(
    tx,
    SumsRow,
    sql`with ${accountsOf(booksId, scope)}, line as (
          select l.bank_account_id, l.date, l.amount, d.kind
          from account a
          join lines l on l.books_id = ${booksId} and l.bank_account_id = a.id and l.is_here
          left join decision_lines dl
            on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
          left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
          where l.date <= a.day and (a.opening_date is null or l.date > a.opening_date)
            and ${isWeighed}
        )
        select a.id as "bankAccountId", a.currency, a.day as date, s.date as "statedDate",
          s.amount as "statedAmount",
          coalesce(sum(t.amount) filter (where t.date > s.date), 0)::bigint as since,
          (count(*) filter (where t.date > s.date))::int as "sinceCount",
          (a.opening + coalesce(sum(t.amount), 0))::bigint as calculated,
          coalesce(sum(t.amount) filter (where t.kind is null), 0)::bigint as open,
          (count(t.date) filter (where t.kind is null))::int as "openCount",
          coalesce(sum(t.amount) filter (where t.kind in ('excluded', 'deleted')), 0)::bigint
            as "keptOut",
          (count(*) filter (where t.kind in ('excluded', 'deleted')))::int as "keptOutCount",
          (select coalesce(sum(m.own), 0) from movements m
            where m.books_id = ${booksId} and m.account_id = a.account_id
              and m.date <= a.day)::bigint as books
        from account a
        left join line t on t.bank_account_id = a.id
        left join lateral (
          select * from (
            select b.closing_date as date, b.closing as amount, b.created_at, 0 as rank
            from batches b
            where b.books_id = ${booksId} and b.bank_account_id = a.id and b.status = 'kept'
              and b.closing is not null and b.closing_date <= a.day
            union all
            select y.date, y.amount, b.created_at, 1
            from batches b
            join day_balances y on y.books_id = b.books_id and y.batch_id = b.id
            where b.books_id = ${booksId} and b.bank_account_id = a.id and b.status = 'kept'
              and y.date <= a.day) told
          order by date desc, created_at desc, rank limit 1) s on true
        where a.day is not null
        group by a.id, a.account_id, a.currency, a.day, a.opening, s.date, s.amount`,
  );
}

/**
 * What of the ledger and of decided lines has no match on the other side by the day. Entries of the kinds that wait,
 * and pairings that agree as a whole, may wait for the bank; whatever else stands on the account with no line that
 * agrees is unexplained.
 */
export function proofItems(tx: Tx, booksId: BooksId, scope: Scope): Promise<ProofItem[]> {
  return rowsOf(
    tx,
    ProofItem,
    sql`with ${accountsOf(booksId, scope)}, decided as (
          select a.id, dl.decision_id, sum(l.amount) as whole,
            coalesce(sum(l.amount) filter (
              where l.date <= a.day and l.date > coalesce(a.opening_date, '-infinity')), 0) as by_day,
            coalesce(bool_or(l.date <= a.opening_date), false) as is_before,
            min(l.date) as date, min(l.id::text)::uuid as line_id, min(l.description) as text
          from account a
          join lines l on l.books_id = ${booksId} and l.bank_account_id = a.id and l.is_here
          join decision_lines dl on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
          join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
            and d.kind in ('posted', 'paired')
          group by 1, 2
        ), leg as (
          select a.id, a.day, g.id as leg_id, g.own as amount, e.id as entry_id, e.date, e.kind, e.content,
            e.note, x.decision_id
          from account a
          join legs g on g.books_id = ${booksId} and g.account_id = a.account_id
          join entries e on e.books_id = g.books_id and e.id = g.entry_id and not e.is_void
          left join decision_legs x
            on x.books_id = g.books_id and x.leg_id = g.id and x.is_live
        ), tied as (
          select id, decision_id, sum(amount) as whole,
            coalesce(sum(amount) filter (where date <= day), 0) as by_day, min(date) as date,
            min(entry_id::text)::uuid as entry_id, min(note) as note
          from leg where decision_id is not null
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
        where d.is_before or d.whole is distinct from t.whole or d.by_day is distinct from t.by_day
        union all
        select case
            when ${isWaiting(booksId)} then 'outstanding'
            when kind = 'journal' then 'notAwaited'
            else 'lineGone' end,
          id, (case when ${isWaiting(booksId)} then amount else -amount end)::bigint, date, null,
          entry_id, note
        from leg
        where decision_id is null and kind <> 'opening' and date <= day
        union all
        select 'outstanding', a.id, (sum(case when m.date <= a.day then m.own else 0 end)
            - case when e.is_void or e.date > a.day then 0 else g.own end)::bigint,
          e.date, null, e.id, e.note
        from (select distinct entry_id from late_turns where books_id = ${booksId}) late
        join legs g on g.books_id = ${booksId} and g.entry_id = late.entry_id
        join account a on a.account_id = g.account_id
        join entries e on e.books_id = g.books_id and e.id = g.entry_id
        join movements m on m.books_id = g.books_id and m.leg_id = g.id
        group by a.id, a.day, e.id, e.books_id, g.id, g.books_id`,
  ).then((items) => items.filter(({ amount }) => amount !== 0));
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

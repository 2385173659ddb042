import type { Scope } from '@zubrell/contract/desk';
import { type Proof, type ProofSums, prove, sumProofs } from '@zubrell/core/proof/prove';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';

type SumsRow = Omit<ProofSums, 'stated'> & {
  readonly statedDate: string | null;
  readonly statedAmount: number | null;
  readonly since: number;
};

/**
 * The proof of the bank accounts in a scope on its last day, or on each account's last day with a
 * line, an entry or a stated balance; null where there is none.
 */
export async function scopeProof(tx: Tx, booksId: string, scope: Scope): Promise<Proof | null> {
  const chosen = scope.bankAccountId
    ? sql`b.id = any(${sql.param(scope.bankAccountId)}::uuid[])`
    : sql`true`;
  const rows = await rowsOf<SumsRow>(
    tx,
    sql`with account as (
          select b.id, b.account_id, o.date as opening_date, coalesce(o.amount, 0) as opening,
            coalesce(${scope.to ?? null}::date, greatest(
              (select max(l.date) from lines l
                where l.books_id = b.books_id and l.bank_account_id = b.id and l.is_here),
              (select max(t.closing_date) from batches t
                where t.books_id = b.books_id and t.bank_account_id = b.id and t.status = 'kept'),
              o.date)) as day
          from bank_accounts b
          left join lateral (
            select e.date, g.amount from entries e
            join legs g on g.books_id = e.books_id and g.entry_id = e.id and g.role = 'bank'
            where e.books_id = b.books_id and e.opening_of = b.id and not e.is_void) o on true
          where b.books_id = ${booksId} and b.is_here and ${chosen}
        ), line as (
          select l.bank_account_id, l.date, l.amount, d.kind, d.reason
          from account a
          join lines l on l.books_id = ${booksId} and l.bank_account_id = a.id and l.is_here
          left join decision_lines dl
            on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
          left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
          where l.date <= a.day and (a.opening_date is null or l.date > a.opening_date)
            and coalesce(d.reason, '') not in ('secondCopy', 'beforeOpening', 'otherAccount')
        )
        select a.day as date, s.closing_date as "statedDate", s.closing as "statedAmount",
          (select coalesce(sum(amount), 0) from line
            where bank_account_id = a.id and date > s.closing_date)::bigint as since,
          (a.opening + t.total)::bigint as calculated,
          t.open, t.open_count as "openCount", t.kept_out as "keptOut",
          t.kept_out_count as "keptOutCount",
          (k.entered - t.posted)::bigint as outstanding, k.unpaired as "outstandingCount",
          k.books
        from account a
        cross join lateral (
          select coalesce(sum(amount), 0)::bigint as total,
            coalesce(sum(amount) filter (where kind is null), 0)::bigint as open,
            (count(*) filter (where kind is null))::int as open_count,
            coalesce(sum(amount) filter (where kind in ('excluded', 'deleted')), 0)::bigint as kept_out,
            (count(*) filter (where kind in ('excluded', 'deleted')))::int as kept_out_count,
            coalesce(sum(amount) filter (where kind in ('posted', 'paired')), 0)::bigint as posted
          from line where bank_account_id = a.id) t
        cross join lateral (
          select coalesce(sum(g.amount), 0)::bigint as books,
            coalesce(sum(g.amount) filter (where e.kind <> 'opening'), 0)::bigint as entered,
            (count(*) filter (where e.kind <> 'opening' and not exists (
              select from decision_legs x
              join decision_lines y on y.books_id = x.books_id and y.decision_id = x.decision_id
              join lines n on n.books_id = y.books_id and n.id = y.line_id and n.date <= a.day
              where x.books_id = g.books_id and x.leg_id = g.id and x.is_live)))::int as unpaired
          from legs g join entries e on e.books_id = g.books_id and e.id = g.entry_id
          where g.books_id = ${booksId} and g.account_id = a.account_id and not e.is_void
            and e.date <= a.day) k
        left join lateral (
          select b.closing_date, b.closing from batches b
          where b.books_id = ${booksId} and b.bank_account_id = a.id and b.status = 'kept'
            and b.closing is not null and b.closing_date <= a.day
          order by b.closing_date desc, b.created_at desc limit 1) s on true
        where a.day is not null`,
  );
  const proofs = rows.map(({ statedDate, statedAmount, since, ...sums }) =>
    prove({
      ...sums,
      stated:
        statedDate === null || statedAmount === null
          ? null
          : { date: statedDate, amount: statedAmount, since },
    }),
  );
  const [first] = proofs;
  if (!first) return null;
  const day =
    proofs
      .map(({ date }) => date)
      .sort()
      .at(-1) ?? first.date;
  return proofs.length === 1 ? first : sumProofs(proofs, day);
}

import { AgedDocument, type AgedDocuments } from '@zubrell/contract/reports';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import type { DocumentSide } from '@zubrell/core/ledger/documents';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';

const BalanceRow = z.object({
  accountId: idRow<AccountId>(),
  balance: z.int(),
  valuation: z.int(),
});

/**
 * Documents that were open on a day, and the balance of the account that they stand on. What was settled later was
 * open then: a payment counts from the day of its entry, documents set against each other from the later one's.
 */
export async function agedDocuments(
  tx: Tx,
  booksId: BooksId,
  { side, on }: { readonly side: DocumentSide; readonly on: string },
): Promise<AgedDocuments> {
  const documents = await rowsOf(
    tx,
    AgedDocument,
    sql`with settled as (
          select a.document_id, sum(a.amount) as amount, sum(coalesce(a.worth, a.amount)) as worth
          from allocations a
          cross join lateral (
            select coalesce(
              (select max(e.date) from decision_legs x
                join legs g on g.books_id = x.books_id and g.id = x.leg_id
                join entries e on e.books_id = g.books_id and e.id = g.entry_id
                where x.books_id = a.books_id and x.decision_id = a.decision_id),
              (select max(o.date) from allocations b
                join documents o on o.books_id = b.books_id and o.id = b.document_id
                where b.books_id = a.books_id and b.decision_id = a.decision_id)) as date) paid
          where a.books_id = ${booksId} and a.is_live and paid.date <= ${on}
          group by 1),
        standing as (
          select d.*, coalesce(p.merged_into, p.id) as whose,
            (case when e.is_counted and e.date <= ${on} then 1 else 0 end) + coalesce((
              select sum(t.sign) from late_turns t
              where t.books_id = e.books_id and t.entry_id = e.id and t.date <= ${on}), 0) as times
          from documents d
          join entries e on e.books_id = d.books_id and e.id = d.entry_id
          join payees p on p.books_id = d.books_id and p.id = d.payee_id
          where d.books_id = ${booksId} and d.side = ${side})
        select s.id, s.kind, s.number, s.whose as "payeeId", s.date, s.due_date as "dueDate",
          (coalesce(s.worth, s.amount) - coalesce(t.worth, 0))::bigint as open,
          s.exchange ->> 'currency' as currency,
          case when s.exchange is not null then (s.amount - coalesce(t.amount, 0))::bigint end as original
        from standing s left join settled t on t.document_id = s.id
        where s.times > 0 and s.amount <> coalesce(t.amount, 0)
        order by s.date, s.id`,
  );
  const [row] = await rowsOf(
    tx,
    BalanceRow,
    sql`select a.id as "accountId", coalesce(sum(m.amount), 0)::bigint as balance,
          coalesce(sum(m.amount) filter (where e.kind = 'valuation'), 0)::bigint as valuation
        from accounts a
        left join movements m on m.books_id = a.books_id and m.account_id = a.id and m.date <= ${on}
        left join entries e on e.books_id = m.books_id and e.id = m.entry_id
        where a.books_id = ${booksId} and a.role = ${side} and a.is_here
        group by a.id`,
  );
  const { accountId = null, balance = 0, valuation = 0 } = row ?? {};
  return { documents, accountId, balance, valuation };
}

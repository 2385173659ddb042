import { AgedDocument, type AgedDocuments } from '@zubrell/contract/reports';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import type { DocumentSide } from '@zubrell/core/ledger/documents';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { accountDays } from '../../db/accountDays.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { settledOn, timesCounted } from '../../db/standingOn.ts';

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
    sql`with maybe as (
          -- What is open today, or was settled or set against something later: nothing else was open then.
          select document_id as id from open_documents where books_id = ${booksId}
          union
          select a.document_id from entries e
          join legs g on g.books_id = e.books_id and g.entry_id = e.id
          join decision_legs x on x.books_id = g.books_id and x.leg_id = g.id
          join allocations a on a.books_id = x.books_id and a.decision_id = x.decision_id
          where e.books_id = ${booksId} and e.date > ${on}
          union
          select a.document_id from documents o
          join allocations b on b.books_id = o.books_id and b.document_id = o.id
          join allocations a on a.books_id = b.books_id and a.decision_id = b.decision_id
          where o.books_id = ${booksId} and o.date > ${on}),
        settled as (
          select a.document_id, sum(a.amount) as amount, sum(coalesce(a.worth, a.amount)) as worth
          from maybe
          join allocations a on a.books_id = ${booksId} and a.document_id = maybe.id
          where a.is_live and ${settledOn} <= ${on}
          group by 1),
        standing as (
          select d.*, coalesce(p.merged_into, p.id) as whose,
            ${timesCounted(sql`e`, on)} as times
          from maybe
          join documents d on d.books_id = ${booksId} and d.id = maybe.id and d.side = ${side}
          join entries e on e.books_id = d.books_id and e.id = d.entry_id
          join payees p on p.books_id = d.books_id and p.id = d.payee_id)
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
    sql`select a.id as "accountId",
          (select coalesce(sum(y.amount), 0) from ${accountDays(booksId)} y
            where y.account_id = a.id and y.date <= ${on})::bigint as balance,
          (select coalesce(sum(m.amount), 0) from entries e
            join movements m on m.books_id = e.books_id and m.entry_id = e.id
            where e.books_id = a.books_id and e.kind = 'valuation' and m.account_id = a.id
              and m.date <= ${on})::bigint as valuation
        from accounts a
        where a.books_id = ${booksId} and a.role = ${side} and a.is_here`,
  );
  const { accountId = null, balance = 0, valuation = 0 } = row ?? {};
  return { documents, accountId, balance, valuation };
}

import type { Due } from '@zubrell/contract/board';
import { addDays, monthOf } from '@zubrell/core/dates/calendarDate';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import { taxReturns } from '../tax/taxReturns.ts';

/** Bills due within so many days are due soon. */
const SOON = 14;

const DocumentsRow = z.object({
  side: z.enum(['payables', 'receivables']),
  isOver: z.boolean(),
  count: z.number(),
  total: z.number(),
});

const FirstRow = z.object({ month: z.string().nullable(), hasTax: z.boolean() });

/** What wants doing in books by a day: documents to be paid, months to be closed, tax to be reported. */
export async function dueOf(tx: Tx, booksId: BooksId, today: string): Promise<Due> {
  const documentsThere = rowsOf(
    tx,
    DocumentsRow,
    sql`select d.side, d.due_date < ${today} as "isOver", count(*)::int as count,
          abs(sum(o.worth))::bigint as total
        from open_documents o
        join documents d on d.books_id = o.books_id and d.id = o.document_id
        join entries e on e.books_id = d.books_id and e.id = d.entry_id and not e.is_void
        where o.books_id = ${booksId} and d.kind in ('bill', 'invoice')
          and d.due_date <= ${addDays(today, SOON)} and o.amount <> 0
        group by 1, 2`,
  );
  const firstThere = rowsOf(
    tx,
    FirstRow,
    sql`select (
          select to_char(min(l.date), 'YYYY-MM') from lines l
          where l.books_id = b.id and l.is_here
            and l.date < ${`${monthOf(today)}-01`}::date
            -- Not by coalesce: under row-level security no index serves that, and all closed lines would be read.
            and l.date > greatest(b.lock_date, '-infinity'::date)) as month,
          exists (select from legs g
            where g.books_id = b.id and g.tax_side is not null) as "hasTax"
        from books b where b.id = ${booksId}`,
  );
  const [documents, [first]] = await together(documentsThere, firstThere);
  const of = (side: 'payables' | 'receivables', isOver: boolean) => {
    const found = documents.find((row) => row.side === side && row.isOver === isOver);
    return { count: found?.count ?? 0, total: found?.total ?? 0 };
  };
  const next = first?.hasTax ? (await taxReturns(tx, booksId, today)).next : null;
  return {
    billsOverdue: of('payables', true),
    billsSoon: of('payables', false),
    invoicesOverdue: of('receivables', true),
    month: first?.month ?? null,
    tax: next && next.to < today ? next : null,
  };
}

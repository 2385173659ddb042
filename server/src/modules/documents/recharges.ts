import type { DocumentLine } from '@zubrell/contract/documents';
import { Recharge } from '@zubrell/contract/documents';
import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { lineBehind } from '../../db/lineBehind.ts';

/** The invoice in force that charges leg `g` to a customer: when it is voided, the cost is free again. */
const invoiceOf = sql`
  select d.id, d.number from documents d
  join entries de on de.books_id = d.books_id and de.id = d.entry_id and not de.is_void
  where d.books_id = g.books_id and d.side = 'receivables' and d.kind = 'invoice'
    and d.lines @> jsonb_build_array(jsonb_build_object('rechargedLegId', g.id::text)) limit 1`;

/** Costs that are marked to be charged to the customer of their job, the newest first, with the invoice where there is one. */
export async function rechargesOf(tx: Tx, booksId: BooksId): Promise<Recharge[]> {
  return rowsOf(
    tx,
    Recharge,
    sql`select g.id as "legId", g.entry_id as "entryId", e.date, g.account_id as "accountId",
          g.job_id as "jobId", e.payee_id as "payeeId", g.tax_code_id as "taxCodeId",
          coalesce(g.taxable, g.amount) as net, coalesce(src.description, nullif(own.text, ''), e.note, '') as text,
          (select json_build_object('id', i.id, 'number', i.number) from (${invoiceOf}) i) as invoice
        from legs g
        join entries e on e.books_id = g.books_id and e.id = g.entry_id and not e.is_void
        left join lateral (${lineBehind(sql`g.books_id`, sql`g.entry_id`)}) src on true
        left join lateral (
          -- Each line of a document makes one base leg, in their order.
          select d.lines -> (select count(*) from legs b
              where b.books_id = g.books_id and b.entry_id = g.entry_id and b.role = 'base'
                and b.position < g.position)::int ->> 'text' as text
          from documents d
          where d.books_id = g.books_id and d.entry_id = g.entry_id and d.kind <> 'credit' limit 1) own on true
        where g.books_id = ${booksId} and g.is_recharged
        order by e.date desc, e.step desc, g.position limit 2000`,
  );
}

const FreeRow = z.object({ id: z.string(), entryId: z.string(), isFree: z.boolean() });

/**
 * The entries of the costs that the lines of a document charge to a customer.
 *
 * @throws {ZubrellError} RECHARGE_TAKEN where one isn't marked for that any more, or is on another invoice
 */
export async function rechargedEntries(
  tx: Tx,
  booksId: BooksId,
  lines: readonly DocumentLine[],
): Promise<readonly string[]> {
  const ids = lines.flatMap(({ rechargedLegId }) => rechargedLegId ?? []);
  if (ids.length === 0) return [];
  if (new Set(ids).size < ids.length) fail('RECHARGE_TAKEN');
  const rows = await rowsOf(
    tx,
    FreeRow,
    sql`select g.id, g.entry_id as "entryId",
          g.is_recharged and not e.is_void and not exists (${invoiceOf}) as "isFree"
        from legs g join entries e on e.books_id = g.books_id and e.id = g.entry_id
        where g.books_id = ${booksId} and g.id = any(${sql.param(ids)}::uuid[])`,
  );
  if (rows.length < ids.length || rows.some(({ isFree }) => !isFree)) fail('RECHARGE_TAKEN');
  return rows.map(({ entryId }) => entryId);
}

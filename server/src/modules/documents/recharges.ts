import { type NewDocument, Recharge } from '@zubrell/contract/documents';
import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import type { DocumentKind } from '@zubrell/core/ledger/documents';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { lineBehind } from '../../db/lineBehind.ts';

/** Costs that are marked to be charged to the customer of their job, the newest first, with the invoice where there is one. */
export async function rechargesOf(tx: Tx, booksId: BooksId): Promise<Recharge[]> {
  return rowsOf(
    tx,
    Recharge,
    sql`select g.id as "legId", g.entry_id as "entryId", e.date, g.account_id as "accountId",
          g.job_id as "jobId", e.payee_id as "payeeId", g.tax_code_id as "taxCodeId",
          coalesce(g.taxable, g.amount) as net, coalesce(src.description, nullif(own.text, ''), e.note, '') as text,
          case when i.leg_id is not null
            then json_build_object('id', i.document_id, 'number', i.number) end as invoice
        from legs g
        join entries e on e.books_id = g.books_id and e.id = g.entry_id and not e.is_void
        left join lateral (${lineBehind(sql`g.books_id`, sql`g.entry_id`)}) src on true
        left join invoiced_costs i on i.books_id = g.books_id and i.leg_id = g.id
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
 * The entries of the costs that an invoice charges to a customer; other documents charge none.
 *
 * @throws {ZubrellError} RECHARGE_TAKEN where one isn't marked for that any more, or is on another invoice
 */
export async function rechargedEntries(
  tx: Tx,
  booksId: BooksId,
  { kind, lines }: Pick<NewDocument, 'lines'> & { readonly kind: DocumentKind },
): Promise<readonly string[]> {
  if (kind !== 'invoice') return [];
  const ids = lines.flatMap(({ rechargedLegId }) => rechargedLegId ?? []);
  if (ids.length === 0) return [];
  if (new Set(ids).size < ids.length) fail('RECHARGE_TAKEN');
  const rows = await rowsOf(
    tx,
    FreeRow,
    sql`select g.id, g.entry_id as "entryId",
          g.is_recharged and not e.is_void and not exists (
            select from invoiced_costs i where i.books_id = g.books_id and i.leg_id = g.id) as "isFree"
        from legs g join entries e on e.books_id = g.books_id and e.id = g.entry_id
        where g.books_id = ${booksId} and g.id = any(${sql.param(ids)}::uuid[])`,
  );
  if (rows.length < ids.length || rows.some(({ isFree }) => !isFree)) fail('RECHARGE_TAKEN');
  return rows.map(({ entryId }) => entryId);
}

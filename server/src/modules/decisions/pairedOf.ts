import { ownKinds } from '@zubrell/core/ledger/entries';
import { type SQL, sql } from 'drizzle-orm';

/**
 * What a decision is paired with, as JSON: the entries that were there, and the documents with what is settled of
 * them.
 */
export function pairedOf(decision: SQL): SQL {
  return sql`(
    select coalesce(json_agg(json_build_object('id', t.id, 'kind', t.kind, 'date', t.date, 'dueDate', t.due_date,
      'amount', t.amount, 'payeeId', t.payee_id, 'number', t.number) order by t.date, t.id), '[]')
    from (
      select g.id, case when e.kind = any(${sql.param(ownKinds)}::text[]) then 'transfer' else e.kind end as kind,
        e.date, null::date as due_date, g.own as amount, e.payee_id, e.number
      from decision_legs x
      join legs g on g.books_id = x.books_id and g.id = x.leg_id
      join entries e on e.books_id = g.books_id and e.id = g.entry_id
      where x.books_id = ${decision}.books_id and x.decision_id = ${decision}.id and e.kind <> 'settlement'
      union all
      select o.id, o.kind, o.date, o.due_date, a.amount, o.payee_id, o.number
      from allocations a
      join documents o on o.books_id = a.books_id and o.id = a.document_id
      where a.books_id = ${decision}.books_id and a.decision_id = ${decision}.id) t)`;
}

import type { Scope, StackKey } from '@zubrell/contract/desk';
import { parseSearch } from '@zubrell/core/text/parseSearch';
import { type SQL, sql } from 'drizzle-orm';
import { hasText } from '../../db/textSearch.ts';

const AND = sql` and `;

/**
 * The condition that line `l` lies in a scope. Payees are searched by the bank's own words and by
 * the payee proposed or decided.
 */
export function scopeFilter(scope: Scope, currency: string): SQL {
  const conditions: SQL[] = [sql`true`];
  if (scope.bankAccountId !== undefined) {
    conditions.push(sql`l.bank_account_id = any(${sql.param(scope.bankAccountId)}::uuid[])`);
  }
  if (scope.from !== undefined) conditions.push(sql`l.date >= ${scope.from}`);
  if (scope.to !== undefined) conditions.push(sql`l.date <= ${scope.to}`);
  if (scope.direction !== undefined) {
    conditions.push(scope.direction === 'out' ? sql`l.amount < 0` : sql`l.amount >= 0`);
  }
  if (scope.paper !== undefined) {
    conditions.push(sql`not exists (
      select from attachments paper
      where paper.books_id = l.books_id and paper.line_id = l.id)`);
  }
  const search = parseSearch(scope.search ?? '', currency);
  if (search.kind === 'amount') {
    // A number may be an amount, or part of a reference or of a document's number.
    conditions.push(sql`(abs(l.amount) between ${search.from} and ${search.to}
      or ${saysText((scope.search ?? '').trim())})`);
  } else if (search.kind === 'text') {
    const _has = (column: string) => hasText(sql.raw(column), search.text);
    conditions.push(sql`(${saysText(search.text)} or ${hasText(sql`l.payee`, search.text)}
      or ${isOfPayee(search.text)})`);
  }
  return sql.join(conditions, AND);
}

/** The books that the transaction sees, for what is asked once and not for each line. */
const theseBooks = sql`nullif(current_setting('app.books_id', true), '')::uuid`;

/** That line `l` has a text in its wording or reference, or pays a document that has it in its number. */
function saysText(text: string): SQL {
  return sql`(${hasText(sql`l.description`, text)} or ${hasText(sql`l.reference`, text)} or l.id in (
    select paying.line_id from documents paid
    join allocations part on part.books_id = paid.books_id and part.document_id = paid.id
    join decision_lines paying on paying.books_id = part.books_id
      and paying.decision_id = part.decision_id and paying.is_live
    where paid.books_id = ${theseBooks} and ${hasText(sql`paid.number`, text)}))`;
}

/** That a payee with a text in their name is proposed for line `l`, or was decided. */
function isOfPayee(text: string): SQL {
  const named = sql`array(
    select named.id::text from payees named
    where named.books_id = ${theseBooks} and ${hasText(sql`named.name`, text)})`;
  return sql`l.id in (
    select o.line_id from open_lines o where o.books_id = ${theseBooks} and o.payee_id = any(${named})
    union all
    select dl2.line_id from decisions d2
    join decision_lines dl2 on dl2.books_id = d2.books_id and dl2.decision_id = d2.id and dl2.is_live
    where d2.books_id = ${theseBooks} and d2.coding ->> 'payeeId' = any(${named}))`;
}

/** What lines of one stack have in common, for line `l` and its proposal `p`. */
export function stackKeyOf(grouping: StackKey['grouping']): SQL {
  switch (grouping) {
    case 'lookAlikes':
      return sql`l.stem`;
    case 'payee':
      return sql`coalesce(p.proposal #>> '{coding,payeeId}', '')`;
    case 'date':
      return sql`l.date::text`;
  }
}

/** The same for line `l` of `open_lines`. */
export function openStackKeyOf(grouping: StackKey['grouping']): SQL {
  return grouping === 'payee' ? sql`coalesce(l.payee_id, '')` : stackKeyOf(grouping);
}

/** The condition that line `l` with proposal `p` belongs to a stack. */
export function stackFilter(stack: StackKey): SQL {
  const isOut = stack.direction === 'out';
  return sql`${stackKeyOf(stack.grouping)} = ${stack.key} and (l.amount < 0) = ${isOut}`;
}

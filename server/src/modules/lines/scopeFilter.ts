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
    const has = (column: string) => hasText(sql.raw(column), search.text);
    conditions.push(sql`(
      ${saysText(search.text)} or ${has('l.payee')}
      or exists (
        select from payees named
        where named.books_id = l.books_id and ${has('named.name')} and named.id in (
          select (p2.proposal #>> '{coding,payeeId}')::uuid from proposals p2
          where p2.books_id = l.books_id and p2.line_id = l.id
          union all
          select (d2.coding ->> 'payeeId')::uuid from decision_lines dl2
          join decisions d2 on d2.books_id = dl2.books_id and d2.id = dl2.decision_id
          where dl2.books_id = l.books_id and dl2.line_id = l.id and dl2.is_live)))`);
  }
  return sql.join(conditions, AND);
}

/** That line `l` has a text in its wording or reference, or pays a document that has it in its number. */
function saysText(text: string): SQL {
  const has = (column: string) => hasText(sql.raw(column), text);
  return sql`(${has('l.description')} or ${has('l.reference')} or exists (
    select from decision_lines paying
    join allocations part on part.books_id = paying.books_id and part.decision_id = paying.decision_id
    join documents paid on paid.books_id = part.books_id and paid.id = part.document_id
    where paying.books_id = l.books_id and paying.line_id = l.id and paying.is_live
      and ${has('paid.number')}))`;
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

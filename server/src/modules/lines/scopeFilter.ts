import type { Scope, StackKey } from '@zubrell/contract/desk';
import type { LineId } from '@zubrell/core/ids';
import { parseSearch } from '@zubrell/core/text/parseSearch';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type BooksTx, rowsOf, type Tx, together } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { hasText, patternOf } from '../../db/textSearch.ts';
import { booksCurrency } from '../books/queries.ts';

const AND = sql` and `;

/** The condition that line `l` of `lines` lies in a scope. */
export async function scopeFilter(books: BooksTx, scope: Scope): Promise<SQL> {
  return (await scopeFilters(books, scope)).ofLines;
}

/** The condition that line `l` lies in a scope. */
export interface ScopeFilters {
  /** For `l` of `lines`. */
  readonly ofLines: SQL;
  /** For `l` of {@link openLinesToScope}, which has its folded texts at hand. */
  readonly ofOpen: SQL;
}

/** The open lines as a table `l` that a scope can be asked of. */
export const openLinesToScope: SQL = sql`(select *, line_id as id from open_lines)`;

/** The conditions that a line lies in a scope, for either table. */
export async function scopeFilters(books: BooksTx, scope: Scope): Promise<ScopeFilters> {
  const conditions: SQL[] = [sql`true`];
  if (scope.bankAccountId !== undefined) {
    conditions.push(sql`l.bank_account_id = any(${sql.param(scope.bankAccountId)}::uuid[])`);
  }
  if (scope.from !== undefined) conditions.push(sql`l.date >= ${scope.from}`);
  if (scope.to !== undefined) conditions.push(sql`l.date <= ${scope.to}`);
  if (scope.direction !== undefined) {
    conditions.push(scope.direction === 'out' ? sql`l.amount < 0` : sql`l.amount >= 0`);
  }
  if (scope.attachment !== undefined) {
    conditions.push(sql`not exists (
      select from attachments a where a.books_id = l.books_id and a.line_id = l.id)`);
  }
  const search = (scope.search ?? '').trim();
  const isFoundIn = search === '' ? null : await finding(books, search);
  const withTexts = (said: SQL): SQL =>
    sql.join(isFoundIn === null ? conditions : [...conditions, isFoundIn(said)], AND);
  return {
    ofLines: withTexts(sql`said(l.description, l.reference, l.payee)`),
    ofOpen: withTexts(sql`l.said`),
  };
}

/** So many lines that a search finds are named one by one; what finds more is common, and looked for in each line. */
const NAMED = 2_000;

const FoundRow = z.object({ id: idRow<LineId>() });

/**
 * The condition that line `l` is found by what was typed: by the bank's own words, by the payee proposed or decided, by
 * the number of a document that it pays, or by its amount.
 *
 * @returns it, given what says the line's folded texts
 */
async function finding({ tx, booksId }: BooksTx, typed: string): Promise<(said: SQL) => SQL> {
  const search = parseSearch(typed, await booksCurrency(tx, booksId));
  const pattern = patternOf(typed);
  const others: SQL[] = [payingDocuments(booksId, typed)];
  if (search.kind === 'text') others.push(ofPayees(booksId, typed));
  // A number may be an amount, or part of a reference or of a document's number.
  const size = search.kind === 'amount' ? isOfSize(search) : null;
  const [saying, beside, ofSize] = await together(
    firstIds(tx, [sql`select lines_saying(${pattern}, ${NAMED + 1}) as id`]),
    firstIds(tx, others),
    size === null
      ? Promise.resolve([])
      : firstIds(tx, [sql`select l.id from lines l where l.books_id = ${booksId} and ${size}`]),
  );
  const isCommon = (ids: readonly LineId[]) => ids.length > NAMED;
  const named = [saying, beside, ofSize].filter((ids) => !isCommon(ids)).flat();
  return (said) => {
    const either = [isOneOf(named)];
    if (isCommon(saying)) either.push(sql`${said} like ${pattern}`);
    if (isCommon(beside)) either.push(...others.map((ids) => sql`l.id in (${ids})`));
    if (isCommon(ofSize) && size !== null) either.push(size);
    return sql`(${sql.join(either, sql` or `)})`;
  };
}

/** The lines that some of several queries find: all of them, or one more than are named. */
function firstIds(tx: Tx, queries: readonly SQL[]): Promise<readonly LineId[]> {
  const branches = queries.map((query) => sql`(${query} limit ${NAMED + 1})`);
  const found = rowsOf(
    tx,
    FoundRow,
    sql`select id from (${sql.join(branches, sql` union `)}) found limit ${NAMED + 1}`,
  );
  return found.then((rows) => rows.map(({ id }) => id));
}

function isOneOf(ids: readonly LineId[]): SQL {
  return sql`l.id = any(${sql.param(ids)}::uuid[])`;
}

/** That the size of line `l` lies between two, which an index finds by either sign. */
function isOfSize({ from, to }: { readonly from: number; readonly to: number }): SQL {
  return sql`(l.amount between ${from} and ${to} or l.amount between ${-to} and ${-from})`;
}

/** The lines that pay a document with a text in its number. */
function payingDocuments(booksId: string, text: string): SQL {
  return sql`select paying.line_id as id from documents paid
    join allocations part on part.books_id = paid.books_id and part.document_id = paid.id
    join decision_lines paying on paying.books_id = part.books_id
      and paying.decision_id = part.decision_id and paying.is_live
    where paid.books_id = ${booksId} and ${hasText(sql`paid.number`, text)}`;
}

/** The lines for which a payee with a text in their name is proposed, or was decided. */
function ofPayees(booksId: string, text: string): SQL {
  const named = sql`array(
    select named.id from payees named
    where named.books_id = ${booksId} and ${hasText(sql`named.name`, text)})`;
  return sql`select line_id as id from (
      select o.line_id from open_lines o
      where o.books_id = ${booksId} and o.payee_id = any(${named}::text[])
      union all
      select dl2.line_id from decisions d2
      join decision_lines dl2
        on dl2.books_id = d2.books_id and dl2.decision_id = d2.id and dl2.is_live
      where d2.books_id = ${booksId} and d2.payee_id = any(${named})) of_payee`;
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

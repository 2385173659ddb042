import { type Decided, DecidedSum, type DecidedTarget } from '@zubrell/contract/desk';
import { fail } from '@zubrell/core/errors';
import type { BooksId, LineId } from '@zubrell/core/ids';
import { type SQL, sql } from 'drizzle-orm';
import { type BooksTx, rowsOf } from '../../db/database.ts';
import { IdRow } from '../../db/rows.ts';
import { booksCurrency } from '../books/queries.ts';
import { joinLiveDecision } from './lineState.ts';
import { scopeFilter } from './scopeFilter.ts';

/** So many decided lines are changed by one command at most. */
const MOST = 20_000;

/** The condition that line `l`, with live decision `d`, was decided so. */
export async function decidedFilter(
  books: BooksTx,
  { kind, accountId, payeeId, taxCodeId, by, ruleId, stem, way, userId, step, ...scope }: Decided,
): Promise<SQL> {
  const inScope = await scopeFilter(books, scope);
  const conditions: SQL[] = [sql`l.is_here and d.kind is not null`, inScope];
  const partHas = (field: 'accountId' | 'taxCodeId', id: string) =>
    sql`d.coding -> 'parts' @> ${JSON.stringify([{ [field]: id }])}::jsonb`;
  if (kind !== undefined) conditions.push(sql`d.kind = ${kind}`);
  if (accountId !== undefined) conditions.push(partHas('accountId', accountId));
  if (taxCodeId !== undefined) conditions.push(partHas('taxCodeId', taxCodeId));
  if (payeeId !== undefined) conditions.push(sql`d.payee_id = ${payeeId}`);
  if (by !== undefined) conditions.push(sql`coalesce(d.proposed_by, 'hand') = ${by}`);
  if (ruleId !== undefined) conditions.push(sql`d.rule_id = ${ruleId}`);
  if (stem !== undefined) conditions.push(sql`l.stem = any(${sql.param(stem)}::text[])`);
  if (way !== undefined) conditions.push(sql`d.way = ${way}`);
  if (step !== undefined) conditions.push(sql`d.step = ${step}`);
  if (userId !== undefined) {
    conditions.push(sql`exists (select from steps s
      where s.books_id = d.books_id and s.no = d.step and s.user_id = ${userId})`);
  }
  return sql.join(conditions, sql` and `);
}

const joinDecision = sql`${joinLiveDecision}
  left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id`;

/** How many lines were decided so, and what they come to where all are in one currency. */
export async function decidedSum(books: BooksTx, decided: Decided): Promise<DecidedSum> {
  const { tx, booksId } = books;
  const currency = await booksCurrency(tx, booksId);
  const own = sql`coalesce(b.currency, ${currency})`;
  const sums = sumsByDay(booksId, decided) ?? (await sumsByLine(books, decided));
  const [sum] = await rowsOf(
    tx,
    DecidedSum,
    sql`select coalesce(sum(l.count), 0)::int as count,
          case when count(distinct ${own}) <= 1 then coalesce(sum(l.total), 0)::bigint end as total,
          case when count(distinct ${own}) = 1 then min(${own}) end as currency
        from (${sums}) l
        join bank_accounts b on b.books_id = ${booksId} and b.id = l.bank_account_id`,
  );
  return sum ?? { count: 0, total: 0, currency };
}

async function sumsByLine(books: BooksTx, decided: Decided): Promise<SQL> {
  return sql`
    select l.bank_account_id, count(*) as count, sum(l.amount) as total from lines l ${joinDecision}
    where l.books_id = ${books.booksId} and ${await decidedFilter(books, decided)} group by 1`;
}

/** The same from what is kept by day; null where more is asked than is kept so. */
function sumsByDay(
  booksId: BooksId,
  { kind, bankAccountId, from, to, direction, ...more }: Decided,
): SQL | null {
  if (Object.values(more).some((value) => value !== undefined)) return null;
  const conditions = [
    kind === undefined ? sql`true` : sql`l.kind = ${kind}`,
    bankAccountId === undefined
      ? sql`true`
      : sql`l.bank_account_id = any(${sql.param(bankAccountId)}::uuid[])`,
    from === undefined ? sql`true` : sql`l.date >= ${from}`,
    to === undefined ? sql`true` : sql`l.date <= ${to}`,
    direction === undefined ? sql`true` : sql`l.is_out = ${direction === 'out'}`,
  ];
  return sql`select l.bank_account_id, l.count, l.amount as total from decided_days l
    where l.books_id = ${booksId} and l.count > 0 and ${sql.join(conditions, sql` and `)}`;
}

/** The ids of the lines that a command is about. @throws {ZubrellError} DECIDED_TOO_MANY */
export async function decidedIds(
  books: BooksTx,
  target: DecidedTarget,
): Promise<readonly LineId[]> {
  if ('lineIds' in target) return target.lineIds;
  const { tx, booksId } = books;
  const wanted = await decidedFilter(books, target.decided);
  const rows = await rowsOf(
    tx,
    IdRow,
    sql`select l.id from lines l ${joinDecision}
        where l.books_id = ${booksId} and ${wanted} limit ${MOST + 1}`,
  );
  if (rows.length > MOST) fail('DECIDED_TOO_MANY', { most: MOST });
  return rows.map(({ id }) => id);
}

import type {
  AccountStatements,
  AllStatements,
  StatementSummary,
} from '@zubrell/contract/statements';
import type { Period } from '@zubrell/core/closing/periods';
import { groupBy } from '@zubrell/core/groupBy';
import type { BankAccountId, BooksId } from '@zubrell/core/ids';
import type { DatedBalance } from '@zubrell/core/intake/balanceChain';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { isWeighed } from '../decisions/isWeighed.ts';
import { countedTo, joinLiveDecision } from '../lines/lineState.ts';
import { bankDays } from '../proof/bankDays.ts';
import { statedBalances } from '../proof/statedBalances.ts';
import {
  type AccountFacts,
  accountFacts,
  type PlannedStatement,
  plannedStatements,
  saidStatements,
} from './accountFacts.ts';
import { countsOn, joinStatementDay } from './accountRows.ts';
import { lateDays } from './lateDays.ts';

/** The statements of all bank accounts, the oldest of each first. */
export async function listStatements(
  tx: Tx,
  booksId: BooksId,
  today: string,
): Promise<AllStatements> {
  const [accounts, allSaid, allMoved, allStated, parts] = await together(
    accountFacts(tx, booksId, null),
    saidStatements(tx, booksId, null),
    movedByDay(tx, booksId),
    statedBalances(tx, booksId),
    agreedParts(tx, booksId),
  );
  const said = groupBy(allSaid, (each) => each.bankAccountId);
  const moved = groupBy(allMoved, (row) => row.bankAccountId);
  const stated = groupBy(allStated, ({ id }) => id);
  return {
    accounts: accounts.map((account): AccountStatements => {
      const { bankAccountId, cycle, closedTo, openingDate } = account;
      const own = said.get(bankAccountId) ?? [];
      const planned = plannedStatements(account, own, today);
      const balances = stated.get(bankAccountId) ?? [];
      return {
        bankAccountId,
        cycle,
        closedTo,
        hasOpening: openingDate !== null,
        isTicked: isTicked(account),
        statements: summaries(account, planned, moved.get(bankAccountId) ?? [], balances).map(
          (summary, at) => {
            const own = parts.get(planned[at]?.said?.id ?? '');
            const lineCount = summary.state === 'agreed' ? (own?.count ?? 0) : summary.lineCount;
            return { ...summary, lineCount, changedCount: own?.changed ?? 0 };
          },
        ),
      };
    }),
  };
}

/** Whether no file or feed brings an account's lines, so that entries are ticked. */
export function isTicked({ firstLine }: Pick<AccountFacts, 'firstLine'>): boolean {
  return firstLine === null;
}

const MovedRow = z.object({
  bankAccountId: idRow<BankAccountId>(),
  day: z.string(),
  amount: z.int(),
  lineCount: z.int(),
  openCount: z.int(),
  askedCount: z.int(),
});
export type MovedRow = z.infer<typeof MovedRow>;

/** What moved by day, as far as no agreed statement counts it. @param bankAccountId only on this account */
export function movedByDay(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId | null = null,
): Promise<MovedRow[]> {
  const isWanted = bankAccountId === null ? sql`true` : sql`b.id = ${bankAccountId}`;
  const sinceOpening = (date: SQL) => sql`${date} > coalesce((
    select max(e.date) from entries e
    where e.books_id = b.books_id and e.opening_of = b.id and not e.is_void), '-infinity')`;
  // Day by day, so that no line is read of those that are counted as a whole.
  const lateLines = sql`(
    select n.* from ${lateDays(booksId)} late
    cross join lateral (
      select * from lines n
      where n.books_id = ${booksId} and n.bank_account_id = late.bank_account_id and n.date = late.date offset 0) n)`;
  const asks = (state: SQL) => sql`coalesce(${state} = 'open', false)`;
  // Lines whose day in statements may be another than their own: few, and looked at one by one.
  const byLine = (which: SQL) => sql`
    select l.bank_account_id, l.date, ${countsOn} as day, ${countedTo} is null as is_free, l.date > coalesce(b.closed_to, '-infinity') as is_by_day,
      l.amount, d.id is null as is_open, ${asks(sql`l.asked`)} as is_asked
    from ${which}
    join bank_accounts b on b.books_id = l.books_id and b.id = l.bank_account_id
    ${joinLiveDecision}
    left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
    where l.books_id = ${booksId} and l.is_here and ${isWeighed} and ${isWanted} and ${sinceOpening(sql`l.date`)}`;
  return rowsOf(
    tx,
    MovedRow,
    sql`with apart as (
          ${byLine(sql`statement_days sd join lines l on l.books_id = sd.books_id and l.id = sd.thing_id`)}
          union all
          ${byLine(sql`${lateLines} l ${joinStatementDay}`)} and sd.day is null),
        moved as (
          select d.bank_account_id, d.date as day, d.amount, d.count, d.kind is null as is_open, ${asks(sql`d.asked`)} as is_asked
          from ${bankDays(booksId)} d
          join bank_accounts b on b.books_id = ${booksId} and b.id = d.bank_account_id
          where ${isWeighed} and ${isWanted} and d.date > coalesce(b.closed_to, '-infinity')
            and ${sinceOpening(sql`d.date`)}
          union all
          select bank_account_id, date, -amount, -1, is_open, is_asked from apart where is_by_day
          union all
          select bank_account_id, day, amount, 1, is_open, is_asked from apart where is_free)
        select bank_account_id as "bankAccountId", day, sum(amount)::bigint as amount,
          sum(count)::int as "lineCount",
          coalesce(sum(count) filter (where is_open and not is_asked), 0)::int as "openCount",
          coalesce(sum(count) filter (where is_open and is_asked), 0)::int as "askedCount"
        from moved group by 1, 2 having sum(count) <> 0
        union all
        select b.id, sd.day, sum(l.amount)::bigint, count(*)::int, 0, 0
        from statement_days sd
        join legs l on l.books_id = sd.books_id and l.id = sd.thing_id
        join bank_accounts b on b.books_id = l.books_id and b.account_id = l.account_id
        where sd.books_id = ${booksId} and sd.kind = 'leg' and ${countedTo} is null and ${isWanted}
        group by 1, 2`,
  );
}

const PartsRow = z.object({ id: z.string(), count: z.int(), changed: z.int() });

/**
 * Parts of statements that are not as they were when it was agreed, as a table of `statement_id`, `step` and `thing_id`:
 * found by decisions that were undone, lines that went, and lines that nothing was decided about then.
 */
export function changedParts(booksId: BooksId): SQL {
  return sql`(
    select p.statement_id, p.step, p.thing_id from decision_lines dl
    join statement_parts p on p.books_id = dl.books_id and p.thing_id = dl.line_id
      and p.decision_id = dl.decision_id
    where dl.books_id = ${booksId} and not dl.is_live
    union
    select p.statement_id, p.step, p.thing_id from lines l
    join statement_parts p on p.books_id = l.books_id and p.thing_id = l.id
    where l.books_id = ${booksId} and not l.is_here
    union
    select p.statement_id, p.step, p.thing_id from statement_parts p
    join decision_lines dl on dl.books_id = p.books_id and dl.line_id = p.thing_id and dl.is_live
    where p.books_id = ${booksId} and p.kind = 'line' and p.decision_id is null)`;
}

/** How much each agreed statement was made of, and how many lines of what was agreed are not as they were then. */
async function agreedParts(
  tx: Tx,
  booksId: BooksId,
): Promise<ReadonlyMap<string, z.infer<typeof PartsRow>>> {
  const rows = await rowsOf(
    tx,
    PartsRow,
    sql`with changed as ${changedParts(booksId)}
        select s.id,
          (select coalesce(sum(c.count), 0)::int from counted_days c
            where c.books_id = s.books_id and c.statement_id = s.id) as count,
          (select count(*)::int from changed
            where changed.statement_id = s.id
              and changed.step = coalesce(s.agreed_step, s.last_agreed_step)) as changed
        from statements s
        where s.books_id = ${booksId} and s.is_here`,
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/**
 * What the bank states that an account stands at at the end of a period: on its last day, or on the day of its last line
 * where more is known from after it; null where it doesn't.
 *
 * @param known the last day of which anything is known
 */
function statedAt(
  { from, to }: Period,
  own: readonly MovedRow[],
  stated: readonly DatedBalance[],
  known: string,
): number | null {
  const last = stated.findLast(({ date }) => date >= from && date <= to);
  if (!last) return null;
  const isWhole = last.date === to || (known > to && own.every(({ day }) => day <= last.date));
  return isWhole ? last.amount : null;
}

/** The statements of an account with what each opens at, adds up to and says. */
export function summaries(
  { bankAccountId, opening: first }: Pick<AccountFacts, 'bankAccountId' | 'opening'>,
  planned: readonly PlannedStatement[],
  moved: readonly MovedRow[],
  stated: readonly DatedBalance[],
): StatementSummary[] {
  const known =
    [...moved.map(({ day }) => day), ...stated.map(({ date }) => date)].sort().at(-1) ?? '';
  let opening = first;
  return planned.map(({ from, to, said }) => {
    const isAgreed = said !== null && said.agreedStep !== null;
    const own = moved.filter(({ day }) => day >= from && day <= to);
    const total = (of: (row: MovedRow) => number) => own.reduce((sum, row) => sum + of(row), 0);
    const opens = isAgreed ? (said.agreedOpening ?? opening) : opening;
    const typed = said?.closing ?? null;
    const closing = isAgreed
      ? said.agreedClosing
      : (typed ?? statedAt({ from, to }, own, stated, known));
    const addsUp = isAgreed && closing !== null ? closing : opens + total(({ amount }) => amount);
    opening = closing ?? addsUp;
    return {
      bankAccountId,
      from,
      to,
      state: isAgreed ? 'agreed' : said?.lastAgreedStep ? 'reopened' : 'open',
      opening: opens,
      lineCount: total(({ lineCount }) => lineCount),
      openCount: total(({ openCount }) => openCount),
      askedCount: total(({ askedCount }) => askedCount),
      addsUp,
      closing,
      isClosingTyped: typed !== null,
      off: closing === null ? null : closing - addsUp,
      agreedBy: isAgreed ? said.agreedBy : null,
      agreedAt: isAgreed ? said.agreedAt : null,
      changedCount: 0,
    };
  });
}

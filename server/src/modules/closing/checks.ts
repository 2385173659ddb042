import type { BooksSettings } from '@zubrell/contract/books';
import type { ClosingCheck } from '@zubrell/contract/closing';
import { digitsOfYearBefore, isEarlyInYear, namesYearBefore } from '@zubrell/core/closing/cutOff';
import { addDays, lastDayOf } from '@zubrell/core/dates/calendarDate';
import type { BooksId } from '@zubrell/core/ids';
import { waitingKinds } from '@zubrell/core/ledger/entries';
import { sumOf } from '@zubrell/core/money/minor';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { accountDays } from '../../db/accountDays.ts';
import { type BooksTx, rowsOf, type Tx, together } from '../../db/database.ts';
import { valuationOf } from '../currencies/valueCurrencies.ts';
import { journalPlans } from '../journals/journalPlans.ts';
import { outstandingItems, scopeProof } from '../proof/queries.ts';

const CountedRow = z.object({
  count: z.int(),
  amount: z.int().nullable(),
  of: z.int().nullable(),
  oldest: z.string().nullable(),
  who: z.string().nullable(),
  accountId: z.string().nullable(),
});
type CountedRow = z.infer<typeof CountedRow>;

const NOTHING: CountedRow = {
  count: 0,
  amount: null,
  of: null,
  oldest: null,
  who: null,
  accountId: null,
};

/** All that is to be looked at before a month is closed; what is fine has a count of zero. */
export async function closingChecks(
  tx: Tx,
  booksId: BooksId,
  month: string,
  { ages, receiptFrom, demands, yearBegins }: BooksSettings,
): Promise<ClosingCheck[]> {
  const end = lastDayOf(month);
  const counted = async (query: SQL) => (await rowsOf(tx, CountedRow, query))[0] ?? NOTHING;
  const wantsTax = Object.entries(demands).flatMap(([type, fields]) =>
    fields.includes('taxCodeId') ? [type] : [],
  );
  const [open, questions, onSuspense, between, postedRows, untaxed, late] = await together(
    counted(openLines(booksId, end)),
    counted(questionsOut(booksId, end)),
    counted(suspense(booksId, end)),
    counted(betweenOwn(booksId, end)),
    rowsOf(tx, PostedRow, ofPosted(booksId, month, receiptFrom)),
    wantsTax.length === 0
      ? Promise.resolve(NOTHING)
      : counted(withoutTax(booksId, month, wantsTax)),
    counted(afterReport(booksId, month)),
  );
  const [proof, waiting, { plans }, yearBefore, unvalued] = await together(
    scopeProof(tx, booksId, { to: end }),
    outstandingItems(tx, booksId, { to: end }),
    journalPlans(tx, booksId, end),
    ofYearBefore({ tx, booksId }, month, yearBegins),
    notValued(tx, booksId, end),
  );
  const causes = proof?.causes ?? [];
  const older = (days: number, isTransit: boolean) =>
    ofItems(
      waiting.filter(
        ({ date, kind }) => date <= addDays(end, -days) && (kind === 'transfer') === isTransit,
      ),
    );
  const transit = older(ages.transit, true);
  const posted = new Map(
    postedRows.map(({ kind, ...row }): readonly [string, CountedRow] => [kind, row]),
  );
  const due = plans.flatMap(({ due: dates, amount }) => dates.map((date) => ({ date, amount })));
  return [
    { kind: 'openLines', ...open },
    {
      kind: 'unexplained',
      ...NOTHING,
      count: causes.length,
      amount: proof?.unexplained ?? null,
      oldest: causes.map(({ date }) => date).sort()[0] ?? null,
    },
    { kind: 'questions', ...questions },
    { kind: 'suspense', ...onSuspense },
    between.count > 0
      ? { kind: 'transit', ...between, count: between.count + transit.count }
      : { kind: 'transit', ...transit },
    { kind: 'outstanding', ...older(ages.outstanding, false) },
    { kind: 'receipts', ...(posted.get('receipts') ?? NOTHING) },
    { kind: 'postedUnseen', ...(posted.get('postedUnseen') ?? NOTHING) },
    { kind: 'taxCodes', ...untaxed },
    { kind: 'cutOff', ...ofItems(yearBefore) },
    { kind: 'journals', ...ofItems(due) },
    { kind: 'currencies', ...unvalued },
    { kind: 'afterReport', ...late },
  ];
}

/** What is open in other currencies at the end of the month and was not valued then. */
async function notValued(tx: Tx, booksId: BooksId, end: string): Promise<CountedRow> {
  const { items, entryId } = await valuationOf(tx, booksId, end);
  const off = entryId === null ? items.filter(({ worth, stands }) => worth !== stands) : [];
  const amount = off.reduce((sum, { worth, stands }) => sum + (worth ?? stands) - stands, 0);
  return { ...NOTHING, count: off.length, amount };
}

/** A check that is not fine. */
export function isOpenCheck({ count }: ClosingCheck): boolean {
  return count > 0;
}

function ofItems(items: readonly { readonly date: string; readonly amount: number }[]): CountedRow {
  const oldest = items.map(({ date }) => date).sort()[0] ?? null;
  return { ...NOTHING, count: items.length, amount: sumOf(items), oldest };
}

const columns = (parts: Partial<Record<keyof CountedRow, SQL>>) => {
  const of = (name: keyof CountedRow, type: string) => parts[name] ?? sql.raw(`null::${type}`);
  return sql`${of('count', 'int')} as count, ${of('amount', 'bigint')} as amount, ${of('of', 'int')} as of,
    ${of('oldest', 'date')} as oldest, ${of('who', 'text')} as who, ${of('accountId', 'uuid')} as "accountId"`;
};

const count = sql`count(*)::int`;

function openLines(booksId: BooksId, end: string): SQL {
  return sql`select ${columns({ count, amount: sql`sum(abs(l.amount))::bigint`, oldest: sql`min(l.date)` })}
    from open_lines l
    where l.books_id = ${booksId} and l.date <= ${end} and l.asked is distinct from 'open'`;
}

function questionsOut(booksId: BooksId, end: string): SQL {
  return sql`select ${columns({
    count,
    amount: sql`sum(abs(l.amount))::bigint`,
    oldest: sql`min(q.asked_at)::date`,
    who: sql`string_agg(distinct q.asked_of, ', ')`,
  })}
    from lines l
    join question_lines ql on ql.books_id = l.books_id and ql.line_id = l.id
    join questions q on q.books_id = ql.books_id and q.id = ql.question_id and q.state = 'open'
    where l.books_id = ${booksId} and l.is_here and l.date <= ${end} and l.asked = 'open'`;
}

/** What stands on suspense: how much, since when, and who put it there last. */
function suspense(booksId: BooksId, end: string): SQL {
  const stands = sql`(select coalesce(sum(y.amount), 0) from ${accountDays(booksId)} y
    where y.account_id = a.id and y.date <= ${end})`;
  return sql`select ${columns({
    count: sql`count(distinct m.entry_id)::int`,
    amount: sql`sum(m.amount)::bigint`,
    oldest: sql`min(m.date)`,
    who: sql`(array_agg(u.name order by m.step desc))[1]`,
    accountId: sql`a.id`,
  })}
    from accounts a
    join movements m on m.books_id = a.books_id and m.account_id = a.id and m.date <= ${end}
    join steps s on s.books_id = m.books_id and s.no = m.step
    join users u on u.id = s.user_id
    where a.books_id = ${booksId} and a.role = 'suspense' and a.is_here and ${stands} <> 0
    group by a.id`;
}

/** What is left on the account between own accounts: a move whose other side was never found. */
function betweenOwn(booksId: BooksId, end: string): SQL {
  return sql`select ${columns({
    count: sql`1`,
    amount: sql`sum(m.amount)::bigint`,
    oldest: sql`max(m.date)`,
    accountId: sql`a.id`,
  })}
    from accounts a
    join ${accountDays(booksId)} m on m.account_id = a.id and m.date <= ${end}
    where a.books_id = ${booksId} and a.role = 'transfers' and a.is_here
    group by a.id having sum(m.amount) <> 0`;
}

const inMonth = (date: SQL, month: string) =>
  sql`${date} between ${`${month}-01`} and ${lastDayOf(month)}`;

const PostedRow = CountedRow.extend({ kind: z.enum(['receipts', 'postedUnseen']) });

/**
 * Of the month's lines, in one pass over them: costs from an amount on without an attachment, of all from that amount on;
 * and what a sweep or a rule posted and no reviewer has looked at.
 *
 * @param from null where no attachments are asked for
 */
function ofPosted(booksId: BooksId, month: string, from: number | null): SQL {
  const lacks = sql`attached.line_id is null`;
  const amount = sql`sum(abs(p.amount))::bigint`;
  const isLarge = from === null ? sql`false` : sql`(account_id is not null and amount <= ${-from})`;
  return sql`with posted as materialized (
      select line_id as id, date, amount, is_unseen, case when ${isLarge} then account_id end as account_id
      from decision_lines
      where books_id = ${booksId} and is_live and ${inMonth(sql`date`, month)} and (is_unseen or ${isLarge}))
    select 'receipts' as kind, ${columns({
      count: sql`(count(*) filter (where ${lacks}))::int`,
      amount: sql`sum(abs(p.amount)) filter (where ${lacks})::bigint`,
      of: count,
      oldest: sql`min(p.date) filter (where ${lacks})`,
    })}
    from posted p
    join accounts a on a.books_id = ${booksId} and a.id = p.account_id and a.type = 'expense'
    left join (select distinct t.line_id from attachments t where t.books_id = ${booksId}) attached
      on attached.line_id = p.id
    union all
    select 'postedUnseen', ${columns({ count, amount, oldest: sql`min(p.date)` })}
    from posted p
    where p.is_unseen
      and not exists (select from line_reviews r where r.books_id = ${booksId} and r.line_id = p.id)`;
}

function withoutTax(booksId: BooksId, month: string, types: readonly string[]): SQL {
  return sql`select ${columns({ count, amount: sql`sum(abs(g.amount))::bigint`, oldest: sql`min(g.date)` })}
    from entries e
    join legs g on g.books_id = e.books_id and g.entry_id = e.id and g.role = 'base'
      and g.tax_code_id is null
    join accounts a on a.books_id = g.books_id and a.id = g.account_id
      and a.type = any(${sql.param(types)}::text[])
    where e.books_id = ${booksId} and not e.is_void and e.kind <> all(${sql.param(waitingKinds)}::text[])
      and ${inMonth(sql`g.date`, month)}`;
}

const PaidRow = z.object({ date: z.string(), amount: z.number(), said: z.string() });

/**
 * Payments of the month, early in the year, whose wording names the year before, coded straight to income or costs: had
 * a bill or an invoice been entered, they would be paired with it.
 */
async function ofYearBefore(
  { tx, booksId }: BooksTx,
  month: string,
  yearBegins: number,
): Promise<readonly PaidRow[]> {
  const first = `${month}-01`;
  if (!isEarlyInYear(first, yearBegins)) return [];
  const digits = digitsOfYearBefore(first, yearBegins).map((each) => `%${each}%`);
  const rows = await rowsOf(
    tx,
    PaidRow,
    sql`select l.date, abs(l.amount) as amount, l.description || ' ' || coalesce(l.reference, '') as said
        from lines l
        join decision_lines dl on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
        join accounts a on a.books_id = dl.books_id and a.id = dl.account_id
          and a.type in ('income', 'expense')
        where l.books_id = ${booksId} and l.is_here and ${inMonth(sql`l.date`, month)}
          and (l.description like any (${sql.param(digits)}::text[])
            or l.reference like any (${sql.param(digits)}::text[]))`,
  );
  return rows.filter(({ said, date }) => namesYearBefore(said, date, yearBegins));
}
type PaidRow = z.infer<typeof PaidRow>;

/** Entries of the month that came after its tax was reported, also those that count on a later day. */
function afterReport(booksId: BooksId, month: string): SQL {
  const day = sql`coalesce(e.bank_date, e.date)`;
  return sql`select ${columns({
    count,
    amount: sql`sum((select sum(abs(g.amount)) / 2 from legs g
      where g.books_id = e.books_id and g.entry_id = e.id))::bigint`,
    oldest: sql`min(${day})`,
  })}
    from entries e
    where e.books_id = ${booksId} and not e.is_void
      -- Each by its own index, which no condition on both days together can use.
      and (e.bank_date is null and ${inMonth(sql`e.date`, month)} or ${inMonth(sql`e.bank_date`, month)})
      -- No entry is looked at where nothing was reported.
      and (select count(*) from tax_returns r where r.books_id = ${booksId} and r.is_here
        and r.to_date >= ${`${month}-01`}) > 0
      and exists (select from tax_returns r where r.books_id = e.books_id and r.is_here
        and r.to_date >= ${day} and e.step > r.step)`;
}

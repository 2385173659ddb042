import { addDays } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { settledOn, timesCounted } from '../../db/standingOn.ts';
import { statedBalances } from '../proof/statedBalances.ts';
import { archiveTables, carriedColumns } from './archiveTables.ts';

/** The days of an archive. */
export interface ArchivePeriod {
  readonly from: string;
  readonly to: string;
}

/** The table in which the rows of an archive's file are gathered. */
export const gatheredIn = (name: string) => `out_${name}`;

const out = (name: string): SQL => sql.identifier(gatheredIn(name)) as unknown as SQL;

/**
 * Gathers all that an archive of a period holds in tables of this transaction. What was before the period is brought
 * forward: bank accounts with an opening balance, open documents with what was open of them, what the bank had not
 * reported yet as it was entered, and all other balances in one journal on the day before.
 *
 * By the books' last day, balances, open documents and open lines are those of the books, whatever the period.
 */
export async function gatherArchive(
  tx: Tx,
  booksId: BooksId,
  { from, to }: ArchivePeriod,
): Promise<void> {
  for (const table of archiveTables) {
    const columns = sql.join(
      carriedColumns(table).map((column) => sql.identifier(column.name)),
      sql`, `,
    );
    await tx.execute(
      sql`create temporary table ${out(table.name)} on commit drop as
          select ${columns} from ${table.table} with no data`,
    );
  }
  await gatherThings(tx, booksId);
  await gatherEntries(tx, booksId, { from, to });
  await gatherDocuments(tx, booksId, { from, to });
  await gatherLines(tx, booksId, { from, to });
  await gatherDecisions(tx, booksId);
  await bringForward(tx, booksId, { from, to });
  await gatherBatches(tx, booksId, { from, to });
  await gatherAttachments(tx, booksId);
}

/** Copies rows of a table that a condition on row `t` is true of. */
async function copy(tx: Tx, name: string, booksId: BooksId, where: SQL): Promise<void> {
  const table = archiveTables.find((each) => each.name === name) ?? fail('BOOKS_UNKNOWN');
  const columns = sql.join(
    carriedColumns(table).map((column) => sql`t.${sql.identifier(column.name)}`),
    sql`, `,
  );
  await tx.execute(
    sql`insert into ${out(name)} select ${columns} from ${table.table} t
        where t.books_id = ${booksId} and ${where}`,
  );
  // The planner knows nothing of a new table, and would walk through it once for each row of another.
  await tx.execute(sql`analyze ${out(name)}`);
}

/** What books are made of, whatever the period. */
async function gatherThings(tx: Tx, booksId: BooksId): Promise<void> {
  const kept = [
    'accounts',
    'tax_codes',
    'payees',
    'cost_objects',
    'bank_accounts',
    'exchange_rates',
    'rules',
    'journal_plans',
  ];
  for (const name of kept) await copy(tx, name, booksId, sql`t.is_here`);
  await copy(tx, 'aliases', booksId, sql`t.is_live`);
  for (const name of ['noise_words', 'learned_stems']) await copy(tx, name, booksId, sql`true`);
  await copy(tx, 'tax_rates', booksId, sql`t.tax_code_id in (select id from ${out('tax_codes')})`);
}

/** Entries of the period, and those entered by hand before it that no line of before it is tied to. */
async function gatherEntries(tx: Tx, booksId: BooksId, period: ArchivePeriod): Promise<void> {
  const { from, to } = period;
  const waited = sql`t.content is not null and exists (
    select from legs g where g.books_id = t.books_id and g.entry_id = t.id and g.role = 'bank'
      and not exists (
        select from decision_legs x
        join decision_lines dl
          on dl.books_id = x.books_id and dl.decision_id = x.decision_id and dl.is_live
        join lines l on l.books_id = dl.books_id and l.id = dl.line_id and l.date < ${from}
        where x.books_id = g.books_id and x.leg_id = g.id and x.is_live))
    and (t.kind <> 'journal' or coalesce((t.content ->> 'isAwaited')::boolean, false))`;
  await copy(
    tx,
    'entries',
    booksId,
    sql`not t.is_void and ${timesCounted(sql`t`, to)} = 1 and (t.date >= ${from} or (${waited}))`,
  );
  for (const column of ['replaces', 'reverses'].map((name) => sql.identifier(name))) {
    await tx.execute(
      sql`update ${out('entries')} e set ${column} = null where ${column} is not null
          and not exists (select from ${out('entries')} o where o.id = e.${column})`,
    );
  }
  await copy(tx, 'legs', booksId, sql`t.entry_id in (select id from ${out('entries')})`);
  await tx.execute(sql`create index on ${out('legs')} (entry_id)`);
  await copy(tx, 'client_shares', booksId, sql`t.leg_id in (select id from ${out('legs')})`);
}

/** Selects what was settled of document `d` before a day, and what stood in the books for that. */
const settledBefore = (from: string) => sql`(
  select coalesce(sum(a.amount), 0)::bigint as amount,
    coalesce(sum(coalesce(a.worth, a.amount)), 0)::bigint as worth
  from allocations a
  where a.books_id = d.books_id and a.document_id = d.id and a.is_live and ${settledOn} < ${from})`;

/** Documents of the period as they are; those of before with what was open of them, against opening equity. */
async function gatherDocuments(tx: Tx, booksId: BooksId, { from }: ArchivePeriod): Promise<void> {
  await copy(tx, 'documents', booksId, sql`t.entry_id in (select id from ${out('entries')})`);
  await tx.execute(
    sql`create temporary table brought_documents on commit drop as
        select d.id, d.amount - s.amount as amount, d.worth - s.worth as worth
        from documents d
        join entries t on t.books_id = d.books_id and t.id = d.entry_id
        cross join lateral ${settledBefore(from)} s
        where d.books_id = ${booksId} and d.amount <> s.amount and t.date < ${from}
          and not t.is_void and ${timesCounted(sql`t`, addDays(from, -1))} = 1
          and not exists (select from ${out('documents')} o where o.id = d.id)`,
  );
  await copy(tx, 'documents', booksId, sql`t.id in (select id from brought_documents)`);
  await tx.execute(
    sql`update ${out('documents')} d set amount = b.amount, worth = b.worth, lines = '[]'
        from brought_documents b where b.id = d.id`,
  );
  await tx.execute(
    sql`insert into ${out('entries')} (id, date, kind, payee_id, number, note, exchange)
        select d.entry_id, d.date, 'document', d.payee_id, d.number, 'Brought forward', d.exchange
        from ${out('documents')} d join brought_documents b on b.id = d.id`,
  );
  await tx.execute(
    sql`insert into ${out('legs')}
          (id, entry_id, position, account_id, amount, original, role, is_recharged)
        select gen_random_uuid(), d.entry_id, side.position, side.account_id,
          side.sign * coalesce(d.worth, d.amount),
          case when side.position = 0 and d.worth is not null then d.amount end, side.role, false
        from ${out('documents')} d
        join brought_documents b on b.id = d.id
        cross join lateral (
          select 0 as position, a.id as account_id, 1 as sign, 'control' as role
            from ${out('accounts')} a where a.role = d.side
          union all
          select 1, a.id, -1, 'base' from ${out('accounts')} a where a.role = 'openingEquity') side`,
  );
}

/** Lines of the period, and older ones that nobody has decided. */
async function gatherLines(tx: Tx, booksId: BooksId, { from, to }: ArchivePeriod): Promise<void> {
  await copy(
    tx,
    'lines',
    booksId,
    sql`t.is_here and t.date <= ${to} and (t.date >= ${from} or not exists (
      select from decision_lines dl
      where dl.books_id = t.books_id and dl.line_id = t.id and dl.is_live))`,
  );
}

/** Decisions of which all is in the archive: their lines, entries, documents and originals. */
async function gatherDecisions(tx: Tx, booksId: BooksId): Promise<void> {
  const ties = sql`(
    select dl.line_id as id from decision_lines dl
      where dl.books_id = t.books_id and dl.decision_id = t.id and dl.is_live
    union all select x.leg_id from decision_legs x
      where x.books_id = t.books_id and x.decision_id = t.id and x.is_live
    union all select a.document_id from allocations a
      where a.books_id = t.books_id and a.decision_id = t.id and a.is_live
    union all select t.copy_of where t.copy_of is not null)`;
  await tx.execute(
    sql`create temporary table gathered on commit drop as
        select id from ${out('lines')} union all select id from ${out('legs')}
        union all select id from ${out('documents')}`,
  );
  await tx.execute(sql`create index on gathered (id)`);
  await tx.execute(sql`analyze gathered`);
  await copy(
    tx,
    'decisions',
    booksId,
    sql`exists (select from ${ties} tie)
      and not exists (select from ${ties} tie
        where not exists (select from gathered g where g.id = tie.id))`,
  );
  for (const name of ['decision_lines', 'decision_legs', 'allocations']) {
    await copy(
      tx,
      name,
      booksId,
      sql`t.is_live and t.decision_id in (select id from ${out('decisions')})`,
    );
  }
}

/** Brings forward what balances are beside the entries that were gathered. */
async function bringForward(tx: Tx, booksId: BooksId, { from, to }: ArchivePeriod): Promise<void> {
  const before = addDays(from, -1);
  await tx.execute(
    sql`create temporary table brought on commit drop as
        select coalesce(b.account_id, l.account_id) as account_id,
          (coalesce(b.amount, 0) - coalesce(l.amount, 0))::bigint as amount,
          (coalesce(b.own, 0) - coalesce(l.own, 0))::bigint as own
        from (
          select account_id, sum(amount) as amount, sum(own) as own from movements
          where books_id = ${booksId} and date <= ${to} group by 1) b
        full join (
          select coalesce(a.merged_into, a.id) as account_id, sum(g.amount) as amount,
            sum(coalesce(g.original, g.amount)) as own
          from ${out('legs')} g join ${out('accounts')} a on a.id = g.account_id
          group by 1) l using (account_id)`,
  );
  await tx.execute(sql`analyze ${out('legs')}, brought`);
  await tx.execute(
    sql`create temporary table opened on commit drop as
        select b.id as bank_account_id, gen_random_uuid() as entry_id, gen_random_uuid() as leg_id,
          b.account_id, coalesce(f.amount, 0) as amount,
          case when b.currency is not null then coalesce(f.own, 0) end as original
        from ${out('bank_accounts')} b left join brought f on f.account_id = b.account_id
        where not exists (select from ${out('entries')} e where e.opening_of = b.id)
          and (coalesce(f.amount, 0) <> 0 or coalesce(f.own, 0) <> 0 or exists (
            select from entries e where e.books_id = ${booksId} and e.opening_of = b.id
              and not e.is_void))`,
  );
  const equity = sql`(select id from ${out('accounts')} where role = 'openingEquity')`;
  const entryColumns = sql`(id, date, kind, opening_of, note)`;
  const legColumns = sql`(id, entry_id, position, account_id, amount, original, role, is_recharged)`;
  await tx.execute(
    sql`insert into ${out('entries')} ${entryColumns}
        select entry_id, ${before}::date, 'opening', bank_account_id, 'Brought forward' from opened`,
  );
  await tx.execute(
    sql`insert into ${out('legs')} ${legColumns}
        select leg_id, entry_id, 0, account_id, amount, original, 'bank', false from opened
        union all
        select gen_random_uuid(), entry_id, 1, ${equity}, -amount, null, 'base', false from opened`,
  );
  await tx.execute(
    sql`insert into ${out('client_shares')} (leg_id, client_id, amount)
        select o.leg_id, s.client_id, s.amount
        from opened o
        join ${out('bank_accounts')} b on b.id = o.bank_account_id and b.kind = 'clientMoney'
        cross join lateral (
          select client_id, sum(amount)::bigint as amount from (
            select client_id, amount from client_movements
              where books_id = ${booksId} and account_id = o.account_id and date <= ${to}
            union all
            select coalesce(p.merged_into, p.id), -c.amount from ${out('client_shares')} c
              join ${out('legs')} g on g.id = c.leg_id and g.account_id = o.account_id
              join ${out('payees')} p on p.id = c.client_id) moved
          group by 1) s
        where s.amount <> 0`,
  );
  await tx.execute(
    sql`create temporary table journal on commit drop as
        select f.account_id, f.amount, f.own, b.currency from brought f
        left join ${out('bank_accounts')} b on b.account_id = f.account_id
        where not exists (select from opened o where o.account_id = f.account_id)
          and (f.amount <> 0 or (b.currency is not null and f.own <> 0))`,
  );
  await tx.execute(
    sql`with made as (
          insert into ${out('entries')} (id, date, kind, note)
          select gen_random_uuid(), ${before}::date, 'journal', 'Brought forward'
          where exists (select from journal) returning id)
        insert into ${out('legs')} ${legColumns}
        select gen_random_uuid(), made.id, (row_number() over ())::int - 1, j.account_id, j.amount,
          j.original, 'base', false
        from made cross join (
          select account_id, amount, case when currency is not null then own end as original
            from journal
          union all
          select ${equity}, -coalesce(sum(amount), 0)::bigint, null from journal) j`,
  );
}

/** One batch for each bank account, with what its bank stated. */
async function gatherBatches(tx: Tx, booksId: BooksId, { from, to }: ArchivePeriod): Promise<void> {
  const stated = (await statedBalances(tx, booksId)).filter(
    ({ date }) => date >= addDays(from, -1) && date <= to,
  );
  await tx.execute(
    sql`insert into ${out('batches')}
          (id, bank_account_id, file_name, from_date, to_date, line_count, new_count)
        select gen_random_uuid(), b.id, 'Archive', min(l.date), max(l.date), count(l.id)::int,
          count(l.id)::int
        from ${out('bank_accounts')} b
        left join ${out('lines')} l on l.bank_account_id = b.id and not l.is_own
        where l.id is not null or b.id = any(${sql.param(stated.map(({ id }) => id))}::uuid[])
        group by b.id`,
  );
  await tx.execute(
    sql`insert into ${out('sightings')} (batch_id, line_id, place)
        select b.id, l.id,
          (row_number() over (partition by b.id order by l.date, l.position, l.id))::int
        from ${out('lines')} l join ${out('batches')} b on b.bank_account_id = l.bank_account_id
        where not l.is_own`,
  );
  await tx.execute(
    sql`insert into ${out('day_balances')} (batch_id, date, amount)
        select b.id, s.date, s.amount
        from unnest(${sql.param(stated.map(({ id }) => id))}::uuid[],
          ${sql.param(stated.map(({ date }) => date))}::date[],
          ${sql.param(stated.map(({ amount }) => amount))}::bigint[]) as s (id, date, amount)
        join ${out('batches')} b on b.bank_account_id = s.id`,
  );
  // Up to the newest of them the bank has said something, whether or not lines reach as far.
  await tx.execute(
    sql`update ${out('batches')} b set closing = y.amount, closing_date = y.date
        from (select distinct on (batch_id) * from ${out('day_balances')}
          order by batch_id, date desc) y
        where y.batch_id = b.id`,
  );
}

/** The attachments of all that was gathered. */
async function gatherAttachments(tx: Tx, booksId: BooksId): Promise<void> {
  await copy(
    tx,
    'attachments',
    booksId,
    sql`(t.line_id in (select id from ${out('lines')})
      or t.document_id in (select id from ${out('documents')})
      or t.entry_id in (select id from ${out('entries')}))`,
  );
}

const DaysRow = z.object({ first: z.string().nullable(), last: z.string().nullable() });

/** From which day books have anything, and to which; null for empty ones. */
export async function daysOfBooks(tx: Tx, booksId: BooksId): Promise<ArchivePeriod | null> {
  const [row] = await rowsOf(
    tx,
    DaysRow,
    sql`select min(date) as first, max(date) as last from (
          select date from movements where books_id = ${booksId}
          union all select date from lines where books_id = ${booksId} and is_here) days`,
  );
  return row?.first && row.last ? { from: row.first, to: row.last } : null;
}

import { clockFixedAt } from '@zubrell/server/clock';
import { beginCommand } from '@zubrell/server/commands/beginCommand';
import { inBooks, type Tx } from '@zubrell/server/db/database';
import { changeBooks } from '@zubrell/server/modules/books/changeBooks';
import { ledgerRows } from '@zubrell/server/modules/ledger/ledgerRows';
import { accountTotals } from '@zubrell/server/modules/reports/accountTotals';
import { agedDocuments } from '@zubrell/server/modules/reports/agedDocuments';
import { cashFlow } from '@zubrell/server/modules/reports/cashFlow';
import { clearingItems } from '@zubrell/server/modules/reports/clearingItems';
import { groupedTotals } from '@zubrell/server/modules/reports/groupedTotals';
import { reportedElsewhere } from '@zubrell/server/modules/tax/fileTaxReturn';
import { taxDraft } from '@zubrell/server/modules/tax/taxReturns';
import { sql } from 'drizzle-orm';
import { type BenchBooks, makeBenchBooks } from './benchBooks.ts';
import { type Benchmark, median, timed } from './ratio.ts';
import { sized } from './sized.ts';

const ENTRIES = sized(100_000, 600);
const ROUNDS = sized(9, 2);
const AIM = 500;

/** Three years that are closed, and one that is open. */
const FIRST = '2023-01-01';
const DAYS = 1_180;
const YEAR = { from: '2025-10-01', to: '2026-03-25' };
const CLOSED = { from: '2023-01-01', to: '2023-12-31' };
const DAY = YEAR.to;
/** Up to here tax was reported, and the books are closed. */
const REPORTED = '2025-09-30';
const TODAY = '2026-04-08';

/** How long each report takes in books with many entries, and against a bare sum over all legs. */
export const reports: Benchmark = async () => {
  const books = await makeBenchBooks();
  try {
    await fill(books);
    await inBooks(books.database, books.booksId, async (tx) =>
      reportedElsewhere(
        await beginCommand(tx, { clock: clockFixedAt(TODAY) }, books.booksId, books.actor),
        REPORTED,
      ),
    );
    await inBooks(books.database, books.booksId, async (tx) =>
      changeBooks(
        await beginCommand(tx, { clock: clockFixedAt(TODAY) }, books.booksId, books.actor),
        { lockDate: REPORTED },
      ),
    );
    const { booksId } = books;
    const half = async (work: (tx: Tx) => Promise<unknown>): Promise<number> => {
      const times: number[] = [];
      for (let round = 0; round < ROUNDS; round += 1) {
        times.push(
          await timed(async () => {
            await inBooks(books.database, booksId, work);
          }),
        );
      }
      return median(times);
    };
    const bare = await half((tx) =>
      tx.execute(sql`select sum(amount) from legs where books_id = ${booksId}`),
    );
    const asked: readonly (readonly [string, (tx: Tx) => Promise<unknown>])[] = [
      ['profit and loss, half a year', (tx) => accountTotals(tx, booksId, YEAR)],
      ['profit and loss, a closed year', (tx) => accountTotals(tx, booksId, CLOSED)],
      [
        'balance sheet and trial balance',
        (tx) => accountTotals(tx, booksId, { from: DAY, to: DAY }),
      ],
      ['cash', (tx) => cashFlow(tx, booksId, YEAR)],
      ['by payee', (tx) => groupedTotals(tx, booksId, { ...YEAR, by: 'payee' })],
      ['by job', (tx) => groupedTotals(tx, booksId, { ...YEAR, by: 'job' })],
      ['payables by age', (tx) => agedDocuments(tx, booksId, { side: 'payables', on: DAY })],
      ['tax return', (tx) => taxDraft(tx, booksId, YEAR)],
      ['journal, first page', (tx) => ledgerRows(tx, booksId, { ...YEAR, order: 'date' })],
      [
        'general ledger, first page',
        (tx) => ledgerRows(tx, booksId, { ...YEAR, order: 'account' }),
      ],
      ['suspense', (tx) => clearingItems(tx, booksId, DAY)],
    ];
    const lines: string[] = [];
    for (const [name, work] of asked) {
      const time = await half(work);
      lines.push(
        `  ${name}: half within ${time.toFixed(0)} ms, ${(time / bare).toFixed(1)} times a bare sum` +
          ` (aim: ${AIM} ms)  ${time <= AIM ? 'met' : 'NOT MET'}`,
      );
    }
    return `reports on ${ENTRIES} entries; a bare sum over all legs ${bare.toFixed(0)} ms\n${lines.join('\n')}\n`;
  } finally {
    await books.drop();
  }
};

/** Writes entries with a bank, a base and a tax leg each, over all days and many accounts and payees. */
async function fill({ owner, booksId }: BenchBooks): Promise<void> {
  await owner.transaction(async (tx) => {
    await tx.execute(sql`select set_config('app.books_id', ${booksId}, true)`);
    await tx.execute(
      sql`insert into payees (books_id, id, name, name_key, kind)
          select ${booksId}, gen_random_uuid(), 'Payee ' || n, 'payee ' || n, 'supplier'
          from generate_series(1, 400) n`,
    );
    await tx.execute(
      sql`create temporary table made on commit drop as
          select gen_random_uuid() as id, n, (${FIRST}::date + n % ${DAYS}::int) as date,
            (array(select id from payees where books_id = ${booksId} order by name))[1 + n % 400] as payee_id,
            n % 5 = 0 as is_in, (1200 + n % 90000)::bigint as gross
          from generate_series(1, ${ENTRIES}::int) n`,
    );
    await tx.execute(
      sql`insert into entries (books_id, id, date, kind, payee_id, step)
          select ${booksId}, id, date, 'line', payee_id, n from made`,
    );
    const bank = sql`(select account_id from bank_accounts where books_id = ${booksId} limit 1)`;
    const accounts = (type: 'income' | 'expense') =>
      sql`(array(select id from accounts where books_id = ${booksId} and type = ${type} order by code))`;
    const code = sql`(select id from tax_codes where books_id = ${booksId} and name = '20 %')`;
    const role = (name: 'inputTax' | 'outputTax') =>
      sql`(select id from accounts where books_id = ${booksId} and role = ${name})`;
    const tax = sql`round(m.gross / 6.0)::bigint`;
    const sign = sql`case when m.is_in then 1 else -1 end`;
    await tx.execute(
      sql`insert into legs (books_id, id, entry_id, position, account_id, amount, role, tax_code_id, tax_side, taxable)
          select ${booksId}::uuid, gen_random_uuid(), m.id, 0, ${bank}, ${sign} * m.gross, 'bank', null::uuid, null, null::bigint from made m
          union all select ${booksId}::uuid, gen_random_uuid(), m.id, 1,
            case when m.is_in then ${accounts('income')}[1 + m.n % 4] else ${accounts('expense')}[1 + m.n % 14] end,
            -${sign} * (m.gross - ${tax}), 'base', ${code}, case when m.is_in then 'output' else 'input' end,
            -${sign} * (m.gross - ${tax}) from made m
          union all select ${booksId}::uuid, gen_random_uuid(), m.id, 2,
            case when m.is_in then ${role('outputTax')} else ${role('inputTax')} end,
            -${sign} * ${tax}, 'tax', ${code}, case when m.is_in then 'output' else 'input' end, null from made m`,
    );
  });
  await owner.execute(sql`analyze entries, legs, payees`);
}

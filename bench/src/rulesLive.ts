import { addDays } from '@zubrell/core/dates/calendarDate';
import { bankLine } from '@zubrell/core/formats/bankFile';
import { writeOfx } from '@zubrell/core/formats/write/writeOfx';
import { wholeLineCoding } from '@zubrell/core/ledger/coding';
import type { RuleBody } from '@zubrell/core/propose/rule/rule';
import { codingRule } from '@zubrell/core/testing/rules';
import { sampleStatement } from '@zubrell/core/testing/sampleFiles';
import { clockFixedAt } from '@zubrell/server/clock';
import { beginCommand } from '@zubrell/server/commands/beginCommand';
import { inBooks, rowsOf } from '@zubrell/server/db/database';
import { IdRow } from '@zubrell/server/db/rows';
import { openReaderPool } from '@zubrell/server/modules/intake/readInThread';
import { postLines } from '@zubrell/server/modules/lines/postLines';
import { renewProposals } from '@zubrell/server/modules/proposals/renewProposals';
import { createRule } from '@zubrell/server/modules/rules/changeRules';
import { listRules } from '@zubrell/server/modules/rules/listRules';
import { ruleTurns } from '@zubrell/server/modules/rules/ruleTurns';
import { tryRule } from '@zubrell/server/modules/rules/tryRule';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { type BenchBooks, makeBenchBooks } from './benchBooks.ts';
import { median, timed } from './ratio.ts';
import { sized } from './sized.ts';

const PAYEES = sized(250, 8);
const EACH = sized(400, 30);
/** What is posted of each payee, so that its other lines are proposed for. */
const POSTED = EACH / 2;
const TRY_AIM = 150;
const RENEW_AIM = 200;
const services = { clock: clockFixedAt('2026-04-08') };

/** Rules on books with 100,000 lines: the try-out for each key, saving, the list; and a posted stack. */
export async function rulesLive(): Promise<string> {
  const books = await makeBenchBooks();
  const readers = openReaderPool();
  const said = [`rules in books with ${PAYEES * EACH} lines`];
  const note = (what: string, value: number, aim?: number) =>
    said.push(
      `  ${what}: ${value.toFixed(0)} ms` +
        (aim === undefined ? '' : ` (aim: under ${aim})  ${value < aim ? 'met' : 'NOT MET'}`),
    );
  try {
    const batchId = await books.upload(once(file()));
    await books.keep(batchId, readers.readFile);
    await books.owner.execute(sql`analyze`);
    const accountId = await account(books);
    const attempt = (text: string) =>
      timed(() =>
        inTx(books, (tx) =>
          tryRule(tx, books.booksId, { ruleId: null, body: body(text, accountId) }),
        ),
      );
    note('first try-out, reading all lines', await attempt(name(0)));
    const typed = Array.from({ length: 15 }, (_, at) => name(at).slice(0, 2 + (at % 8)));
    const spent: number[] = [];
    for (const text of typed) spent.push(await attempt(text));
    note('a try-out as one types, median', median(spent), TRY_AIM);
    note('the slowest of them', Math.max(...spent), TRY_AIM);
    await postHalf(books, accountId);
    note(
      'posting a stack of 200',
      await post(books, accountId, `${name(2)} KEN`, { from: 1, to: POSTED }),
    );
    const renew = await timed(() =>
      inTx(books, (tx) => renewProposals(tx, books.booksId, [`${name(2)} KEN`])),
    );
    note('of that, proposing its 200 open look-alikes anew', renew, RENEW_AIM);
    // Whoever saves a rule has tried it before.
    await attempt(name(1));
    const save = await timed(() =>
      inTx(books, async (tx) =>
        createRule(await beginCommand(tx, services, books.booksId, books.actor), {
          name: 'one',
          isOn: true,
          body: body(name(1), accountId),
          seenStep: Number.MAX_SAFE_INTEGER,
        }),
      ),
    );
    note('saving a rule that takes 200 open lines', save);
    note(
      'the list of rules with their records',
      await timed(() => inTx(books, (tx) => listRules(tx, books.booksId))),
    );
    note(
      'which of them get their turn',
      await timed(() => inTx(books, (tx) => ruleTurns(tx, books.booksId))),
    );
  } finally {
    await readers.close();
    await books.drop().catch(() => undefined);
  }
  return `${said.join('\n')}\n`;
}

const inTx = <T>(
  { database, booksId }: BenchBooks,
  work: Parameters<typeof inBooks<T>>[2],
): Promise<T> => inBooks(database, booksId, work);

async function* once(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
}

/** A made-up name for a number. */
function name(number: number): string {
  const letters = 'BCDFGHKLMNPRSTVW';
  const one = letters[number % 16] ?? '';
  const two = letters[Math.floor(number / 16) % 16] ?? '';
  return `${one}A${two}OLD${two}U`;
}

function file(): Uint8Array {
  const lines = Array.from({ length: PAYEES * EACH }, (_, index) => {
    const payee = index % PAYEES;
    return bankLine({
      place: index,
      date: addDays('2020-06-01', Math.floor(index / 60)),
      amount: -(((payee * 37) % 4_000) + 100 + (index % 5)),
      description: `CRD PUR ${name(payee)} KEN ${index}`,
      bankId: `F${index}`,
    });
  });
  const statement = { ...sampleStatement(1), lines, opening: null, closing: null };
  return new TextEncoder().encode(writeOfx([statement], 'EUR'));
}

function body(text: string, accountId: string): RuleBody {
  const { takes, result, after } = codingRule('one', text, accountId);
  return { takes, result, after };
}

async function account(books: BenchBooks): Promise<string> {
  const [row] = await inTx(books, (tx) =>
    rowsOf(
      tx,
      IdRow,
      sql`select id from accounts where books_id = ${books.booksId} and code = '6010'`,
    ),
  );
  return row?.id ?? '';
}

const PostHalfRow = z.object({ id: z.string(), stem: z.string() });

/** Posts the first half of all payees but one, and has the rest proposed for. */
async function postHalf(books: BenchBooks, accountId: string): Promise<void> {
  await inTx(books, async (tx) => {
    const rows = await rowsOf(
      tx,
      PostHalfRow,
      sql`select id, stem from (
            select id, stem, row_number() over (partition by stem order by date, position) as no
            from lines where books_id = ${books.booksId} and stem <> ${`${name(2)} KEN`}) numbered
          where no <= ${POSTED}`,
    );
    await postLines(await beginCommand(tx, services, books.booksId, books.actor), {
      target: { lineIds: rows.map(({ id }) => id) },
      coding: wholeLineCoding(accountId, null, null),
      seenStep: Number.MAX_SAFE_INTEGER,
    });
    await renewProposals(tx, books.booksId, [...new Set(rows.map(({ stem }) => stem))]);
  });
  await books.database.execute(
    sql`select graphile_worker.complete_jobs(array_agg(id)) from graphile_worker.jobs`,
  );
  await books.owner.execute(sql`analyze`);
  // The first command after so large a step learns from all of it; those after it are what is measured.
  await post(books, accountId, `${name(3)} KEN`, { from: POSTED + 1, to: POSTED + 1 });
}

/** Posts lines of a stem, by their places in time. @returns how long it took, in milliseconds */
async function post(
  books: BenchBooks,
  accountId: string,
  stem: string,
  { from, to }: { readonly from: number; readonly to: number },
): Promise<number> {
  const rows = await inTx(books, (tx) =>
    rowsOf(
      tx,
      IdRow,
      sql`select id from lines where books_id = ${books.booksId} and stem = ${stem}
          order by date, position offset ${from - 1} limit ${to - from + 1}`,
    ),
  );
  return timed(() =>
    inTx(books, async (tx) =>
      postLines(await beginCommand(tx, services, books.booksId, books.actor), {
        target: { lineIds: rows.map(({ id }) => id) },
        coding: wholeLineCoding(accountId, null, null),
        seenStep: Number.MAX_SAFE_INTEGER,
      }),
    ),
  );
}

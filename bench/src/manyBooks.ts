import { randomInt, randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { bankLine } from '@zubrell/core/formats/bankFile';
import { writeOfx } from '@zubrell/core/formats/write/writeOfx';
import { controlRoles } from '@zubrell/core/ledger/accountRoles';
import { wholeLineCoding } from '@zubrell/core/ledger/coding';
import { sampleStatement } from '@zubrell/core/testing/sampleFiles';
import { say } from '@zubrell/core/words/say';
import { clockFixedAt, machineClock } from '@zubrell/server/clock';
import { beginCommand } from '@zubrell/server/commands/beginCommand';
import { freePort } from '@zubrell/server/db/cluster';
import { inBooks, rowsOf, type Tx } from '@zubrell/server/db/database';
import { IdRow } from '@zubrell/server/db/rows';
import { loadLookups } from '@zubrell/server/modules/books/lookups';
import { createPayee } from '@zubrell/server/modules/books/makeThings';
import { loadMoney } from '@zubrell/server/modules/books/money';
import { saveLearned } from '@zubrell/server/modules/habits/booksMemory';
import { openReaderPool } from '@zubrell/server/modules/intake/readInThread';
import { postingOf } from '@zubrell/server/modules/lines/postings';
import { postAsStep } from '@zubrell/server/modules/lines/postLines';
import { targetLines } from '@zubrell/server/modules/lines/targetLines';
import { openSession, sessionCookie } from '@zubrell/server/modules/session/sessions';
import { nextCommand } from '@zubrell/server/modules/steps/booksCommand';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { businesses, type MadeRow, rowsOf as rowsOfBusiness } from './accuracy/businesses.ts';
import { type BenchBooks, makeBenchBooks } from './benchBooks.ts';
import { copyBooks } from './copyBooks.ts';
import { memoryOf, startServer, untilThere } from './faults/brokenServers.ts';
import { sized } from './sized.ts';

const BOOKS = sized(200, 3);
/** So many decided lines has each, of so many payees. */
const LINES = sized(20_000, 300);
const PAYEES = sized(1_200, 30);
const ROUNDS = 2;
/** Aims: the most memory of the server, in MB, and the longest to a first proposal, in milliseconds. */
const MOST_MEMORY = 700;
const MOST_TIME = 300;
const services = { clock: clockFixedAt('2027-02-01') };

/**
 * Visits many books in random order, twice, on one server: in each a line comes in by hand and is proposed for.
 *
 * The books have lines of their own in the database, but the same wordings, so that making them does not take hours.
 */
export async function manyBooks(): Promise<string> {
  const dataFolder = mkdtempSync(join(tmpdir(), 'zubrell-many-'));
  chmodSync(dataFolder, 0o755);
  // The name of the database that servers of benchmarks are started on.
  const books = await makeBenchBooks({ dataFolder, database: 'faults' });
  try {
    const rows = madeRows();
    await decideAll(books, rows);
    const all = [books.booksId, ...(await copyBooks(books.owner, books.booksId, BOOKS - 1))];
    const server = startServer(dataFolder, await freePort(), null);
    try {
      await untilThere(server.url);
      const place = `${server.url}/api/books`;
      const now = { clock: machineClock };
      const session = await openSession(books.database, now, books.actor.userId);
      const cookie = `${sessionCookie}=${session}`;
      const visits = [];
      let proposed = 0;
      for (let round = 0; round < ROUNDS; round += 1) {
        const times: number[] = [];
        for (const booksId of shuffled(all)) {
          const row = rows[randomInt(rows.length)];
          const path = `${place}/${booksId}`;
          if (!row) continue;
          const { took, isProposed } = await visit(path, cookie, books.bankAccountId, row);
          times.push(took);
          if (isProposed) proposed += 1;
        }
        visits.push(times.sort((one, other) => one - other));
      }
      return told(visits, proposed, memoryOf(server.pid()).most, server.ended().length);
    } finally {
      await server.stop();
    }
  } finally {
    await books.drop();
    rmSync(dataFolder, { recursive: true, force: true });
  }
}

function told(
  visits: readonly (readonly number[])[],
  proposed: number,
  most: number,
  ended: number,
): string {
  const at = (times: readonly number[], share: number) =>
    Math.round(times[Math.min(times.length - 1, Math.floor(times.length * share))] ?? 0);
  const said = visits.map((times, round) => {
    const isMet = at(times, 0.95) <= MOST_TIME;
    return (
      `  visit ${round + 1}, until a line that comes in is proposed for: half within ${at(times, 0.5)} ms, ` +
      `95 % within ${at(times, 0.95)} ms, the longest ${at(times, 1)} ms (aim: ${MOST_TIME})  ` +
      `${isMet ? 'met' : 'NOT MET'}`
    );
  });
  const isMet = most <= MOST_MEMORY && ended === 0;
  return (
    `${BOOKS} books of ${LINES} decided lines on one server, each visited ${ROUNDS} times in random order, ` +
    `${proposed} lines proposed for\n` +
    `${said.join('\n')}\n` +
    `  the server’s memory at its peak: ${Math.round(most)} MB (aim: ${MOST_MEMORY})  ${isMet ? 'met' : 'NOT MET'}\n`
  );
}

/** A business with as many payees and lines as wanted. */
function madeRows(): MadeRow[] {
  const wholesale = businesses.find(({ name }) => name === 'wholesale');
  if (!wholesale) throw new Error('the wholesale is gone');
  const mix = { ...wholesale.mix, payees: PAYEES, fresh: 10, months: 24 };
  return rowsOfBusiness({ ...wholesale, mix }, 1).slice(0, LINES);
}

/** Keeps all rows as lines and posts them, each as its business did. */
async function decideAll(books: BenchBooks, rows: readonly MadeRow[]): Promise<void> {
  const { database, booksId, actor } = books;
  const readers = openReaderPool();
  await books.keep(await books.upload(once(fileOf(rows))), readers.readFile);
  await readers.close();
  await inBooks(database, booksId, async (tx) => {
    const accounts = await rowsOf(
      tx,
      IdRow,
      sql`select a.id from accounts a
          where a.books_id = ${booksId} and a.is_here and coalesce(a.role, '') <> all(${sql.param(['suspense', ...controlRoles])}::text[])
            and not exists (select from bank_accounts b where b.books_id = a.books_id and b.account_id = a.id)
          order by a.code`,
    );
    const codes = [...new Set(rows.map(({ account }) => account))];
    const accountOf = (row: MadeRow) =>
      accounts[codes.indexOf(row.account) % accounts.length]?.id ?? '';
    let command = await beginCommand(tx, services, booksId, actor);
    const payees = new Map<string, string>();
    for (const { payee } of rows) {
      if (payees.has(payee)) continue;
      const { id } = await createPayee(command, { name: payee, kind: 'supplier' });
      payees.set(payee, id);
      command = nextCommand(command);
    }
    const lines = await linesInOrder(tx, booksId);
    const codings = rows.map((row) =>
      wholeLineCoding(accountOf(row), payees.get(row.payee) ?? null, null),
    );
    const target = { lineIds: lines.map(({ id }) => id) };
    const found = await targetLines({ tx, booksId }, 'EUR', target, Number.MAX_SAFE_INTEGER);
    const byId = new Map(found.lines.map((line) => [line.id, line]));
    const lookups = await loadLookups(tx, booksId, codings);
    const money = await loadMoney(tx, booksId, found.lines);
    const postings = lines.flatMap(({ id }, at) => {
      const [line, coding] = [byId.get(id), codings[at]];
      return line && coding ? [postingOf(line, coding, lookups, money)] : [];
    });
    await postAsStep(command, { kind: 'post', way: 'stack', words: say`Posted`, postings });
  });
  await inBooks(database, booksId, (tx) => saveLearned(tx, booksId));
  await database.execute(
    sql`select graphile_worker.complete_jobs(array_agg(id)) from graphile_worker.jobs`,
  );
}

function linesInOrder(tx: Tx, booksId: string): Promise<{ id: string }[]> {
  return rowsOf(
    tx,
    IdRow,
    sql`select id from lines where books_id = ${booksId} and is_here order by date, position`,
  );
}

async function* once(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
}

function fileOf(rows: readonly MadeRow[]): Uint8Array {
  const lines = rows.map(({ date, amount, description, reference }, place) =>
    bankLine({ place, date, amount, description, reference, bankId: `F${place}` }),
  );
  const statement = { ...sampleStatement(1), lines, opening: null, closing: null };
  return new TextEncoder().encode(writeOfx([statement], 'EUR'));
}

/** Writes a line by hand. @returns how long it took until it was proposed for, in milliseconds, and whether it was */
async function visit(
  path: string,
  cookie: string,
  bankAccountId: string,
  { description }: MadeRow,
): Promise<{ readonly took: number; readonly isProposed: boolean }> {
  const mark = randomUUID().slice(0, 8);
  const began = performance.now();
  const added = await fetch(`${path}/bank-accounts/${bankAccountId}/lines`, {
    method: 'POST',
    headers: { cookie, 'content-type': 'application/json', 'idempotency-key': randomUUID() },
    body: JSON.stringify({
      date: '2027-01-15',
      amount: -4_850,
      description: `${description} ${mark}`,
      reference: null,
    }),
  });
  if (!added.ok) throw new Error(`a line was refused: ${await added.text()}`);
  // It is answered once the line is proposed for.
  const took = performance.now() - began;
  const lanes = z
    .object({ ready: z.int(), check: z.int(), blank: z.int() })
    .parse(await (await fetch(`${path}/lanes`, { headers: { cookie } })).json());
  return { took, isProposed: lanes.ready + lanes.check > 0 };
}

function shuffled<T>(values: readonly T[]): T[] {
  const left = [...values];
  return values.flatMap(() => left.splice(randomInt(left.length), 1));
}

import { addDays } from '@zubrell/core/dates/calendarDate';
import { bankLine } from '@zubrell/core/formats/bankFile';
import { writeOfx } from '@zubrell/core/formats/write/writeOfx';
import { wholeLineCoding } from '@zubrell/core/ledger/coding';
import { sampleStatement } from '@zubrell/core/testing/sampleFiles';
import { type Browser, Key } from '@zubrell/e2e/browser';
import { clockFixedAt } from '@zubrell/server/clock';
import { beginCommand } from '@zubrell/server/commands/beginCommand';
import { inBooks, rowsOf } from '@zubrell/server/db/database';
import { IdRow, StemRow } from '@zubrell/server/db/rows';
import { openReaderPool } from '@zubrell/server/modules/intake/readInThread';
import { postLines } from '@zubrell/server/modules/lines/postLines';
import { renewProposals } from '@zubrell/server/modules/proposals/renewProposals';
import { sweepLines, sweepSummary } from '@zubrell/server/modules/proposals/sweep';
import type { BooksCommand } from '@zubrell/server/modules/steps/booksCommand';
import { undoStep } from '@zubrell/server/modules/steps/undoStep';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { type BenchBooks, makeBenchBooks } from './benchBooks.ts';
import { inBrowser, type Opened } from './inBrowser.ts';
import { percentile } from './ratio.ts';
import { sized } from './sized.ts';

const PAYEES = sized(250, 12);
const EACH = sized(200, 15);
/** So many of each payee are posted before, so that the rest is Ready. */
const POSTED = 6;
const A_DAY = sized(180, 5);
/** So many lines are swept. */
const SWEPT = sized(5_000, 50);
const TODAY = '2026-04-08';
const services = { clock: clockFixedAt(TODAY) };

/** The Desk with 50,000 open lines: server, keys, scrolling, posting a stack, a sweep and its undo. */
export async function desk(): Promise<string> {
  const books = await makeBenchBooks();
  const readers = openReaderPool();
  const said: string[] = [`the Desk with ${PAYEES * EACH} open lines`];
  const note = (what: string, value: number, aim: number) =>
    said.push(
      `  ${what}: ${value.toFixed(0)} ms (aim: under ${aim})  ${value < aim ? 'met' : 'NOT MET'}`,
    );
  try {
    const batchId = await books.upload(once(file()));
    await books.keep(batchId, readers.readFile);
    await postFirst(books);
    const { database, booksId, actor } = books;
    await inBrowser({ ...services, database }, actor.userId, async ({ url, browser, headers }) => {
      const place = `${url}/api/books/${booksId}`;
      note('first screen from the server, median', await firstScreen(place, headers), 100);
      await browser.go(`/books/${booksId}/desk?lane=ready`);
      await browser.see(`${EACH} lines`);
      note('key press to paint, 95th percentile', await keyToPaint(browser), 50);
      note('frames while scrolling, 95th percentile', await scrolling(browser), 34);
      note(
        `posting a stack of ${EACH} until the next has the focus`,
        await postStack(browser),
        300,
      );
    });
  } finally {
    await readers.close();
    await books.drop().catch(() => undefined);
  }
  said.push(...(await sweepTimes()));
  return `${said.join('\n')}\n`;
}

async function* once(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
}

/** Lines of many payees in turn, each with words of its own. */
function file(): Uint8Array {
  const lines = Array.from({ length: PAYEES * (EACH + POSTED) }, (_, index) => {
    const payee = index % PAYEES;
    return bankLine({
      place: index,
      date: addDays('2025-06-01', Math.floor(index / A_DAY)),
      // A payee's amounts are much alike.
      amount: -(((payee * 37) % 4_000) + 100 + (index % 5)),
      description: `${words(payee)} ${index}`,
      bankId: `F${index}`,
    });
  });
  const statement = { ...sampleStatement(1), lines, opening: null, closing: null };
  return new TextEncoder().encode(writeOfx([statement], 'EUR'));
}

/** A made-up name for a number. */
function words(number: number): string {
  const letters = 'BCDFGHKLMNPRSTVW';
  const one = letters[number % 16] ?? '';
  const two = letters[Math.floor(number / 16) % 16] ?? '';
  return `${one}A${two}OLD${two}U ${two}E${one}KEN`;
}

async function postFirst({ database, owner, booksId, actor }: BenchBooks): Promise<void> {
  await inBooks(database, booksId, async (tx) => {
    const [account] = await rowsOf(
      tx,
      IdRow,
      sql`select id from accounts where books_id = ${booksId} and code = '6010'`,
    );
    const rows = await rowsOf(
      tx,
      IdRow,
      sql`select id from (
            select id, row_number() over (partition by stem order by date, position) as no from lines
            where books_id = ${booksId}) numbered
          where no <= ${POSTED}`,
    );
    await postLines(await beginCommand(tx, services, booksId, actor), {
      target: { lineIds: rows.map(({ id }) => id) },
      coding: wholeLineCoding(account?.id ?? '', null, null),
      seenStep: Number.MAX_SAFE_INTEGER,
    });
    const stems = await rowsOf(
      tx,
      StemRow,
      sql`select distinct stem from lines where books_id = ${booksId}`,
    );
    await renewProposals(
      tx,
      booksId,
      stems.map(({ stem }) => stem),
    );
  });
  // It would be done in the background: here it is done, before anything is measured.
  await database.execute(
    sql`select graphile_worker.complete_jobs(array_agg(id)) from graphile_worker.jobs`,
  );
  await owner.execute(sql`analyze`);
}

async function firstScreen(place: string, headers: Opened['headers']): Promise<number> {
  const times: number[] = [];
  for (let round = 0; round < 9; round += 1) {
    const began = performance.now();
    await Promise.all(
      [`${place}/lanes`, `${place}/stacks?lane=ready&grouping=lookAlikes`].map(async (address) => {
        const answer = await fetch(address, { headers });
        await answer.text();
      }),
    );
    times.push(performance.now() - began);
  }
  return percentile(times, 0.5);
}

/** From a key to the second frame after it, many times. */
async function keyToPaint({ driver }: Browser): Promise<number> {
  const times: number[] = await driver.executeAsyncScript(`
    const done = arguments[arguments.length - 1];
    const list = document.querySelector('[role=treegrid]');
    list.focus();
    const times = [];
    function press() {
      if (times.length === 120) return done(times);
      const began = performance.now();
      const key = times.length % 40 < 30 ? 'ArrowDown' : 'ArrowUp';
      list.dispatchEvent(new KeyboardEvent('keydown', { key, code: key, bubbles: true }));
      list.dispatchEvent(new KeyboardEvent('keyup', { key, code: key, bubbles: true }));
      requestAnimationFrame(() => setTimeout(() => {
        times.push(performance.now() - began);
        press();
      }, 0));
    }
    press();`);
  return percentile(times, 0.95);
}

async function scrolling({ driver }: Browser): Promise<number> {
  const times: number[] = await driver.executeAsyncScript(`
    const done = arguments[arguments.length - 1];
    const list = document.querySelector('[role=treegrid]');
    list.scrollTop = 0;
    const times = [];
    let before = performance.now();
    function frame(now) {
      times.push(now - before);
      before = now;
      if (times.length === 150) return done(times.slice(5));
      list.scrollTop += 90;
      requestAnimationFrame(frame);
    }
    requestAnimationFrame(frame);`);
  return percentile(times, 0.95);
}

async function postStack({ driver, keys, shift }: Browser): Promise<number> {
  await keys(Key.HOME);
  await driver.executeScript(`
    const list = document.querySelector('[role=treegrid]');
    list.focus();
    const first = () => document.querySelector('.desk-row.stack.current .name')?.textContent;
    const was = first();
    window.posted = new Promise((done) => {
      addEventListener('keydown', ({ key }) => {
        if (key !== 'Enter') return;
        const began = performance.now();
        const look = () => {
          const now = first();
          if (now && now !== was) requestAnimationFrame(() => done(performance.now() - began));
          else setTimeout(look, 1);
        };
        look();
      }, { capture: true });
    });`);
  await shift(Key.ENTER);
  return driver.executeAsyncScript(
    'const done = arguments[arguments.length - 1]; window.posted.then(done);',
  );
}

const DateRow = z.object({ date: z.string() });

const CountRow = z.object({ count: z.number() });

/** One sweep of many Ready lines and its undo, in books of its own, as the server does them. */
async function sweepTimes(): Promise<readonly string[]> {
  const books = await makeBenchBooks();
  const readers = openReaderPool();
  try {
    const batchId = await books.upload(once(file()));
    await books.keep(batchId, readers.readFile);
    await postFirst(books);
    const { database, booksId, actor } = books;
    const [upTo] = await inBooks(database, booksId, (tx) =>
      rowsOf(
        tx,
        DateRow,
        sql`select l.date from lines l join proposals p on p.books_id = l.books_id and p.line_id = l.id
            where l.books_id = ${booksId} and p.lane = 'ready' order by l.date, l.position
            offset ${SWEPT} limit 1`,
      ),
    );
    const scope = { to: addDays(upTo?.date ?? TODAY, -1) };
    const { seen } = await inBooks(database, booksId, (tx) => sweepSummary(tx, booksId, scope));
    const seconds = async (work: (command: BooksCommand) => Promise<number>, what: string) => {
      const began = performance.now();
      const lines = await inBooks(database, booksId, async (tx) =>
        work(await beginCommand(tx, services, booksId, actor)),
      );
      const taken = (performance.now() - began) / 1_000;
      const each = (taken / lines) * 5_000;
      return (
        `  ${what} of ${lines} lines: ${taken.toFixed(2)} s, for 5,000 ${each.toFixed(2)} s` +
        ` (aim: under 3)  ${each < 3 ? 'met' : 'NOT MET'}`
      );
    };
    let swept: number | null = null;
    const sweep = await seconds(async (command) => {
      const { done, step } = await sweepLines(command, {
        scope,
        without: [],
        seen,
        seenStep: Number.MAX_SAFE_INTEGER,
      });
      if (done.length === 0) throw new Error('nothing was swept');
      swept = step;
      return done.length;
    }, 'a sweep');
    const [{ count } = { count: 0 }] = await inBooks(database, booksId, (tx) =>
      rowsOf(
        tx,
        CountRow,
        sql`select count(*)::int as count from decisions where books_id = ${booksId} and step = ${swept}`,
      ),
    );
    const undone = await seconds(async (command) => {
      await undoStep(command, { step: swept, withLater: false });
      return count;
    }, 'the undo of the sweep');
    return [sweep, undone];
  } finally {
    await readers.close();
    await books.drop();
  }
}

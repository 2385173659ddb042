import { once } from 'node:events';
import { finished } from 'node:stream/promises';
import { writeOfx } from '@zubrell/core/formats/write/writeOfx';
import { sampleStatement } from '@zubrell/core/testing/sampleFiles';
import { copying, inBooks, rowsOf } from '@zubrell/server/db/database';
import { StemRow } from '@zubrell/server/db/rows';
import { openReaderPool } from '@zubrell/server/modules/intake/readInThread';
import { renewProposals } from '@zubrell/server/modules/proposals/renewProposals';
import { sql } from 'drizzle-orm';
import { from as copyFrom, to as copyTo } from 'pg-copy-streams';
import { z } from 'zod';
import { type BenchBooks, makeBenchBooks } from './benchBooks.ts';
import { sized } from './sized.ts';

const LINES = sized(100_000, 400);
const ROUNDS = sized(3, 1);
const AIM = 4;

/**
 * From a file's bytes to committed, duplicate-checked lines: 100,000 OFX lines, half of them here
 * already, against 100,000 that are there; beside it what COPY needs for as many rows into a table with the
 * same columns, indexes and constraints.
 */
export async function keepFile(): Promise<string> {
  const readers = openReaderPool();
  const times: { readonly ours: number; readonly peer: number; readonly proposals: number }[] = [];
  try {
    for (let round = 0; round < ROUNDS; round += 1) {
      const books = await makeBenchBooks();
      try {
        const keep = async (bytes: Uint8Array): Promise<number> => {
          const batchId = await books.upload(piecesOf(bytes));
          const began = performance.now();
          await books.keep(batchId, readers.readFile);
          return performance.now() - began;
        };
        await keep(ofxFrom(0));
        const ours = await keep(ofxFrom(LINES / 2));
        await checkCount(books, LINES * 1.5);
        times.push({ ours, peer: await copyTime(books), proposals: await proposalTime(books) });
      } finally {
        await books.drop();
      }
    }
  } finally {
    await readers.close();
  }
  const middle = [...times].sort((a, b) => a.ours / a.peer - b.ours / b.peer)[1] ?? times[0];
  const { ours = 0, peer = 1, proposals = 0 } = middle ?? {};
  const factor = ours / peer;
  return (
    `keeping ${LINES} OFX lines, half of them here, against ${LINES} there\n` +
    `  ours ${ours.toFixed(0)} ms, COPY of the same rows ${peer.toFixed(0)} ms;` +
    ` proposals apart ${proposals.toFixed(0)} ms\n` +
    `  ratio ${factor.toFixed(2)} (aim: at most ${AIM})  ${factor <= AIM ? 'met' : 'NOT MET'}` +
    `; rounds: ${times.map((each) => (each.ours / each.peer).toFixed(2)).join(', ')}\n`
  );
}

/** An OFX file of lines that begin at that one of an endless statement. */
function ofxFrom(start: number): Uint8Array {
  const statement = sampleStatement(start + LINES);
  const before = statement.lines[start - 1];
  const lines = statement.lines.slice(start);
  const from = lines[0]?.date ?? '';
  return new TextEncoder().encode(
    writeOfx([{ ...statement, lines, from, opening: before?.balance ?? statement.opening }], 'EUR'),
  );
}

async function* piecesOf(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += 65_536) yield bytes.subarray(at, at + 65_536);
}

const CountRow = z.object({ count: z.number() });

async function checkCount({ database, booksId }: BenchBooks, expected: number): Promise<void> {
  const [row] = await inBooks(database, booksId, (tx) =>
    rowsOf(
      tx,
      CountRow,
      sql`select count(*)::int as count from lines where books_id = ${booksId} and is_here`,
    ),
  );
  if (row?.count !== expected) throw new Error(`${row?.count} lines are here, not ${expected}`);
}

/** COPY of 100,000 lines into a table like that of lines, committed. @returns milliseconds */
async function copyTime({ owner, booksId }: BenchBooks): Promise<number> {
  const client = await owner.$client.connect();
  try {
    const columns = await client.query<{ name: string }>(
      `select column_name as name from information_schema.columns
       where table_name = 'lines' order by ordinal_position`,
    );
    const names = columns.rows.map(({ name }) => `"${name}"`).join(', ');
    const rows: Buffer[] = [];
    const out = copying(
      client,
      copyTo(
        `copy (select ${names} from lines where books_id = '${booksId}'
               order by date, position limit ${LINES}) to stdout`,
      ),
    );
    for await (const piece of out) rows.push(piece as Buffer);
    await client.query('create table peer (like lines including all)');
    const keys = await client.query<{ name: string; definition: string }>(
      `select conname as name, pg_get_constraintdef(oid) as definition from pg_constraint
       where conrelid = 'lines'::regclass and contype = 'f'`,
    );
    for (const { name, definition } of keys.rows) {
      await client.query(
        `alter table peer add constraint peer_${name} ${definition.replaceAll('REFERENCES lines', 'REFERENCES peer')}`,
      );
    }
    const began = performance.now();
    const stream = copying(client, copyFrom(`copy peer (${names}) from stdin`));
    for (const piece of rows) if (!stream.write(piece)) await once(stream, 'drain');
    stream.end();
    await finished(stream);
    return performance.now() - began;
  } finally {
    client.release();
  }
}

async function proposalTime({ database, booksId }: BenchBooks): Promise<number> {
  return inBooks(database, booksId, async (tx) => {
    const stems = await rowsOf(
      tx,
      StemRow,
      sql`select distinct stem from lines where books_id = ${booksId}`,
    );
    const began = performance.now();
    await renewProposals(
      tx,
      booksId,
      stems.map(({ stem }) => stem),
    );
    return performance.now() - began;
  });
}

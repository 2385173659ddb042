import { randomInt } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { monthsBetween } from '@zubrell/core/dates/calendarDate';
import { freePort, openCluster } from '@zubrell/server/db/cluster';
import { type Database, openBackground } from '@zubrell/server/db/database';
import { migrate } from '@zubrell/server/db/migrate';
import { plainKeep } from '@zubrell/server/testing/client';
import { ofxFile } from '@zubrell/server/testing/files';
import { sql } from 'drizzle-orm';
import { memoryOf, startServer, untilThere } from './faults/brokenServers.ts';
import { sized } from './sized.ts';
import { type Seen, type Speak, signedIn, speakTo } from './speak.ts';

const CLIENTS = sized(20, 4);
const BOOKS = sized(4, 2);
/** How long they work, in milliseconds. */
const LENGTH = sized(600_000, 6_000);
/** How often the server's memory is looked at, in milliseconds. */
const LOOK = sized(5_000, 500);
/** Lines of each file that comes in meanwhile. */
const LINES = 20;
/** Each file has a month of its own: one more of the same days may hold the same payments. */
const MONTHS = monthsBetween('1980-01', '2025-12');
/** The last quarter may take so much more memory than the second. */
const FLAT = 1.15;

interface Books {
  readonly path: string;
  readonly bankAccountId: string;
  readonly accountId: string;
}

/**
 * Has clients work on several books at once for ten minutes: they read, search, keep files, post, and take back.
 *
 * @returns errors, the 95th percentile of the times, and whether the server's memory stayed flat
 */
export async function soak(): Promise<string> {
  const dataFolder = mkdtempSync(join(tmpdir(), 'zubrell-soak-'));
  chmodSync(dataFolder, 0o755);
  const cluster = await openCluster({ dataFolder });
  const urls = await cluster.ensureDatabase('faults');
  await migrate(urls);
  const runtime = openBackground(urls.runtime, 2);
  const server = startServer(dataFolder, await freePort(), null);
  try {
    const seen: Seen = { times: [], errors: [], refused: [], busy: 0 };
    const cookies = await signedIn(runtime, CLIENTS);
    const first = speakTo(server.url, cookies[0] ?? '', seen);
    await untilThere(server.url);
    const books: Books[] = [];
    for (let no = 0; no < BOOKS; no += 1) books.push(await makeBooks(first));
    await addMembers(runtime, books);
    seen.times.length = 0;
    const memory: number[] = [];
    const until = Date.now() + LENGTH;
    const looking = (async () => {
      for (; Date.now() < until; await pause(LOOK)) memory.push(memoryOf(server.pid()).now);
    })();
    const clients = cookies.map((cookie, no) =>
      work(speakTo(server.url, cookie, seen), books[no % BOOKS], until),
    );
    await Promise.all([...clients, looking]);
    return told(seen, memory, server.ended().length);
  } finally {
    await server.stop();
    await runtime.$client.end();
    cluster.stop();
    rmSync(dataFolder, { recursive: true, force: true });
  }
}

function told({ times, errors, busy }: Seen, memory: readonly number[], ended: number): string {
  const sorted = [...times].sort((one, other) => one - other);
  const at = (share: number) => Math.round(sorted[Math.floor(sorted.length * share)] ?? 0);
  const quarter = Math.max(1, Math.floor(memory.length / 4));
  const before = median(memory.slice(quarter, 2 * quarter));
  const last = median(memory.slice(-quarter));
  const growth = last / before;
  const isGood = errors.length === 0 && ended === 0 && growth <= FLAT;
  return (
    `${CLIENTS} clients on ${BOOKS} books for ${LENGTH / 1_000} s: ${times.length} requests, ` +
    `${errors.length} errors (aim: none), asked again ${busy} times where books were busy, ` +
    `half within ${at(0.5)} ms, 95 % within ${at(0.95)} ms, ` +
    `memory ${Math.round(last)} MB, ${growth.toFixed(2)} times that of the second quarter (aim: ${FLAT})  ` +
    `${isGood ? 'met' : 'NOT MET'}\n${[...new Set(errors)]
      .slice(0, 5)
      .map((error) => `  ${error}\n`)
      .join('')}`
  );
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((one, other) => one - other);
  return sorted[Math.floor(sorted.length / 2)] ?? 0;
}

/** Lets every user do all of the books. */
async function addMembers(runtime: Database, books: readonly Books[]): Promise<void> {
  for (const { path } of books) {
    await runtime.execute(
      sql`insert into memberships (books_id, user_id, role)
          select ${path.split('/').at(-1)}::uuid, id, 'bookkeeper' from users on conflict do nothing`,
    );
  }
}

async function makeBooks({ get, post }: Speak): Promise<Books> {
  const made = await post<{ id: string }>('/api/books', {
    name: 'Larkmoor Kiln Works',
    currency: 'EUR',
  });
  const path = `/api/books/${made?.id}`;
  const account = { name: 'Everyday', kind: 'current', bank: 'Wick & Alder', number: '4471' };
  const bank = await post<{ id: string }>(`${path}/bank-accounts`, account);
  const setup = await get<{ accounts: { id: string; type: string }[] }>(`${path}/setup`);
  const accountId = setup?.accounts.find(({ type }) => type === 'expense')?.id ?? '';
  return { path, bankAccountId: bank?.id ?? '', accountId };
}

let files = 0;

/** Does what a bookkeeper does, one thing after the other, with little rest. */
async function work(speak: Speak, books: Books | undefined, until: number): Promise<void> {
  if (!books) return;
  const { path } = books;
  const reads = [
    `${path}/board`,
    `${path}/lanes`,
    `${path}/steps`,
    `${path}/proof`,
    `${path}/rules`,
    `${path}/habits`,
    `${path}/balances`,
    `${path}/stacks?lane=blank&grouping=lookAlikes`,
    `${path}/found-lines?search=orrin`,
  ];
  while (Date.now() < until) {
    const dice = randomInt(20);
    if (dice === 0) await keepFile(speak, books);
    else if (dice <= 3) await postSome(speak, books);
    else if (dice === 4) await speak.post(`${path}/steps/undo`, { step: null, withLater: false });
    else await speak.get(reads[dice % reads.length] ?? '');
    await pause(randomInt(600));
  }
}

async function keepFile({ upload, post }: Speak, { path, bankAccountId }: Books): Promise<void> {
  files += 1;
  const no = files;
  const lines = Array.from({ length: LINES }, (_, at) => ({
    date: `${MONTHS[no % MONTHS.length]}-${String(1 + at).padStart(2, '0')}`,
    amount: `-${1 + no}.${String(at).padStart(2, '0')}`,
    text: `${at % 2 === 0 ? 'ORRIN BELL' : 'TIDEMARK FRT'} ${no}`,
    id: `${no}-${at}`,
  }));
  const file = ofxFile(lines, '0.00');
  const uploaded = await upload<{ uploadId: string }>(`${path}/uploads?fileName=${no}.ofx`, file);
  if (!uploaded) return;
  const wanted = { ...uploaded, statementIndex: 0, bankAccountId, ...plainKeep };
  await post(`${path}/batches`, { ...wanted, withOpening: false });
}

async function postSome({ get, post }: Speak, { path, accountId }: Books): Promise<void> {
  const found = await get<{ lines: { id: string; state: string }[] }>(
    `${path}/found-lines?search=tidemark`,
  );
  const lineIds = (found?.lines ?? [])
    .filter(({ state }) => ['ready', 'check', 'blank'].includes(state))
    .slice(0, 5)
    .map(({ id }) => id);
  if (lineIds.length === 0) return;
  const part = { accountId, taxCodeId: null, share: { kind: 'rest' }, tax: null };
  const coding = { payeeId: null, parts: [part], note: null };
  await post(`${path}/lines/post`, { target: { lineIds }, coding, seenStep: 1e6 });
}

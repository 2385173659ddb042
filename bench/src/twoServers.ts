import { randomInt } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { addDays } from '@zubrell/core/dates/calendarDate';
import { freePort } from '@zubrell/server/db/cluster';
import { openReaderPool } from '@zubrell/server/modules/intake/readInThread';
import { plainKeep } from '@zubrell/server/testing/client';
import { ofxFile } from '@zubrell/server/testing/files';
import { sql } from 'drizzle-orm';
import { type BenchBooks, makeBenchBooks } from './benchBooks.ts';
import { copyBooks } from './copyBooks.ts';
import { startServer, untilThere } from './faults/brokenServers.ts';
import { percentile } from './ratio.ts';
import { sized } from './sized.ts';
import { type Seen, type Speak, signedIn, speakTo } from './speak.ts';

const BOOKS = sized(1_000, 6);
const USERS = sized(50, 3);
/** Open lines of each books, and those of the file that somebody else keeps again and again. */
const LINES = sized(300, 30);
const BULK = sized(5_000, 50);
/** The first day of what is in all books; the files that come later are of later days. */
const FIRST_DAY = '2010-01-01';
/** How long they work while the servers have just started, and then with and without that, in milliseconds. */
const STARTING = sized(20_000, 1_000);
const LENGTH = sized(60_000, 4_000);
/** How long a user thinks between two things, in milliseconds. */
const THINK = [1_500, 4_500] as const;
/** Aims for the slowest of nearly all, in milliseconds. */
const MOST_READ = 150;
const MOST_POST = 400;

/**
 * Users at once on two servers over one database, each on books of their own among many: by themselves, and while in another
 * books files of thousands of lines come in, are posted and taken back.
 */
export async function twoServers(): Promise<string> {
  const dataFolder = mkdtempSync(join(tmpdir(), 'zubrell-two-'));
  chmodSync(dataFolder, 0o755);
  const books = await makeBenchBooks({ dataFolder, database: 'faults' });
  const servers = [
    startServer(dataFolder, await freePort(), null),
    startServer(dataFolder, await freePort(), null),
  ];
  try {
    await fill(books);
    const ids = [books.booksId, ...(await copyBooks(books.owner, books.booksId, BOOKS - 1))];
    const cookies = await signedIn(books.database, USERS + 1);
    await share(books, ids);
    for (const { url } of servers) await untilThere(url);
    const own = Math.floor((BOOKS - 1) / USERS);
    const users = cookies.slice(0, USERS).map((cookie, no): User => {
      const url = servers[no % 2]?.url ?? '';
      return { url, cookie, ids: ids.slice(1 + no * own, 1 + (no + 1) * own) };
    });
    const starting = await during(STARTING, users);
    const alone = await during(LENGTH, users);
    const bulk = nothingSeen();
    const heavy = speakTo(servers[0]?.url ?? '', cookies.at(-1) ?? '', bulk);
    const path = `/api/books/${books.booksId}`;
    const rounds = keepAndPost(heavy, path, books.bankAccountId, Date.now() + LENGTH);
    const beside = await during(LENGTH, users);
    const counted = await rounds;
    bulk.errors.push(...servers.flatMap(({ ended }) => ended()));
    return told({ starting, alone, beside, bulk, counted });
  } finally {
    for (const server of servers) await server.stop();
    await books.drop();
    rmSync(dataFolder, { recursive: true, force: true });
  }
}

/** Somebody who works on some books at one of the servers. */
interface User {
  readonly url: string;
  readonly cookie: string;
  readonly ids: readonly string[];
}

/** What users saw for a while. */
interface While {
  readonly reads: Seen;
  readonly posts: Seen;
}

/** Has all users work for so many milliseconds. */
async function during(length: number, users: readonly User[]): Promise<While> {
  const [reads, posts] = [nothingSeen(), nothingSeen()];
  const until = Date.now() + length;
  const working = users.map(({ url, cookie, ids }) =>
    work(speakTo(url, cookie, reads), speakTo(url, cookie, posts), ids, until),
  );
  await Promise.all(working);
  return { reads, posts };
}

/** What came of it all. */
interface Outcome {
  readonly starting: While;
  readonly alone: While;
  readonly beside: While;
  readonly bulk: Seen;
  readonly counted: Rounds;
}

function told({ starting, alone, beside, bulk, counted }: Outcome): string {
  const all = [...[starting, alone, beside].flatMap(({ reads, posts }) => [reads, posts]), bulk];
  const errors = all.flatMap((seen) => seen.errors);
  const refused = all.flatMap((seen) => seen.refused);
  const met = (isMet: boolean) => (isMet ? 'met' : 'NOT MET');
  const within = ({ times }: Seen, aim?: number) => {
    const nearly = percentile(times, 0.95);
    const said = `half within ${percentile(times, 0.5).toFixed(0)} ms, 95 % within ${nearly.toFixed(0)} ms`;
    return aim === undefined ? said : `${said} (aim: ${aim})  ${met(nearly <= aim)}`;
  };
  const { reads, posts } = alone;
  return (
    `${USERS} users at once on two servers over ${BOOKS} books of ${LINES} open lines, for ${LENGTH / 1_000} s: ` +
    `${errors.length} errors  ${met(errors.length === 0)}\n` +
    `  ${reads.times.length} reads: ${within(reads, MOST_READ)}\n` +
    `  ${posts.times.length} times posted or undone: ${within(posts, MOST_POST)}\n` +
    `  in the first ${STARTING / 1_000} s of the servers: reads ${within(starting.reads)}; ` +
    `posted or undone ${within(starting.posts)}\n` +
    `  while ${counted.files} files of ${BULK} lines were kept, ${counted.posted} lines of them posted, and all taken back in another:\n` +
    `    reads ${within(beside.reads, MOST_READ)}\n    posted or undone ${within(beside.posts, MOST_POST)}\n` +
    `  ${all.reduce((sum, { busy }) => sum + busy, 0)} times the server was busy and was asked again, ` +
    `${refused.length} requests were refused\n` +
    [...new Set([...errors, ...refused])]
      .slice(0, 5)
      .map((error) => `  ${error}\n`)
      .join('')
  );
}

const nothingSeen = (): Seen => ({ times: [], errors: [], refused: [], busy: 0 });

/** Keeps a file in the books that all others are copied from. */
async function fill(books: BenchBooks): Promise<void> {
  const readers = openReaderPool();
  const file = fileOf(LINES, 20, FIRST_DAY, 0);
  await books.keep(await books.upload(once(new TextEncoder().encode(file))), readers.readFile);
  await readers.close();
}

async function* once(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
}

/** A file of so many lines, thirty a day. @param no tells its lines from those of other files */
function fileOf(count: number, payees: number, from: string, no: number): string {
  const lines = Array.from({ length: count }, (_, at) => ({
    date: addDays(from, Math.floor(at / 30)),
    amount: `-${10 + (at % 90)}.${String((at * 7 + no) % 100).padStart(2, '0')}`,
    text: `TIDEMARK ${String.fromCharCode(65 + (at % payees))} ${at % 2 === 0 ? 'FREIGHT' : 'CLAY'} ${no}-${at}`,
    id: `${no}-${at}`,
  }));
  return ofxFile(lines, '0.00');
}

/** Gives each user the same number of books, and all of them the first. */
async function share({ owner }: BenchBooks, ids: readonly string[]): Promise<void> {
  const each = Math.floor((BOOKS - 1) / USERS);
  await owner.execute(
    sql`insert into memberships (books_id, user_id, role)
        select b.id, u.id, 'bookkeeper'
        from unnest(${sql.param(ids)}::uuid[]) with ordinality b (id, no)
        join (select id, row_number() over (order by length(email), email) as no from users
          where email ~ '^[0-9]+@') u on b.no = 1 or u.no = 1 + (b.no - 2) / ${each}
        on conflict do nothing`,
  );
}

/** Opens one books after the other and codes lines there, as a bookkeeper does who is quick. */
async function work(
  reading: Speak,
  posting: Speak,
  ids: readonly string[],
  until: number,
): Promise<void> {
  const think = () => pause(randomInt(...THINK));
  await pause(randomInt(THINK[1]));
  while (Date.now() < until) {
    const path = `/api/books/${ids[randomInt(ids.length)]}`;
    const setup = await reading.get<{ accounts: { id: string; type: string }[] }>(`${path}/setup`);
    const accountId = setup?.accounts.find(({ type }) => type === 'expense')?.id ?? '';
    await Promise.all([reading.get(`${path}/board`), reading.get(`${path}/lanes`)]);
    await think();
    const [stacks] = await Promise.all([
      reading.get<{ stacks: { key: string; direction: string }[] }>(
        `${path}/stacks?lane=blank&grouping=lookAlikes`,
      ),
      reading.get(`${path}/lanes`),
      reading.get(`${path}/proof`),
    ]);
    for (const { key, direction } of (stacks?.stacks ?? []).slice(0, 3)) {
      const stack = await reading.get<{ lines: { id: string }[] }>(
        `${path}/stack-lines?lane=blank&grouping=lookAlikes&direction=${direction}&key=${encodeURIComponent(key)}`,
      );
      await think();
      const lineIds = (stack?.lines ?? []).slice(0, 1 + randomInt(5)).map(({ id }) => id);
      if (lineIds.length === 0) continue;
      const part = { accountId, taxCodeId: null, share: { kind: 'rest' }, tax: null };
      const coding = { payeeId: null, parts: [part], note: null };
      await posting.post(`${path}/lines/post`, { target: { lineIds }, coding, seenStep: 1e6 });
      await Promise.all([reading.get(`${path}/lanes`), reading.get(`${path}/proof`)]);
      await think();
    }
    if (randomInt(4) === 0) {
      await posting.post(`${path}/steps/undo`, { step: null, withLater: false });
    }
    await reading.get(`${path}/steps`);
    await think();
  }
}

/** What came of large files: how many were kept, and how many of their lines were posted. */
interface Rounds {
  files: number;
  posted: number;
}

/** Keeps large files, posts all of their lines, and takes all of it back. */
async function keepAndPost(
  { get, post, upload }: Speak,
  path: string,
  bankAccountId: string,
  until: number,
): Promise<Rounds> {
  const setup = await get<{ accounts: { id: string; type: string }[] }>(`${path}/setup`);
  const accountId = setup?.accounts.find(({ type }) => type === 'expense')?.id ?? '';
  const part = { accountId, taxCodeId: null, share: { kind: 'rest' }, tax: null };
  const coding = { payeeId: null, parts: [part], note: null };
  const rounds: Rounds = { files: 0, posted: 0 };
  while (Date.now() < until) {
    rounds.files += 1;
    const file = fileOf(BULK, 4, addDays(FIRST_DAY, rounds.files * 200), rounds.files);
    const sent = await upload<object>(`${path}/uploads?fileName=${rounds.files}.ofx`, file);
    const wanted = { ...sent, statementIndex: 0, bankAccountId, ...plainKeep, withOpening: false };
    await post(`${path}/batches`, wanted);
    await untilKept(get, path, until);
    let steps = 1;
    for (const lane of ['blank', 'check', 'ready']) {
      const found = await get<{ stacks: { key: string; direction: string }[] }>(
        `${path}/stacks?lane=${lane}&grouping=lookAlikes`,
      );
      for (const { key, direction } of found?.stacks ?? []) {
        const stack = { grouping: 'lookAlikes', direction, key };
        const target = { stack, lane, scope: {} };
        const asked = { target, coding, seenStep: 1e6 };
        const posted = await post<{ done: string[] }>(`${path}/lines/post`, asked);
        if (posted === null || posted.done.length === 0) continue;
        steps += 1;
        rounds.posted += posted.done.length;
      }
    }
    // What is taken back last is the file.
    for (let step = 0; step < steps; step += 1) {
      await post(`${path}/steps/undo`, { step: null, withLater: false });
    }
  }
  return rounds;
}

/** Waits until a file's lines are in the books. */
async function untilKept(get: Speak['get'], path: string, until: number): Promise<void> {
  while (Date.now() < until) {
    const lanes = await get<Record<'ready' | 'check' | 'blank', number>>(`${path}/lanes`);
    if (lanes && lanes.ready + lanes.check + lanes.blank >= BULK) return;
    await pause(500);
  }
}

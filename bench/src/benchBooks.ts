import { randomUUID } from 'node:crypto';
import { clockFixedAt } from '@zubrell/server/clock';
import { beginCommand } from '@zubrell/server/commands/beginCommand';
import { dataFolder } from '@zubrell/server/config';
import { openCluster } from '@zubrell/server/db/cluster';
import { type Database, inBooks, openBackground } from '@zubrell/server/db/database';
import { migrate } from '@zubrell/server/db/migrate';
import { keepBatch } from '@zubrell/server/jobs/keepBatch';
import { createBooks } from '@zubrell/server/modules/books/createBooks';
import { createBankAccount } from '@zubrell/server/modules/books/makeThings';
import type { ReadFile } from '@zubrell/server/modules/intake/readInThread';
import { insertBatch } from '@zubrell/server/modules/intake/startBatch';
import { storeUpload } from '@zubrell/server/modules/intake/uploads';
import { createUser, openSession } from '@zubrell/server/modules/session/sessions';
import type { Actor } from '@zubrell/server/services';

const TODAY = '2026-04-08';
const clock = clockFixedAt(TODAY);

/** Books of their own in a database of their own, to measure with. */
export interface BenchBooks {
  readonly database: Database;
  /** The database as its owner. */
  readonly owner: Database;
  readonly booksId: string;
  readonly bankAccountId: string;
  readonly actor: Actor;
  /** Stores a file as an upload and makes its batch. @returns what keeps it */
  upload(bytes: AsyncIterable<Uint8Array>): Promise<string>;
  /** Keeps an uploaded batch, as the background job does. */
  keep(batchId: string, readFile: ReadFile): Promise<void>;
  drop(): Promise<void>;
}

/** Makes books with one current account. @param place a cluster and a database other than those of all benchmarks */
export async function makeBenchBooks(place?: {
  readonly dataFolder: string;
  readonly database: string;
}): Promise<BenchBooks> {
  const cluster = await openCluster({ dataFolder: place?.dataFolder ?? dataFolder(process.env) });
  const name = place?.database ?? `bench_${randomUUID().slice(0, 8)}`;
  const urls = await cluster.ensureDatabase(name);
  await migrate(urls);
  const database = openBackground(urls.runtime);
  const owner = openBackground(urls.owner, 2);
  const services = { database, clock };
  const person = { name: 'Mo Oakes', email: 'mo@larkmoor.example', password: 'long enough' };
  const user = await createUser(database, services, person);
  const session = await openSession(database, services, user.id);
  const actor = { userId: user.id, name: user.name, session };
  const booksId = await database.transaction((tx) =>
    createBooks(tx, services, actor, { name: 'Larkmoor Kiln Works', currency: 'EUR' }),
  );
  const { id: bankAccountId } = await inBooks(database, booksId, async (tx) =>
    createBankAccount(await beginCommand(tx, services, booksId, actor), {
      name: 'Everyday',
      kind: 'current',
      bank: 'Wick & Alder',
      number: '4471',
    }),
  );
  return {
    database,
    owner,
    booksId,
    bankAccountId,
    actor,
    upload: (bytes) =>
      inBooks(database, booksId, async (tx) => {
        const uploadId = await storeUpload({ tx, booksId, ...services }, 'sample.ofx', bytes);
        const wanted = { uploadId, statementIndex: 0, bankAccountId };
        return (await insertBatch({ tx, ...services, booksId, actor }, wanted)).batchId;
      }),
    async keep(batchId, readFile) {
      await keepBatch(services, readFile, {
        booksId,
        batchId,
        acceptRefused: false,
        confirmNumber: false,
        confirmBalance: true,
        confirmDates: true,
        withOpening: true,
        choices: null,
      });
    },
    async drop() {
      await database.$client.end();
      await owner.$client.end();
      await cluster.dropDatabase(name);
      if (place) cluster.stop();
    },
  };
}

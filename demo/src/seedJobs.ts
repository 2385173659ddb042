import { changeBooks } from '@zubrell/server/modules/books/changeBooks';
import { createCostObject } from '@zubrell/server/modules/books/makeThings';
import { enterDocument } from '@zubrell/server/modules/documents/changeDocument';
import { type SQL, sql } from 'drizzle-orm';
import { commandsOn, idsByName, type Seeding } from './days.ts';
import { demoToday } from './scenario/files.ts';

const ADDRESS = 'Kiln Lane 4\nGarran';

/** Bills for a job, of which all but the last line is to be charged to its customer: text, account, amount. */
const COSTS = [
  ['Stoneware for the harbour tiles', '5020', 18_600, true],
  ['Glaze, sea green', '5020', 7_440, true],
  ['Delivery to the studio', '6010', 2_400, false],
] as const;

/** Makes a job with costs that wait to be charged on, and gives the business an address. */
export async function seedJobs(seeding: Seeding): Promise<void> {
  const { booksId } = seeding;
  const run = await commandsOn(seeding, demoToday);
  const named = (query: SQL) => idsByName(seeding, query);
  await run((command) =>
    changeBooks(command, { address: ADDRESS, country: 'XX', taxNumber: 'XX 4711 20' }),
  );
  const { id: jobId } = await run((command) =>
    createCostObject(command, { kind: 'job', name: 'Harbour tiles' }),
  );
  const accounts = await named(
    sql`select id, code as name from accounts where books_id = ${booksId}`,
  );
  const codes = await named(sql`select id, name from tax_codes where books_id = ${booksId}`);
  const payees = await named(sql`select id, name from payees where books_id = ${booksId}`);
  await run((command) =>
    enterDocument(command, {
      kind: 'bill',
      side: 'payables',
      number: 'PC-3318',
      payeeId: payees.get('Penhallow Clay') ?? '',
      date: '2026-03-27',
      dueDate: '2026-04-26',
      note: null,
      lines: COSTS.map(([text, account, amount, isRecharged]) => ({
        text,
        accountId: accounts.get(account) ?? '',
        taxCodeId: codes.get('20 %') ?? null,
        amount,
        tax: null,
        jobId,
        isRecharged,
      })),
    }),
  );
}

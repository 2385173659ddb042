import { createAccount } from '@zubrell/server/modules/books/makeThings';
import { makeJournalPlan } from '@zubrell/server/modules/journals/changeJournalPlans';
import { postJournals } from '@zubrell/server/modules/journals/postJournals';
import { sql } from 'drizzle-orm';
import { commandsOn, idsByName, type Seeding } from './days.ts';
import { demoToday } from './scenario/files.ts';

/** Accounts that only journals use. */
const ACCOUNTS = [
  { code: '1510', name: 'Accumulated depreciation', type: 'asset', parent: null },
  { code: '2050', name: 'Accrued costs', type: 'liability', parent: null },
  { code: '6140', name: 'Depreciation', type: 'expense', parent: '6000' },
] as const;

/** Recurring journals: what they are called, debit, credit, amount, and whether each one is reversed. */
const JOURNALS = [
  ['Depreciation of the kilns', '6140', '1510', 18_000, false],
  ['Energy not billed yet', '6050', '2050', 24_000, true],
] as const;

const POSTED = ['2026-01-31', '2026-02-28'];

/** Makes journals that recur at the end of each month, posted for January and February and due for March. */
export async function seedJournals(seeding: Seeding): Promise<void> {
  const run = await commandsOn(seeding, demoToday);
  const byCode = () =>
    idsByName(
      seeding,
      sql`select id, code as name from accounts where books_id = ${seeding.booksId}`,
    );
  const parents = await byCode();
  for (const { parent, ...account } of ACCOUNTS) {
    const parentId = parent === null ? null : (parents.get(parent) ?? null);
    await run((command) => createAccount(command, { ...account, parentId }));
  }
  const accounts = await byCode();
  for (const [name, debit, credit, amount, isReversing] of JOURNALS) {
    const { id: planId } = await run((command) =>
      makeJournalPlan(command, {
        name,
        payeeId: null,
        note: null,
        legs: [
          { accountId: accounts.get(debit) ?? '', amount },
          { accountId: accounts.get(credit) ?? '', amount: -amount },
        ],
        rhythm: 'month',
        startDate: POSTED[0] ?? '',
        endDate: null,
        isReversing,
      }),
    );
    await run((command) =>
      postJournals(command, { journals: POSTED.map((date) => ({ planId, date })) }),
    );
  }
}

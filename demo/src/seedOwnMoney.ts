import { changePayee } from '@zubrell/server/modules/books/changeThings';
import { createBankAccount, createPayee } from '@zubrell/server/modules/books/makeThings';
import { addLine } from '@zubrell/server/modules/intake/byHand';
import { enterByHand } from '@zubrell/server/modules/ledger/handEntries';
import { postOpening } from '@zubrell/server/modules/ledger/openingBalance';
import { postLines } from '@zubrell/server/modules/lines/postLines';
import { type SQL, sql } from 'drizzle-orm';
import { commandsOn, idsByName, type Seeding } from './days.ts';
import { demoToday } from './scenario/files.ts';

/** What moved on the account for deposits: day, amount, wording, and whose money it is. */
const DEPOSITS = [
  ['2026-03-04', 60_000, 'MARLSTONE GALLERY DEPOSIT', 'Marlstone Gallery'],
  ['2026-03-11', 24_000, 'HARROWGATE TABLE SHOP DEPOSIT', 'Harrowgate Table Shop'],
  ['2026-03-18', -18_000, 'PENHALLOW CLAY FOR GALLERY', 'Marlstone Gallery'],
  ['2026-03-26', -24_000, 'HARROWGATE RETURNED', 'Harrowgate Table Shop'],
] as const;

/**
 * Money that isn't the business's own: two owners with accounts of theirs, a cost that one of them paid privately,
 * another business of the owner, and a bank account that holds what customers paid ahead.
 */
export async function seedOwnMoney(seeding: Seeding): Promise<void> {
  const { booksId } = seeding;
  const run = await commandsOn(seeding, demoToday);
  const named = (query: SQL) => idsByName(seeding, query);
  const { id: tamsin } = await run((command) =>
    createPayee(command, { name: 'Tamsin Oakes', kind: 'owner' }),
  );
  await run((command) => changePayee(command, tamsin, { makesAccounts: true }));
  const { id: fennick } = await run((command) =>
    createPayee(command, { name: 'Fennick Canoe Hire', kind: 'relatedBusiness' }),
  );
  await run((command) => changePayee(command, fennick, { makesAccounts: true }));
  const accounts = await named(
    sql`select id, code as name from accounts where books_id = ${booksId} and is_here`,
  );
  const codes = await named(sql`select id, name from tax_codes where books_id = ${booksId}`);
  const payees = await named(sql`select id, name from payees where books_id = ${booksId}`);
  await run((command) =>
    enterByHand(command, {
      entry: {
        kind: 'paidPrivately',
        date: '2026-03-12',
        note: 'Glaze tools, paid at the till',
        number: 'R-17',
        ownerId: tamsin,
        amount: 4_260,
        payeeId: payees.get('Ravensby Studio Supplies') ?? null,
        parts: [
          {
            accountId: accounts.get('5000') ?? '',
            taxCodeId: codes.get('20 %') ?? null,
            share: { kind: 'rest' },
            tax: null,
          },
        ],
      },
    }),
  );
  await seedDeposits(seeding, payees);
}

async function seedDeposits(seeding: Seeding, payees: ReadonlyMap<string, string>): Promise<void> {
  const run = await commandsOn(seeding, demoToday);
  const { id: bankAccountId } = await run((command) =>
    createBankAccount(command, {
      name: 'Commission deposits',
      kind: 'clientMoney',
      number: 'WA40117748',
      bank: 'Wick & Alder',
    }),
  );
  await run((command) => postOpening(command, bankAccountId, { date: '2026-02-28', amount: 0 }));
  const held = await idsByName(
    seeding,
    sql`select id, role as name from accounts
        where books_id = ${seeding.booksId} and role = 'clientMoney' and is_here`,
  );
  for (const [date, amount, description, client] of DEPOSITS) {
    const { step } = await run((command) =>
      addLine(command, bankAccountId, { date, amount, description, reference: null }),
    );
    const lines = await idsByName(
      seeding,
      sql`select id, description as name from lines
          where books_id = ${seeding.booksId} and bank_account_id = ${bankAccountId}`,
    );
    await run((command) =>
      postLines(command, {
        target: { lineIds: [lines.get(description) ?? ''] },
        coding: {
          payeeId: null,
          note: null,
          parts: [
            {
              accountId: held.get('clientMoney') ?? '',
              taxCodeId: null,
              share: { kind: 'rest' },
              tax: null,
              clientId: payees.get(client) ?? null,
            },
          ],
        },
        isNew: true,
        seenStep: step,
      }),
    );
  }
}

import { createBankAccount } from '@zubrell/server/modules/books/makeThings';
import { importRates } from '@zubrell/server/modules/currencies/rates';
import { enterDocument } from '@zubrell/server/modules/documents/changeDocument';
import { addLine } from '@zubrell/server/modules/intake/byHand';
import { postOpening } from '@zubrell/server/modules/ledger/openingBalance';
import { type SQL, sql } from 'drizzle-orm';
import { commandsOn, idsByName, type Seeding } from './days.ts';
import { demoToday } from './scenario/files.ts';

/** What one euro was worth, on some days of the two months. */
const RATES = `Date,USD
2026-02-27,1.0805
2026-03-05,1.0842
2026-03-13,1.0790
2026-03-20,1.0731
2026-03-27,1.0688
2026-03-31,1.0714`;

/** What the bank reported of the dollar account: day, amount, wording. */
const LINES = [
  ['2026-03-16', -3_800, 'LOAMDESK SUBSCRIPTION'],
  ['2026-03-27', 240_000, 'NETTLE AND THREAD INV 1106'],
] as const;

/** Makes a bank account in dollars, with an invoice that went abroad and the money that came for it. */
export async function seedCurrencies(seeding: Seeding): Promise<void> {
  const { booksId } = seeding;
  const run = await commandsOn(seeding, demoToday);
  const named = (query: SQL) => idsByName(seeding, query);
  const { id: bankAccountId } = await run((command) =>
    createBankAccount(command, {
      name: 'Dollar account',
      kind: 'current',
      number: 'WA40117731',
      bank: 'Wick & Alder',
      currency: 'USD',
    }),
  );
  await run((command) => importRates(command, RATES));
  await run((command) =>
    postOpening(command, bankAccountId, { date: '2026-02-28', amount: 185_000 }),
  );
  const accounts = await named(
    sql`select id, code as name from accounts where books_id = ${booksId} and is_here`,
  );
  const codes = await named(sql`select id, name from tax_codes where books_id = ${booksId}`);
  const payees = await named(sql`select id, name from payees where books_id = ${booksId}`);
  await run((command) =>
    enterDocument(command, {
      kind: 'invoice',
      side: 'receivables',
      number: '1106',
      payeeId: payees.get('Nettle and Thread') ?? '',
      date: '2026-03-05',
      dueDate: '2026-04-04',
      currency: 'USD',
      note: null,
      lines: [
        {
          text: 'Tableware for the shop abroad',
          accountId: accounts.get('4010') ?? '',
          taxCodeId: codes.get('0 %') ?? null,
          amount: 240_000,
          tax: null,
        },
      ],
    }),
  );
  for (const [date, amount, description] of LINES) {
    await run((command) =>
      addLine(command, bankAccountId, { date, amount, description, reference: null }),
    );
  }
}

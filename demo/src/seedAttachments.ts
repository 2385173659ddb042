import type { HandEntry } from '@zubrell/contract/ledger';
import { wholeLineCoding } from '@zubrell/core/ledger/coding';
import { beginCommand } from '@zubrell/server/commands/beginCommand';
import { type Database, inBooks, rowsOf, type Tx } from '@zubrell/server/db/database';
import { NamedRow } from '@zubrell/server/db/rows';
import { createPayee } from '@zubrell/server/modules/books/makeThings';
import { enterDocument } from '@zubrell/server/modules/documents/changeDocument';
import { enterByHand } from '@zubrell/server/modules/ledger/handEntries';
import { pairLines } from '@zubrell/server/modules/pairing/pairLines';
import type { Actor, Services } from '@zubrell/server/services';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import type { Seeding } from './days.ts';

/** The month whose lines meet what was entered before. */
const ATTACHMENTS_FOR = '2026-03';

/** A bill or invoice: its number, payee, date, due date, amount with tax, account and tax code. */
type Attachment = readonly [
  kind: 'bill' | 'invoice',
  number: string,
  payee: string,
  date: string,
  due: string,
  amount: number,
  account: string,
  tax: string,
];

const ATTACHMENTS: readonly Attachment[] = [
  ['invoice', '1039', 'Nettle and Thread', '2026-02-20', '2026-03-20', 21_200, '4010', '20 %'],
  ['invoice', '1042', 'Nettle and Thread', '2026-02-24', '2026-03-22', 42_800, '4010', '20 %'],
  ['invoice', '1050', 'Nettle and Thread', '2026-03-21', '2026-04-20', 60_400, '4010', '20 %'],
  ['invoice', '1098', 'Harrowgate Table Shop', '2026-02-06', '2026-03-08', 26_800, '4010', '20 %'],
  ['invoice', '1101', 'Harrowgate Table Shop', '2026-02-11', '2026-03-13', 51_240, '4010', '20 %'],
  ['invoice', '1102', 'Harrowgate Table Shop', '2026-02-18', '2026-03-20', 38_660, '4010', '20 %'],
  ['invoice', '1105', 'Harrowgate Table Shop', '2026-02-25', '2026-03-27', 58_100, '4010', '20 %'],
  ['invoice', '1047', 'Nettlebed Yarns', '2026-02-26', '2026-03-28', 64_000, '4010', '20 %'],
  ['invoice', '1021', 'Marlstone Gallery', '2026-01-09', '2026-02-08', 33_500, '4010', '20 %'],
  ['bill', '2093', 'Penhallow Clay', '2026-03-03', '2026-04-02', 31_240, '5020', '20 %'],
  ['bill', '2117', 'Penhallow Clay', '2026-03-26', '2026-04-25', 27_480, '5020', '20 %'],
  // Mistyped: the bank moved 289.50.
  ['bill', 'G-7725', 'Gorsefield Gas', '2026-03-06', '2026-03-27', 29_850, '5010', '5 %'],
  // Two of one amount, a month apart.
  ['bill', 'T-88', 'Thornby Wheel Repair', '2026-02-05', '2026-03-07', 9_600, '6090', '20 %'],
  ['bill', 'T-93', 'Thornby Wheel Repair', '2026-03-05', '2026-04-04', 9_600, '6090', '20 %'],
];

/** What was entered by hand: its kind, number, payee, date, amount, account and tax code. */
type Entered = readonly [
  kind: 'cheque' | 'receipt' | 'deposit',
  number: string | null,
  payee: string,
  date: string,
  amount: number,
  account: string,
  tax: string,
];

const ENTERED: readonly Entered[] = [
  ['cheque', '000391', 'Aldersea Water', '2025-09-22', 6_400, '6050', '0 %'],
  ['cheque', '000416', 'Tallow Press', '2026-03-02', 12_840, '5030', '20 %'],
  ['cheque', '000417', 'Saltmarsh Market', '2026-03-26', 3_500, '6020', '0 %'],
  ['deposit', null, 'Nettle and Thread', '2026-02-27', 64_000, '4010', '20 %'],
  // Taken by card at the fair, and paid out together less a fee.
  ['receipt', 'Fair, Saturday', 'Hedgerow Cards', '2026-03-14', 21_000, '4010', '20 %'],
  ['receipt', 'Fair, Sunday', 'Hedgerow Cards', '2026-03-15', 14_550, '4010', '20 %'],
  ['receipt', 'Fair, Monday', 'Hedgerow Cards', '2026-03-16', 9_800, '4010', '20 %'],
];

/** Enters what is in the books before the bank reports it: bills, invoices, cheques, receipts, a transfer. */
export async function seedAttachments(
  { database, at, booksId, actor }: Seeding,
  month: string,
): Promise<void> {
  if (month !== ATTACHMENTS_FOR) return;
  const services = await at('2026-04-01');
  await inBooks(database, booksId, async (tx) => {
    const payees = await idsOf(tx, booksId, sql`select id, name from payees`);
    const accounts = await idsOf(tx, booksId, sql`select id, code as name from accounts`);
    const taxCodes = await idsOf(tx, booksId, sql`select id, name from tax_codes`);
    const banks = await idsOf(tx, booksId, sql`select id, name from bank_accounts`);
    for (const [kind, number, payee, date, dueDate, amount, account, tax] of ATTACHMENTS) {
      const isBill = kind === 'bill';
      const made = { name: payee, kind: isBill ? 'supplier' : 'customer' } as const;
      const payeeId =
        payees.get(payee) ??
        (await createPayee(await beginCommand(tx, services, booksId, actor), made)).id;
      payees.set(payee, payeeId);
      await enterDocument(await beginCommand(tx, services, booksId, actor), {
        kind,
        side: isBill ? 'payables' : 'receivables',
        number,
        payeeId,
        date,
        dueDate,
        lines: [
          {
            text: isBill ? '' : 'Tableware',
            accountId: accounts.get(account) ?? '',
            taxCodeId: taxCodes.get(tax) ?? null,
            amount,
            tax: null,
          },
        ],
        note: null,
      });
    }
    const bankAccountId = banks.get('Everyday') ?? '';
    for (const [kind, number, payee, date, amount, account, tax] of ENTERED) {
      const coding = wholeLineCoding(accounts.get(account) ?? '', null, taxCodes.get(tax) ?? null);
      const entry: HandEntry = {
        kind,
        date,
        bankAccountId,
        amount,
        number,
        payeeId: payees.get(payee) ?? null,
        parts: [...coding.parts],
        note: null,
      };
      await enterByHand(await beginCommand(tx, services, booksId, actor), { entry });
    }
    await enterByHand(await beginCommand(tx, services, booksId, actor), {
      entry: {
        kind: 'transfer',
        date: '2026-03-30',
        bankAccountId,
        toBankAccountId: banks.get('Studio card') ?? '',
        amount: 18_000,
        note: 'Card paid off in part',
      },
    });
  });
}

const PaidRow = z.object({ lineId: z.string(), documentId: z.string() });

/** Pairs the payment of invoice 1098, which came back later. */
export async function seedPaid(
  database: Database,
  booksId: string,
  actor: Actor,
  services: Pick<Services, 'clock'>,
): Promise<void> {
  await inBooks(database, booksId, async (tx) => {
    const [paid] = await rowsOf(
      tx,
      PaidRow,
      sql`select l.id as "lineId", d.id as "documentId" from lines l
          join documents d on d.books_id = l.books_id and d.number = '1098'
          where l.books_id = ${booksId} and l.description = 'FT HARROWGATE TABLE SHOP 1098'`,
    );
    if (!paid) throw new Error('the demo lost the payment of invoice 1098');
    const { lineId, documentId } = paid;
    const wanted = { lineIds: [lineId], targetIds: [documentId], difference: null };
    await pairLines(await beginCommand(tx, services, booksId, actor), {
      ...wanted,
      seenStep: Number.MAX_SAFE_INTEGER,
    });
  });
}

async function idsOf(
  tx: Tx,
  booksId: string,
  rows: ReturnType<typeof sql>,
): Promise<Map<string, string>> {
  const found = await rowsOf(
    tx,
    NamedRow,
    sql`select id, name from (${rows} where books_id = ${booksId}) named`,
  );
  return new Map(found.map(({ id, name }) => [name, id]));
}

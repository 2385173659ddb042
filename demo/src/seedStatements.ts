import type { LineByHand } from '@zubrell/contract/intake';
import { inBooks } from '@zubrell/server/db/database';
import { changeCycle, nameHolders } from '@zubrell/server/modules/books/changeBankAccount';
import { closeMonth } from '@zubrell/server/modules/closing/closeMonth';
import { addLine } from '@zubrell/server/modules/intake/byHand';
import { agreeStatement } from '@zubrell/server/modules/statements/agreeStatement';
import { changeStatement } from '@zubrell/server/modules/statements/changeStatement';
import { listStatements } from '@zubrell/server/modules/statements/listStatements';
import { statementOf } from '@zubrell/server/modules/statements/statementOf';
import { sql } from 'drizzle-orm';
import { commandsOn, idsByName, type Seeding } from './days.ts';
import { demoToday } from './scenario/files.ts';

/** Everything up to here is one statement each: the books came to us with it. */
const BEFORE = '2025-12-31';

/** An account's statements: which are agreed after the long first one, and the open one with what is wrong in it. */
interface Agreed {
  readonly name: string;
  readonly ends: readonly string[];
  readonly next: string;
  /** A line that is there and shouldn't be as it is. */
  readonly line?: LineByHand;
  /** What the bank says instead of what lines come to. */
  readonly says: (addsUp: number) => number;
}

const SEEN = { seenStep: Number.MAX_SAFE_INTEGER };
const byHand = (date: string, amount: number, description: string): LineByHand => ({
  date,
  amount,
  description,
  reference: null,
});

const ACCOUNTS: readonly Agreed[] = [
  // The bank counts the pitch fee of the last day in April.
  {
    name: 'Everyday',
    ends: ['2026-01-31', '2026-02-28'],
    next: '2026-03-31',
    says: (addsUp) => addsUp + 3_500,
  },
  // A payment came twice, two days later and with its wording cut.
  {
    name: 'Studio card',
    ends: ['2026-01-08', '2026-02-08'],
    next: '2026-03-08',
    line: byHand('2026-02-22', -13_262, 'PENHALLOW CLAY SUP 7262'),
    says: (addsUp) => addsUp + 13_262,
  },
  // Two digits of the balance are the wrong way round.
  { name: 'Tax pot', ends: ['2026-01-31', '2026-02-28'], next: '2026-03-31', says: swapped },
  // A line was written by hand with two digits the wrong way round.
  {
    name: 'Till float',
    ends: ['2026-01-31', '2026-02-28'],
    next: '2026-03-31',
    line: byHand('2026-03-12', -851, 'Stall extras Saltmarsh'),
    says: (addsUp) => addsUp + 36,
  },
];

/** A balance with two neighbouring digits swapped, the first that differ from the second on. */
function swapped(balance: number): number {
  const digits = String(Math.abs(balance));
  const at = [...digits].findIndex((digit, place) => place > 0 && digit !== digits[place + 1]);
  const turned = `${digits.slice(0, at)}${digits[at + 1]}${digits[at]}${digits.slice(at + 2)}`;
  return Math.sign(balance) * Number(turned);
}

/** A line that comes for a month whose statement is agreed. */
const LATE = byHand('2026-02-26', -1_240, 'WICK & ALDER CHEQUE BOOK FEE');

/** Agrees the statements of January and February, and leaves March with differences to be found. */
export async function seedStatements(seeding: Seeding): Promise<void> {
  const { database, booksId } = seeding;
  const run = await commandsOn(seeding, demoToday);
  const bankAccounts = await idsByName(
    seeding,
    sql`select id, name from bank_accounts where books_id = ${booksId}`,
  );
  for (const { name, ends, next, line, says } of ACCOUNTS) {
    const bankAccountId = bankAccounts.get(name) ?? '';
    const of = (to: string) => ({ bankAccountId, to });
    const shown = (to: string) =>
      inBooks(database, booksId, async (tx) => {
        const wanted = { to, today: demoToday };
        return statementOf(tx, booksId, bankAccountId, wanted);
      });
    const type = (to: string, amount: number) =>
      run((command) => changeStatement(command, of(to), { closing: { amount, currency: 'EUR' } }));
    if (line) await run((command) => addLine(command, bankAccountId, line));
    const [first] = await inBooks(database, booksId, async (tx) => {
      const { accounts } = await listStatements(tx, booksId, demoToday);
      return accounts.find((each) => each.bankAccountId === bankAccountId)?.statements ?? [];
    });
    await run((command) => changeStatement(command, of(first?.to ?? ''), { lastDay: BEFORE }));
    if (name === 'Studio card') {
      await run((command) => changeCycle(command, bankAccountId, { kind: 'day', day: 8 }));
      const names = { 'I VARGA': 'Ines Varga', 'M OAKES': 'Mo Oakes' };
      await run((command) => nameHolders(command, bankAccountId, names));
    }
    for (const to of [BEFORE, ...ends]) {
      const { closing, addsUp } = await shown(to);
      if (closing !== addsUp) await type(to, addsUp);
      await run((command) => agreeStatement(command, of(to), SEEN));
    }
    if (name === 'Everyday') await run((command) => addLine(command, bankAccountId, LATE));
    await type(next, says((await shown(next)).addsUp));
  }
  const note = 'Receipts under 150.00 are kept on paper.';
  for (const month of ['2026-01', '2026-02']) {
    await run((command) => closeMonth(command, month, { action: 'prepare', note: '', ...SEEN }));
    await run((command) => closeMonth(command, month, { action: 'close', note, ...SEEN }));
  }
}

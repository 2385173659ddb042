import { Proposal } from '@zubrell/contract/desk';
import { lastDayOf, monthsBetween } from '@zubrell/core/dates/calendarDate';
import { type Coding, wholeLineCoding } from '@zubrell/core/ledger/coding';
import { beginCommand } from '@zubrell/server/commands/beginCommand';
import { type Database, inBooks, rowsOf, type Tx } from '@zubrell/server/db/database';
import { keepBatch } from '@zubrell/server/jobs/keepBatch';
import { createBooks } from '@zubrell/server/modules/books/createBooks';
import {
  createAccount,
  createBankAccount,
  createPayee,
} from '@zubrell/server/modules/books/makeThings';
import { bankLedgers } from '@zubrell/server/modules/books/queries';
import { openReaderPool, type ReadFile } from '@zubrell/server/modules/intake/readInThread';
import { insertBatch } from '@zubrell/server/modules/intake/startBatch';
import { storeUpload } from '@zubrell/server/modules/intake/uploads';
import { postLines } from '@zubrell/server/modules/lines/postLines';
import { isSwept } from '@zubrell/server/modules/lines/targetLines';
import { pairProposed } from '@zubrell/server/modules/pairing/pairProposed';
import { sweepLines, sweepSummary } from '@zubrell/server/modules/proposals/sweep';
import { closeSession, createUser, openSession } from '@zubrell/server/modules/session/sessions';
import type { BooksCommand } from '@zubrell/server/modules/steps/booksCommand';
import { keepPresses } from '@zubrell/server/modules/steps/keepPresses';
import type { Secrets } from '@zubrell/server/secrets';
import type { Actor } from '@zubrell/server/services';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { daysOf, type StandOn } from './days.ts';
import type { Business, MadeBankAccount } from './scenario/business.ts';
import { fennick } from './scenario/fennick.ts';
import { balanceBefore, demoToday, firstMonth, lastMonth } from './scenario/files.ts';
import { larkmoor } from './scenario/larkmoor.ts';
import { type MadeLine, makeLines } from './scenario/makeLines.ts';
import { writeStatement } from './scenario/writeStatement.ts';
import { seedAttachments, seedPaid } from './seedAttachments.ts';
import { seedColleague } from './seedColleague.ts';
import { seedCurrencies } from './seedCurrencies.ts';
import { seedFeeds } from './seedFeeds.ts';
import { seedJobs } from './seedJobs.ts';
import { seedJournals } from './seedJournals.ts';
import { seedOwnMoney } from './seedOwnMoney.ts';
import { seedRules, seedSecondThoughts } from './seedRules.ts';
import { seedStatements } from './seedStatements.ts';
import { seedTax } from './seedTax.ts';

/** Who is signed in by one press. */
export const demoEmail = 'mo@larkmoor.example';

/** Months up to this one are coded and posted; those after it are open. */
const POSTED_TO = '2026-02';
/** Keys for a stack that is coded by hand: some letters of payee and account, and posting it. */
const PRESSES_OF_STACK = '7';
/** Keys for a sweep: opening it and posting; one more for each line that is taken out. */
const PRESSES_OF_SWEEP = 2;
const FENNICK_FROM = '2026-01';

/** What seeding one business works with. */
interface Scene {
  readonly database: Database;
  readonly at: StandOn;
  readonly business: Business;
  readonly booksId: string;
  readonly actor: Actor;
  readonly lines: readonly MadeLine[];
  readonly bankIds: ReadonlyMap<string, string>;
  readonly readFile: ReadFile;
}

/**
 * Fills an empty database with the demo, through the same commands that a user's work goes.
 *
 * @param owner the same database as its owner, who can set the day
 * @param isSmall only the small books
 */
export async function seed(
  database: Database,
  owner: Database,
  secrets: Secrets,
  isSmall = false,
): Promise<void> {
  const at = daysOf(owner);
  const today = await at(demoToday);
  const user = await createUser(database, today, {
    name: 'Mo Oakes',
    email: demoEmail,
    password: 'clay and glaze',
  });
  const session = await openSession(database, today, user.id);
  const actor = { userId: user.id, name: user.name, session };
  const readers = openReaderPool();
  try {
    const { readFile } = readers;
    const open = { database, at, actor, readFile };
    if (!isSmall) await seedLarkmoor(open, secrets);
    await seedBusiness(open, fennick, FENNICK_FROM);
    await at(demoToday);
    await closeSession(database, session);
  } finally {
    await readers.close();
  }
}

/** What the demo is loaded with. */
type Loading = Pick<Scene, 'database' | 'at' | 'actor' | 'readFile'>;

/** The larger books, with every situation in them. */
async function seedLarkmoor(open: Loading, secrets: Secrets): Promise<void> {
  const { database, at, actor } = open;
  const booksId = await seedBusiness(open, larkmoor, firstMonth, async (id, month) => {
    await seedRules({ database, at, booksId: id, actor }, month);
    await seedAttachments({ database, at, booksId: id, actor }, month);
  });
  await seedSecondThoughts(database, booksId, actor, await at(demoToday));
  await seedPaid(database, booksId, actor, await at(demoToday));
  await seedFeeds(database, secrets, booksId, actor);
  await seedJournals({ database, at, booksId, actor });
  await seedJobs({ database, at, booksId, actor });
  await seedTax({ database, at, booksId, actor });
  await seedCurrencies({ database, at, booksId, actor });
  await seedOwnMoney({ database, at, booksId, actor });
  await seedStatements({ database, at, booksId, actor });
  await seedColleague({ database, at, booksId, actor });
}

/**
 * Makes books for a business, with its files kept and its lines posted as they really are, up to the months
 * that are left open.
 *
 * @param beforeMonth what the bookkeeper did before the files of a month were kept
 * @returns the books' id
 */
export async function seedBusiness(
  { database, at, actor, readFile }: Loading,
  business: Business,
  first: string,
  beforeMonth: (booksId: string, month: string) => Promise<void> = async () => undefined,
): Promise<string> {
  const start = await at(`${first}-01`);
  const booksId = await database.transaction((tx) =>
    createBooks(tx, start, actor, { name: business.name, currency: business.currency }),
  );
  const bankIds = await inBooks(database, booksId, async (tx) => {
    const parents = await idsByCode(tx, booksId);
    for (const { parent, ...account } of business.accounts) {
      const parentId = parents.get(parent) ?? null;
      await createAccount(await beginCommand(tx, start, booksId, actor), { ...account, parentId });
    }
    const made = new Map<string, string>();
    for (const { key, name, kind, number } of business.bankAccounts) {
      const wanted = { name, kind, number, bank: kind === 'cash' ? null : 'Wick & Alder' };
      made.set(
        key,
        (await createBankAccount(await beginCommand(tx, start, booksId, actor), wanted)).id,
      );
    }
    return made;
  });
  const lines = makeLines(business, first, lastMonth);
  const scene: Scene = { database, at, readFile, business, booksId, actor, lines, bankIds };
  for (const month of monthsBetween(first, lastMonth)) {
    await beforeMonth(booksId, month);
    for (const account of business.bankAccounts) await keepMonth(scene, account, month);
    if (month <= POSTED_TO) await postMonth(scene, month);
  }
  for (const { bank, fileName, text, day } of business.oddFiles?.(lines) ?? []) {
    await keepText(scene, bank, { fileName, text }, day);
  }
  return booksId;
}

const IdsByCodeRow = z.object({ code: z.string(), id: z.string() });

async function idsByCode(tx: Tx, booksId: string): Promise<Map<string, string>> {
  const rows = await rowsOf(
    tx,
    IdsByCodeRow,
    sql`select code, id from accounts where books_id = ${booksId}`,
  );
  return new Map(rows.map(({ code, id }) => [code, id]));
}

/** Keeps one month's file of a bank account. */
async function keepMonth(scene: Scene, account: MadeBankAccount, month: string): Promise<void> {
  const { business, lines } = scene;
  const own = lines.filter(({ bank, date }) => bank === account.key && date.startsWith(month));
  if (own.length === 0) return;
  const opening = balanceBefore(account, lines, `${month}-01`);
  const text = writeStatement(business, account, own, { opening, closingDate: lastDayOf(month) });
  const ending = account.format.startsWith('ofx') ? 'ofx' : 'csv';
  const fileName = `${account.name.toLowerCase().replace(' ', '-')}-${month}.${ending}`;
  await keepText(scene, account.key, { fileName, text }, dayAfter(month));
}

/** Keeps a file in a bank account, on a day. */
async function keepText(
  { database, at, readFile, booksId, actor, bankIds }: Scene,
  bank: string,
  { fileName, text }: { readonly fileName: string; readonly text: string },
  day: string,
): Promise<void> {
  const services = { database, ...(await at(day)) };
  const { batchId } = await inBooks(database, booksId, async (tx) => {
    const bytes = [new TextEncoder().encode(text)];
    const uploadId = await storeUpload({ tx, booksId, ...services }, fileName, streamOf(bytes));
    const wanted = { uploadId, statementIndex: 0, bankAccountId: bankIds.get(bank) ?? '' };
    return insertBatch({ tx, ...services, booksId, actor }, wanted);
  });
  await keepBatch(services, readFile, {
    booksId,
    batchId,
    acceptRefused: false,
    confirmNumber: false,
    confirmBalance: false,
    confirmDates: false,
    withOpening: true,
    choices: null,
  });
}

/** The day the month's files are kept: the third of the next. */
function dayAfter(month: string): string {
  const [year = 0, number = 0] = month.split('-').map(Number);
  return number === 12 ? `${year + 1}-01-03` : `${year}-${String(number + 1).padStart(2, '0')}-03`;
}

async function* streamOf(pieces: readonly Uint8Array[]): AsyncGenerator<Uint8Array> {
  yield* pieces;
}

/** Posts all lines of a month as they really are, those coded alike together. */
async function postMonth(scene: Scene, month: string): Promise<void> {
  const { database, at, booksId, actor, lines, bankIds } = scene;
  const services = await at(dayAfter(month));
  await inBooks(database, booksId, async (tx) => {
    const accounts = await idsByCode(tx, booksId);
    for (const [key, id] of await ledgersByKey(tx, booksId, bankIds))
      accounts.set(`bank:${key}`, id);
    const taxCodes = await idsByName(tx, booksId, 'tax_codes');
    const payees = await idsByName(tx, booksId, 'payees');
    const waiting = await openLineIds(tx, booksId);
    const groups = new Map<string, { truth: MadeLine['truth']; lineIds: string[] }>();
    for (const line of lines.filter(({ date }) => date.startsWith(month))) {
      const key = lineKey(bankIds.get(line.bank) ?? '', line.date, line.amount, line.wording);
      const lineId = waiting.get(key)?.pop();
      if (lineId === undefined) throw new Error(`the demo lost the line ${key}`);
      const { payee, account, tax } = line.truth;
      const coding = `${payee}|${account}|${tax}`;
      const group = groups.get(coding) ?? { truth: line.truth, lineIds: [] };
      group.lineIds.push(lineId);
      groups.set(coding, group);
    }
    const command = () => beginCommand(tx, services, booksId, actor);
    for (const { truth } of groups.values()) {
      if (truth.payee !== null && !payees.has(truth.payee)) {
        const wanted = { name: truth.payee, kind: truth.payeeKind };
        const { id } = await createPayee(await command(), wanted);
        payees.set(truth.payee, id);
      }
    }
    const codingOf = ({ payee, account, tax }: MadeLine['truth']) =>
      wholeLineCoding(
        accounts.get(account) ?? '',
        payee === null ? null : (payees.get(payee) ?? null),
        tax === null ? null : (taxCodes.get(tax) ?? null),
      );
    const truths = new Map(
      [...groups.values()].flatMap(({ truth, lineIds }) =>
        lineIds.map((id) => [id, codingOf(truth)] as const),
      ),
    );
    const swept = await sweepRight(await command(), truths);
    for (const { truth, lineIds } of groups.values()) {
      const left = lineIds.filter((id) => !swept.has(id));
      if (left.length === 0) continue;
      const seenStep = Number.MAX_SAFE_INTEGER;
      const target = { lineIds: left };
      // The second half of a move is paired with what the first one booked.
      if (truth.account.startsWith('bank:')) {
        await pairProposed(await command(), { target, seenStep });
      }
      const posting = await command();
      await postLines(posting, { target, coding: codingOf(truth), seenStep });
      await keepPresses(posting, PRESSES_OF_STACK);
    }
  });
}

const ReadyRow = z.object({ id: z.string(), proposal: Proposal });

/**
 * Sweeps the Ready lines that are proposed as they really are, as somebody does who has taken out the others, and what
 * rules propose, to look at it.
 *
 * @returns the lines that are posted
 */
async function sweepRight(
  command: BooksCommand,
  truths: ReadonlyMap<string, Coding>,
): Promise<ReadonlySet<string>> {
  const { tx, booksId } = command;
  const { seen, seenStep } = await sweepSummary(tx, booksId, {});
  const ready = await rowsOf(
    tx,
    ReadyRow,
    sql`select l.id, p.proposal from lines l
        join proposals p on p.books_id = l.books_id and p.line_id = l.id
        where l.books_id = ${booksId} and ${await isSwept(command, {})}`,
  );
  const isRight = ({ id, proposal }: z.infer<typeof ReadyRow>) =>
    proposal.kind === 'post' &&
    proposal.source !== 'rule' &&
    isSameCoding(proposal.coding, truths.get(id));
  const without = ready.filter((line) => !isRight(line)).map(({ id }) => id);
  const { done } = await sweepLines(command, { scope: {}, without, seenStep, seen });
  await keepPresses(command, String(PRESSES_OF_SWEEP + without.length));
  return new Set(done);
}

function isSameCoding(proposed: Coding, truth: Coding | undefined): boolean {
  const [own, ...more] = proposed.parts;
  const [wanted] = truth?.parts ?? [];
  return (
    more.length === 0 &&
    proposed.payeeId === truth?.payeeId &&
    own?.accountId === wanted?.accountId &&
    own?.taxCodeId === wanted?.taxCodeId
  );
}

/** The ledger accounts of the bank accounts, by their keys. */
async function ledgersByKey(
  tx: Tx,
  booksId: string,
  bankIds: ReadonlyMap<string, string>,
): Promise<Map<string, string>> {
  const ledger = await bankLedgers(tx, booksId);
  return new Map([...bankIds].flatMap(([key, id]) => [[key, ledger(id) ?? '']]));
}

const IdsByNameRow = z.object({ name: z.string(), id: z.string() });

async function idsByName(
  tx: Tx,
  booksId: string,
  table: 'payees' | 'tax_codes',
): Promise<Map<string, string>> {
  const rows = await rowsOf(
    tx,
    IdsByNameRow,
    sql`select name, id from ${sql.identifier(table)} where books_id = ${booksId}`,
  );
  return new Map(rows.map(({ name, id }) => [name, id]));
}

const OpenLineIdsRow = z.object({
  id: z.string(),
  bank: z.string(),
  date: z.string(),
  amount: z.number(),
  description: z.string(),
});

async function openLineIds(tx: Tx, booksId: string): Promise<Map<string, string[]>> {
  const rows = await rowsOf(
    tx,
    OpenLineIdsRow,
    sql`select id, bank_account_id as bank, date, amount, description from lines l
        where books_id = ${booksId} and not exists (
          select from decision_lines dl
          where dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live)`,
  );
  const ids = new Map<string, string[]>();
  for (const { id, bank, date, amount, description } of rows) {
    const key = lineKey(bank, date, amount, description);
    ids.set(key, [...(ids.get(key) ?? []), id]);
  }
  return ids;
}

function lineKey(bank: string, date: string, amount: number, wording: string): string {
  return `${bank} ${date} ${amount} ${wording}`;
}

import { randomUUID } from 'node:crypto';
import type { StepDone } from '@zubrell/contract/common';
import type { HandEntry } from '@zubrell/contract/ledger';
import { fail } from '@zubrell/core/errors';
import { buildLegs, type Leg } from '@zubrell/core/ledger/buildLegs';
import { type Coding, wholeLineCoding } from '@zubrell/core/ledger/coding';
import { type EntryKind, handDirection, handKinds } from '@zubrell/core/ledger/entries';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import { candidateName } from '@zubrell/core/pair/pairWords';
import { lowerFirst } from '@zubrell/core/text/lowerFirst';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { type BooksLookups, loadLookups } from '../books/lookups.ts';
import { needs, needsOfCodings } from '../books/needsOf.ts';
import { bankAccountOf, booksCurrency } from '../books/queries.ts';
import { renewForEntries } from '../pairing/renewNamed.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { type Need, recordStep, type StepItem } from '../steps/recordStep.ts';
import { insertEntries, type NewEntry } from './insertEntries.ts';

/** What a command on entries answers. */
export interface EntryDone extends StepDone {
  readonly id: string;
}

/**
 * Enters something by hand that the bank has not reported yet, or that it never will.
 *
 * @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN, PERIOD_CLOSED, JOURNAL_UNBALANCED and those of a coding
 */
export async function enterByHand(command: BooksCommand, wanted: HandEntry): Promise<EntryDone> {
  const { tx, booksId, step } = command;
  const [entry] = await newEntries(tx, booksId, [wanted]);
  if (!entry) fail('ENTRY_NIL');
  await insertEntries(command, [entry]);
  const words = `Entered ${await entryWords(tx, booksId, entry)}`;
  await recordStep(command, {
    kind: 'enter',
    words,
    items: [madeEntry(entry.id)],
    needs: needsOfEntries([wanted]),
  });
  await renewForEntries(tx, booksId, [entry.id]);
  return { id: entry.id, step, words };
}

/**
 * Changes an entry made by hand: it is voided, and another put in its place that says so.
 *
 * @throws {ZubrellError} ENTRY_UNKNOWN, ENTRY_VOID, ENTRY_PAIRED, ENTRY_NOT_BY_HAND, PERIOD_CLOSED
 */
export async function changeEntry(
  command: BooksCommand,
  entryId: string,
  wanted: HandEntry,
): Promise<EntryDone> {
  const { tx, booksId, step } = command;
  await freeEntry(tx, booksId, entryId);
  const [entry] = await newEntries(tx, booksId, [wanted], entryId);
  if (!entry) fail('ENTRY_NIL');
  const items = await replaceEntry(command, entryId, entry);
  const words = `Changed ${await entryWords(tx, booksId, entry)}`;
  await recordStep(command, {
    kind: 'changeEntry',
    words,
    items,
    needs: needsOfEntries([wanted]),
  });
  await renewForEntries(tx, booksId, [entryId, entry.id]);
  return { id: entry.id, step, words };
}

/**
 * Voids an entry made by hand: it stays to be seen and weighs nothing.
 *
 * @throws {ZubrellError} ENTRY_UNKNOWN, ENTRY_VOID, ENTRY_PAIRED, ENTRY_NOT_BY_HAND, PERIOD_CLOSED
 */
export async function voidEntry(command: BooksCommand, entryId: string): Promise<EntryDone> {
  const { tx, booksId, step } = command;
  const { kind, number } = await freeEntry(tx, booksId, entryId);
  await setVoid(tx, booksId, entryId, true);
  const words = `Voided ${lowerFirst(candidateName({ kind, number }))}`;
  const items = [voidItem(entryId)];
  await recordStep(command, { kind: 'voidEntry', words, items });
  await renewForEntries(tx, booksId, [entryId]);
  return { id: entryId, step, words };
}

/**
 * Corrects the amount of an entry of one part, as part of a step.
 *
 * @param by how much more it has to come to, in positive, out negative
 * @returns the new bank leg, and what the step touched
 * @throws {ZubrellError} PAIR_CORRECT where it can't be corrected so
 */
export async function correctEntry(
  command: BooksCommand,
  entryId: string,
  by: number,
): Promise<{ readonly id: string; readonly items: readonly StepItem[] }> {
  const { tx, booksId } = command;
  const { content } = await freeEntry(tx, booksId, entryId);
  if (content === null || content.kind === 'journal' || content.kind === 'transfer') {
    fail('PAIR_CORRECT');
  }
  const [part, ...others] = content.parts;
  if (others.length > 0 || part?.share.kind !== 'rest') fail('PAIR_CORRECT');
  const amount = content.amount + handDirection(content.kind) * by;
  const parts = [{ ...part, tax: null }];
  const [entry] = await newEntries(tx, booksId, [{ ...content, amount, parts }], entryId);
  if (!entry) fail('PAIR_CORRECT');
  const items = await replaceEntry(command, entryId, entry);
  return { id: entry.legs[0]?.id ?? '', items };
}

/** What has to be there for entries to hold. */
export function needsOfEntries(entries: readonly HandEntry[]): Need[] {
  return entries.flatMap((entry) => [
    ...needs('bankAccount', [
      entry.kind === 'journal' ? null : entry.bankAccountId,
      entry.kind === 'transfer' ? entry.toBankAccountId : null,
    ]),
    // Of bank accounts only the bank account is named: nothing is looked up here.
    ...(entry.kind === 'transfer' ? [] : needsOfCodings([codingOf(entry, () => '')])),
  ]);
}

/** An entry that a step made. */
export const madeEntry = (id: string): StepItem => ({
  thing: 'entry',
  thingId: id,
  before: { isVoid: true },
  after: { isVoid: false },
});

const voidItem = (id: string): StepItem => ({
  thing: 'entry',
  thingId: id,
  before: { isVoid: false },
  after: { isVoid: true },
});

async function replaceEntry(
  command: BooksCommand,
  entryId: string,
  entry: NewEntry,
): Promise<StepItem[]> {
  const { tx, booksId } = command;
  await setVoid(tx, booksId, entryId, true);
  await insertEntries(command, [entry]);
  return [voidItem(entryId), madeEntry(entry.id)];
}

async function setVoid(tx: Tx, booksId: string, entryId: string, isVoid: boolean): Promise<void> {
  await tx.execute(
    sql`update entries set is_void = ${isVoid} where books_id = ${booksId} and id = ${entryId}`,
  );
}

interface FreeEntry {
  readonly kind: (typeof handKinds)[number];
  readonly number: string | null;
  readonly content: HandEntry | null;
}

/** An entry made by hand that nothing is tied to. */
async function freeEntry(tx: Tx, booksId: string, entryId: string): Promise<FreeEntry> {
  const [entry] = await rowsOf<
    Omit<FreeEntry, 'kind'> & { kind: EntryKind; isVoid: boolean; isPaired: boolean }
  >(
    tx,
    sql`select e.kind, e.number, e.content, e.is_void as "isVoid",
          exists (select from legs g
            join decision_legs x on x.books_id = g.books_id and x.leg_id = g.id and x.is_live
            where g.books_id = e.books_id and g.entry_id = e.id) as "isPaired"
        from entries e where e.books_id = ${booksId} and e.id = ${entryId} for update of e`,
  );
  if (!entry) fail('ENTRY_UNKNOWN');
  const kind = handKinds.find((each) => each === entry.kind) ?? fail('ENTRY_NOT_BY_HAND');
  if (entry.isVoid) fail('ENTRY_VOID');
  if (entry.isPaired) fail('ENTRY_PAIRED');
  return { ...entry, kind };
}

/** What was typed, as entries with their legs. */
export async function newEntries(
  tx: Tx,
  booksId: string,
  wanted: readonly HandEntry[],
  replaces: string | null = null,
): Promise<readonly NewEntry[]> {
  const banks = new Map<string, Awaited<ReturnType<typeof bankAccountOf>>>();
  const bankOf = async (id: string) => {
    const known = banks.get(id) ?? (await bankAccountOf(tx, booksId, id));
    banks.set(id, known);
    return known;
  };
  for (const each of wanted) {
    if (each.kind !== 'journal') await bankOf(each.bankAccountId);
    if (each.kind === 'transfer') await bankOf(each.toBankAccountId);
  }
  const ledgerOf = (id: string) => banks.get(id)?.accountId ?? fail('BANK_ACCOUNT_UNKNOWN');
  const codings = wanted.map((each) => codingOf(each, ledgerOf));
  const lookups = await loadLookups(tx, booksId, codings);
  const currency = await booksCurrency(tx, booksId);
  return wanted.map((each, at): NewEntry => {
    const coding = codings[at] ?? fail('ENTRY_NIL');
    const closed = each.kind === 'journal' ? null : (banks.get(each.bankAccountId)?.closed ?? null);
    if (closed !== null && each.date <= closed) fail('PERIOD_CLOSED', { date: each.date, closed });
    const legs =
      each.kind === 'journal'
        ? journalLegs(each, lookups, currency)
        : bankLegs(each, coding, lookups, ledgerOf(each.bankAccountId));
    return {
      id: randomUUID(),
      date: each.date,
      kind: each.kind,
      payeeId: each.kind === 'transfer' ? null : each.payeeId,
      note: each.note,
      number: each.kind === 'transfer' ? null : each.number,
      content: each,
      replaces,
      legs: legs.map((leg) => ({ ...leg, id: randomUUID() })),
    };
  });
}

function codingOf(entry: HandEntry, ledgerOf: (id: string) => string): Coding {
  switch (entry.kind) {
    case 'transfer':
      return wholeLineCoding(ledgerOf(entry.toBankAccountId), null, null, entry.note);
    case 'journal':
      return {
        payeeId: entry.payeeId,
        note: entry.note,
        parts: entry.legs.map(({ accountId }) => ({
          accountId,
          taxCodeId: null,
          share: { kind: 'rest' },
          tax: null,
        })),
      };
    default:
      return { payeeId: entry.payeeId, parts: entry.parts, note: entry.note };
  }
}

function bankLegs(
  entry: Exclude<HandEntry, { kind: 'journal' }>,
  coding: Coding,
  lookups: BooksLookups,
  ledgerId: string,
): readonly Leg[] {
  if (coding.parts.some(({ accountId }) => accountId === ledgerId)) {
    fail('TRANSFER_SELF', { name: lookups.accountName(ledgerId) });
  }
  lookups.checkCoding(coding);
  const direction = entry.kind === 'transfer' ? -1 : handDirection(entry.kind);
  return buildLegs(direction * entry.amount, ledgerId, coding, lookups.on(entry.date));
}

function journalLegs(
  entry: Extract<HandEntry, { kind: 'journal' }>,
  lookups: BooksLookups,
  currency: string,
): readonly Leg[] {
  const sum = (sign: 1 | -1) =>
    entry.legs.reduce((total, { amount }) => total + Math.max(sign * amount, 0), 0);
  const [debits, credits] = [sum(1), sum(-1)];
  if (debits === 0) fail('ENTRY_NIL');
  if (debits !== credits) {
    fail('JOURNAL_UNBALANCED', {
      debits: formatAmount(debits, currency),
      credits: formatAmount(credits, currency),
    });
  }
  const { isBank } = lookups.on(entry.date);
  return entry.legs.map(({ accountId, amount }) => ({
    accountId,
    amount,
    taxCodeId: null,
    role: isBank(accountId) ? 'bank' : 'base',
  }));
}

/** @example 'cheque 001042 of −48.50 to Penhallow Clay' */
async function entryWords(tx: Tx, booksId: string, entry: NewEntry): Promise<string> {
  const kind = handKinds.find((each) => each === entry.kind) ?? 'journal';
  const name = candidateName({ kind, number: entry.number ?? null });
  const size = Math.max(...entry.legs.map(({ amount }) => Math.abs(amount)));
  const shown = formatAmount(size, await booksCurrency(tx, booksId));
  const [payee] = await rowsOf<{ name: string }>(
    tx,
    sql`select name from payees where books_id = ${booksId} and id = ${entry.payeeId}`,
  );
  const words = `${lowerFirst(name)} of ${shown}`;
  return payee ? `${words}, ${payee.name}` : words;
}

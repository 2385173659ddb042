import type { Made } from '@zubrell/contract/common';
import { HandEntry } from '@zubrell/contract/ledger';
import { fail } from '@zubrell/core/errors';
import type { BooksId, EntryId } from '@zubrell/core/ids';
import { entryKinds, handDirection, handKinds } from '@zubrell/core/ledger/entries';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import { candidateName } from '@zubrell/core/pair/pairWords';
import { lowerFirst } from '@zubrell/core/text/lowerFirst';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { IdRow, NameRow } from '../../db/rows.ts';
import { booksCurrency } from '../books/queries.ts';
import { offsetItem } from '../decisions/offsetItem.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { inTheWayOf, putItems } from '../steps/putItems.ts';
import { recordStep, type StepItem } from '../steps/recordStep.ts';
import { entryItem, followPlans, handPlans, insertHandPlans, needsOfEntries } from './handPlans.ts';
import type { NewEntry } from './insertEntries.ts';

/**
 * Enters something by hand that the bank has not reported yet, or that it never will.
 *
 * @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN, PERIOD_CLOSED, JOURNAL_UNBALANCED and those of a coding
 */
export async function enterByHand(command: BooksCommand, wanted: HandEntry): Promise<Made> {
  const { tx, booksId, step } = command;
  const plans = await handPlans(tx, booksId, [wanted]);
  const [{ entry } = fail('ENTRY_NIL')] = plans;
  const items = await insertHandPlans(command, plans);
  const words = `Entered ${await entryWords(tx, booksId, entry)}`;
  await recordStep(command, { kind: 'enter', words, items, needs: needsOfEntries([wanted]) });
  await followPlans(command, plans);
  return { id: entry.id, step, words };
}

/**
 * Changes an entry made by hand: it is voided, and another put in its place that says so.
 *
 * @throws {ZubrellError} ENTRY_UNKNOWN, ENTRY_VOID, ENTRY_PAIRED, ENTRY_IN_USE, ENTRY_NOT_BY_HAND, PERIOD_CLOSED
 */
export async function changeEntry(
  command: BooksCommand,
  entryId: EntryId,
  wanted: HandEntry,
): Promise<Made> {
  const { tx, booksId, step } = command;
  await freeEntry(tx, booksId, entryId);
  const gone = await voidFree(command, entryId);
  const plans = await handPlans(tx, booksId, [wanted], entryId);
  const [{ entry } = fail('ENTRY_NIL')] = plans;
  const items = [...gone, ...(await insertHandPlans(command, plans))];
  const words = `Changed ${await entryWords(tx, booksId, entry)}`;
  await recordStep(command, {
    kind: 'changeEntry',
    words,
    items,
    needs: needsOfEntries([wanted]),
  });
  await followPlans(command, plans);
  return { id: entry.id, step, words };
}

/**
 * Voids an entry made by hand: it stays to be seen and weighs nothing.
 *
 * @throws {ZubrellError} ENTRY_UNKNOWN, ENTRY_VOID, ENTRY_PAIRED, ENTRY_IN_USE, ENTRY_NOT_BY_HAND, PERIOD_CLOSED
 */
export async function voidEntry(command: BooksCommand, entryId: EntryId): Promise<Made> {
  const { tx, booksId, step } = command;
  const { kind, number } = await freeEntry(tx, booksId, entryId);
  const items = await voidFree(command, entryId);
  const words = `Voided ${lowerFirst(candidateName({ kind, number }))}`;
  await recordStep(command, { kind: 'voidEntry', words, items });
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
  entryId: EntryId,
  by: number,
): Promise<{ readonly id: string; readonly items: readonly StepItem[] }> {
  const { tx, booksId } = command;
  const { content } = await freeEntry(tx, booksId, entryId);
  if (content === null || content.kind === 'journal' || content.kind === 'transfer') {
    fail('PAIR_CORRECT');
  }
  const [part, ...others] = content.parts;
  const isSettling = content.settles?.length || content.leavesCredit;
  if (others.length > 0 || part?.share.kind !== 'rest' || isSettling) fail('PAIR_CORRECT');
  const amount = content.amount + handDirection(content.kind) * by;
  const parts = [{ ...part, tax: null }];
  const gone = await voidFree(command, entryId);
  const plans = await handPlans(tx, booksId, [{ ...content, amount, parts }], entryId);
  const items = await insertHandPlans(command, plans);
  return { id: plans[0]?.entry.legs[0]?.id ?? '', items: [...gone, ...items] };
}

/**
 * Voids an entry that no line is paired with, and gives back what it settled.
 *
 * @returns what the step touched
 * @throws {ZubrellError} ENTRY_IN_USE
 */
async function voidFree(command: BooksCommand, entryId: EntryId): Promise<StepItem[]> {
  const { tx, booksId } = command;
  const settled = await rowsOf(
    tx,
    IdRow,
    sql`select distinct x.decision_id as id from legs g
        join decision_legs x on x.books_id = g.books_id and x.leg_id = g.id and x.is_live
        where g.books_id = ${booksId} and g.entry_id = ${entryId} and g.role = 'control'`,
  );
  const items = [...settled.map(({ id }) => offsetItem(id, false)), entryItem(entryId, false)];
  const { taken } = await inTheWayOf(command, items);
  if (taken.length > 0) fail('ENTRY_IN_USE');
  await putItems(command, items);
  return items;
}

const FreeEntry = z.object({
  kind: z.enum(handKinds),
  number: z.string().nullable(),
  content: HandEntry.nullable(),
});
type FreeEntry = z.infer<typeof FreeEntry>;

const EntryRow = FreeEntry.omit({ kind: true }).extend({
  kind: z.enum(entryKinds),
  isVoid: z.boolean(),
  isPaired: z.boolean(),
});

/** An entry made by hand that nothing is tied to. */
async function freeEntry(tx: Tx, booksId: BooksId, entryId: EntryId): Promise<FreeEntry> {
  const [entry] = await rowsOf(
    tx,
    EntryRow,
    sql`select e.kind, e.number, e.content, e.is_void as "isVoid",
          exists (select from legs g
            join decision_legs x on x.books_id = g.books_id and x.leg_id = g.id and x.is_live
            where g.books_id = e.books_id and g.entry_id = e.id and g.role = 'bank') as "isPaired"
        from entries e where e.books_id = ${booksId} and e.id = ${entryId} for update of e`,
  );
  if (!entry) fail('ENTRY_UNKNOWN');
  const kind = handKinds.find((each) => each === entry.kind) ?? fail('ENTRY_NOT_BY_HAND');
  if (entry.isVoid) fail('ENTRY_VOID');
  if (entry.isPaired) fail('ENTRY_PAIRED');
  return { ...entry, kind };
}

/** @example 'cheque 001042 of −48.50 to Penhallow Clay' */
async function entryWords(tx: Tx, booksId: BooksId, entry: NewEntry): Promise<string> {
  const kind = handKinds.find((each) => each === entry.kind) ?? 'journal';
  const name = candidateName({ kind, number: entry.number ?? null });
  const size = Math.max(...entry.legs.map(({ amount }) => Math.abs(amount)));
  const shown = formatAmount(size, await booksCurrency(tx, booksId));
  const [payee] = await rowsOf(
    tx,
    NameRow,
    sql`select name from payees where books_id = ${booksId} and id = ${entry.payeeId}`,
  );
  const words = `${lowerFirst(name)} of ${shown}`;
  return payee ? `${words}, ${payee.name}` : words;
}

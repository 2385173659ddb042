import type { Made } from '@zubrell/contract/common';
import { type EnterByHand, HandEntry } from '@zubrell/contract/ledger';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { BooksId, EntryId, JournalPlanId } from '@zubrell/core/ids';
import { entryKinds, handDirection, handKinds } from '@zubrell/core/ledger/entries';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { lowerFirst } from '@zubrell/core/text/lowerFirst';
import { amountSaid, dateSaid, type Said, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { IdRow, idRow, NameRow } from '../../db/rows.ts';
import { needs } from '../books/needsOf.ts';
import { booksCurrency } from '../books/queries.ts';
import { offsetItem } from '../decisions/offsetItem.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { inTheWayOf, putItems } from '../steps/putItems.ts';
import { plainWords, recordStep, type StepItem } from '../steps/recordStep.ts';
import { entryItem, followPlans, handPlans, insertHandPlans, needsOfEntries } from './handPlans.ts';
import type { NewEntry } from './insertEntries.ts';
import { reversalPlans, withReversal } from './reversals.ts';

/**
 * Enters something by hand that the bank has not reported yet, or that it never will.
 *
 * @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN, PERIOD_CLOSED, JOURNAL_UNBALANCED, those of a coding and of
 * `withReversal`
 */
export async function enterByHand(
  command: BooksCommand,
  { entry: wanted, reverseOn = null }: EnterByHand,
): Promise<Made> {
  const { tx, booksId, step } = command;
  const plans = await withReversal(tx, booksId, await handPlans(tx, booksId, [wanted]), reverseOn);
  const [{ entry } = fail('ENTRY_NIL')] = plans;
  const items = await insertHandPlans(command, plans);
  const words = say`Entered ${await entryWords(tx, booksId, entry)}${reversedWords(reverseOn)}`;
  await recordStep(command, { kind: 'enter', words, items, needs: needsOfEntries([wanted]) });
  await followPlans(command, plans);
  return { id: entry.id, step, words: plainWords(words) };
}

/**
 * Changes an entry made by hand: it is voided, and another put in its place that says so. A journal's reversal changes
 * with it.
 *
 * @throws {ZubrellError} ENTRY_UNKNOWN, ENTRY_VOID, ENTRY_PAIRED, ENTRY_IN_USE, ENTRY_NOT_BY_HAND, PERIOD_CLOSED and
 * those of `withReversal`
 */
export async function changeEntry(
  command: BooksCommand,
  entryId: EntryId,
  { entry: wanted, reverseOn = null }: EnterByHand,
): Promise<Made> {
  const { tx, booksId, step } = command;
  const { reversalIds, reverses, plan } = await freeEntry(tx, booksId, entryId);
  if (reverses !== null && reverseOn !== null) fail('REVERSAL_NOT_JOURNAL');
  const gone = await voidFree(command, [...reversalIds, entryId]);
  const [first = fail('ENTRY_NIL')] = await handPlans(tx, booksId, [wanted]);
  // What it reverses or was due for, only a journal still does.
  const links = wanted.kind === 'journal' ? { reverses, plan } : {};
  const entry = { ...first.entry, replaces: entryId, ...links };
  const plans = await withReversal(tx, booksId, [{ ...first, entry }], reverseOn);
  const items = [...gone, ...(await insertHandPlans(command, plans))];
  const words = say`Changed ${await entryWords(tx, booksId, entry)}${reversedWords(reverseOn)}`;
  await recordStep(command, {
    kind: 'changeEntry',
    words,
    items,
    needs: needsOfEntries([wanted]),
  });
  await followPlans(command, plans);
  return { id: entry.id, step, words: plainWords(words) };
}

/**
 * Reverses a journal on a day: an entry with the same legs turned.
 *
 * @throws {ZubrellError} ENTRY_UNKNOWN, ENTRY_VOID, ENTRY_REVERSED, PERIOD_CLOSED and those of `withReversal`
 */
export async function reverseEntry(
  command: BooksCommand,
  entryId: EntryId,
  date: string,
): Promise<Made> {
  const { tx, booksId, step } = command;
  const { kind, content, reversedOn, reverses, isVoid } = await handEntry(tx, booksId, entryId);
  if (isVoid) fail('ENTRY_VOID');
  if (reversedOn !== null) fail('ENTRY_REVERSED', { date: formatLongDate(reversedOn) });
  if (kind !== 'journal' || content === null || reverses !== null) fail('REVERSAL_NOT_JOURNAL');
  const [{ entry } = fail('ENTRY_NIL')] = await handPlans(tx, booksId, [content]);
  const plans = await reversalPlans(tx, booksId, { ...entry, id: entryId }, date);
  const items = await insertHandPlans(command, plans);
  const name = await entryWords(tx, booksId, entry);
  const words = say`Reversed ${name}, of ${dateSaid(entry.date)}, on ${dateSaid(date)}`;
  await recordStep(command, {
    kind: 'reverseEntry',
    words,
    items,
    needs: [...needs('entry', [entryId]), ...needsOfEntries([content])],
  });
  await followPlans(command, plans);
  return { id: plans[0]?.entry.id ?? '', step, words: plainWords(words) };
}

const reversedWords = (date: string | null) =>
  date === null ? '' : say`, reversed on ${dateSaid(date)}`;

/**
 * Voids an entry made by hand, and its reversal with it: they stay to be seen and weigh nothing.
 *
 * @throws {ZubrellError} ENTRY_UNKNOWN, ENTRY_VOID, ENTRY_PAIRED, ENTRY_IN_USE, ENTRY_NOT_BY_HAND, PERIOD_CLOSED
 */
export async function voidEntry(command: BooksCommand, entryId: EntryId): Promise<Made> {
  const { tx, booksId, step } = command;
  const { kind, number, reversalIds } = await freeEntry(tx, booksId, entryId);
  const items = await voidFree(command, [...reversalIds, entryId]);
  const words = say`Voided ${lowerFirst(candidateName({ kind, number }))}`;
  await recordStep(command, { kind: 'voidEntry', words, items });
  return { id: entryId, step, words: plainWords(words) };
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
  const gone = await voidFree(command, [entryId]);
  const [plan = fail('ENTRY_NIL')] = await handPlans(tx, booksId, [{ ...content, amount, parts }]);
  const entry = { ...plan.entry, replaces: entryId };
  const items = await insertHandPlans(command, [{ ...plan, entry }]);
  return { id: entry.legs[0]?.id ?? '', items: [...gone, ...items] };
}

/**
 * Voids entries that no line is paired with, and gives back what they settled.
 *
 * @returns what the step touched
 * @throws {ZubrellError} ENTRY_IN_USE
 */
async function voidFree(command: BooksCommand, entryIds: readonly EntryId[]): Promise<StepItem[]> {
  const { tx, booksId } = command;
  const settled = await rowsOf(
    tx,
    IdRow,
    sql`select distinct x.decision_id as id from legs g
        join decision_legs x on x.books_id = g.books_id and x.leg_id = g.id and x.is_live
        where g.books_id = ${booksId} and g.entry_id = any(${sql.param(entryIds)}::uuid[])
          and g.role = 'control'`,
  );
  const items = [
    ...settled.map(({ id }) => offsetItem(id, false)),
    ...entryIds.map((id) => entryItem(id, false)),
  ];
  const { taken } = await inTheWayOf(command, items);
  if (taken.length > 0) fail('ENTRY_IN_USE');
  await putItems(command, items);
  return items;
}

const HandRow = z.object({
  kind: z.enum(entryKinds),
  number: z.string().nullable(),
  content: HandEntry.nullable(),
  isVoid: z.boolean(),
  isPaired: z.boolean(),
  reverses: idRow<EntryId>().nullable(),
  plan: z.object({ id: idRow<JournalPlanId>(), date: z.string() }).nullable(),
  reversalIds: z.array(idRow<EntryId>()),
  reversedOn: z.string().nullable(),
});

/** An entry made by hand, as it is about to be changed. */
async function handEntry(tx: Tx, booksId: BooksId, entryId: EntryId) {
  const [entry] = await rowsOf(
    tx,
    HandRow,
    sql`select e.kind, e.number, e.content, e.is_void as "isVoid", e.reverses,
          exists (select from legs g
            join decision_legs x on x.books_id = g.books_id and x.leg_id = g.id and x.is_live
            where g.books_id = e.books_id and g.entry_id = e.id and g.role = 'bank') as "isPaired",
          case when e.plan_id is not null
            then json_build_object('id', e.plan_id, 'date', e.plan_date) end as plan,
          (select coalesce(json_agg(r.id), '[]') from entries r
            where r.books_id = e.books_id and r.reverses = e.id and not r.is_void) as "reversalIds",
          (select r.date from entries r
            where r.books_id = e.books_id and r.reverses = e.id and not r.is_void) as "reversedOn"
        from entries e where e.books_id = ${booksId} and e.id = ${entryId} for update of e`,
  );
  return entry ?? fail('ENTRY_UNKNOWN');
}

/** An entry made by hand that nothing is tied to. */
async function freeEntry(tx: Tx, booksId: BooksId, entryId: EntryId) {
  const entry = await handEntry(tx, booksId, entryId);
  const kind = handKinds.find((each) => each === entry.kind) ?? fail('ENTRY_NOT_BY_HAND');
  if (entry.isVoid) fail('ENTRY_VOID');
  if (entry.isPaired) fail('ENTRY_PAIRED');
  return { ...entry, kind };
}

/** @example 'cheque 001042 of −48.50 to Penhallow Clay' */
async function entryWords(tx: Tx, booksId: BooksId, entry: NewEntry): Promise<Said> {
  const kind = handKinds.find((each) => each === entry.kind) ?? 'journal';
  const name = candidateName({ kind, number: entry.number ?? null });
  const size = Math.max(...entry.legs.map(({ amount }) => Math.abs(amount)));
  const shown = amountSaid(size, await booksCurrency(tx, booksId));
  const [payee] = await rowsOf(
    tx,
    NameRow,
    sql`select name from payees where books_id = ${booksId} and id = ${entry.payeeId}`,
  );
  const words = say`${lowerFirst(name)} of ${shown}`;
  return payee ? say`${words}, ${payee.name}` : words;
}

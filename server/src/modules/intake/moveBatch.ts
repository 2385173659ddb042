import { randomUUID } from 'node:crypto';
import type { StepDone } from '@zubrell/contract/common';
import type { Batch, FileProblem, MoveBatch } from '@zubrell/contract/intake';
import { fail } from '@zubrell/core/errors';
import type { StatementFacts } from '@zubrell/core/formats/bankFile';
import type { BatchId, BooksId } from '@zubrell/core/ids';
import { say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { IdRow } from '../../db/rows.ts';
import { batches } from '../../db/schema/lines.ts';
import { needs } from '../books/needsOf.ts';
import { withResting } from '../lines/restingItems.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { putItems } from '../steps/putItems.ts';
import { plainWords, recordStep, type StepItem } from '../steps/recordStep.ts';
import { copyIncomingFromBatch, createIncoming } from './incoming.ts';
import { apartOf, goesAway } from './keepApart.ts';
import { type Incoming, placeBatch } from './keepIncoming.ts';
import { decidedOnlyHere, keptBatch, takeBackItems } from './takeBackBatch.ts';

const TargetRow = z.object({ name: z.string(), currency: z.string() });

/**
 * Moves a batch that was kept in the wrong bank account, as one step: it is taken back there with what
 * was decided on it and its opening balance, and its lines come into the right account like any
 * batch's.
 *
 * @throws {ZubrellError} NOT_FOUND, BATCH_NOT_KEPT, BATCH_SAME_ACCOUNT, BANK_ACCOUNT_UNKNOWN,
 *   PERIOD_CLOSED, OPENING_AFTER_LINES
 */
export async function moveBatch(
  command: BooksCommand,
  batchId: BatchId,
  { bankAccountId }: MoveBatch,
): Promise<StepDone> {
  const { tx, clock, booksId, actor, step } = command;
  const batch = await keptBatch(tx, booksId, batchId);
  if (batch.bankAccountId === bankAccountId) fail('BATCH_SAME_ACCOUNT');
  const [target] = await rowsOf(
    tx,
    TargetRow,
    sql`select b.name, coalesce(b.currency, k.currency) as currency from bank_accounts b join books k on k.id = b.books_id
        where b.books_id = ${booksId} and b.id = ${bankAccountId} and b.is_here`,
  );
  if (!target) fail('BANK_ACCOUNT_UNKNOWN');
  await createIncoming(tx);
  await copyIncomingFromBatch(tx, booksId, batchId);
  const opening = await openingOf(tx, booksId, batch.step);
  const back = await withResting(command, [
    ...(await decidedOnlyHere(tx, booksId, batchId)),
    ...(await apartOf(tx, booksId, batchId)).map(goesAway),
    ...opening,
    ...takeBackItems(batchId),
  ]);
  await putItems(command, back);
  const movedId = randomUUID();
  await tx.insert(batches).values({
    booksId,
    id: movedId,
    bankAccountId,
    fileName: batch.fileName,
    statementIndex: 0,
    movedFrom: batchId,
    status: 'reading',
    createdBy: actor.userId,
    createdAt: clock.now(),
  });
  const { items } = await placeBatch(command, {
    batchId: movedId,
    bankAccountId,
    accountName: target.name,
    fileName: batch.fileName,
    createdBy: actor.userId,
    currency: target.currency,
    confirmBalance: true,
    withOpening: opening.length > 0,
    facts: await factsOf(tx, batch.problems, batch.format),
    statement: await statementOf(tx, booksId, batchId),
  });
  const words = say`Moved ${batch.fileName} to ${target.name}`;
  await recordStep(command, {
    kind: 'moveBatch',
    words,
    items: [...back, ...items],
    needs: needs('bankAccount', [bankAccountId]),
  });
  return { step, words: plainWords(words) };
}

/** What voids the opening balance that came with the batch, if one did. */
async function openingOf(tx: Tx, booksId: BooksId, keptStep: number | null): Promise<StepItem[]> {
  const rows = await rowsOf(
    tx,
    IdRow,
    sql`select e.id from entries e
        where e.books_id = ${booksId} and e.step = ${keptStep} and e.kind = 'opening'
          and not e.is_void`,
  );
  return rows.map(({ id }) => ({
    thing: 'entry',
    thingId: id,
    before: { isVoid: false },
    after: { isVoid: true },
  }));
}

const SumRow = z.object({
  count: z.number(),
  first: z.string().nullable(),
  last: z.string().nullable(),
  total: z.number(),
});

async function factsOf(
  tx: Tx,
  problems: readonly FileProblem[],
  format: Batch['format'],
): Promise<Incoming['facts']> {
  const [sum] = await rowsOf(
    tx,
    SumRow,
    sql`select count(*)::int as count, min(date) as first, max(date) as last,
          coalesce(sum(amount), 0)::bigint as total from incoming`,
  );
  const summary = sum ?? { count: 0, first: null, last: null, total: 0 };
  // The layout stays with the account it was found for.
  const file = { format, problems, layout: null, encoding: '' };
  return { summary, file };
}

const StatementRow = z.object({
  from: z.string().nullable(),
  to: z.string().nullable(),
  opening: z.int().nullable(),
  closing: z.int().nullable(),
  closingDate: z.string().nullable(),
});

const DayBalanceRow = z.object({ date: z.string(), amount: z.int() });

async function statementOf(tx: Tx, booksId: BooksId, batchId: BatchId): Promise<StatementFacts> {
  const [row] = await rowsOf(
    tx,
    StatementRow,
    sql`select from_date as "from", to_date as "to", opening, closing,
          closing_date as "closingDate"
        from batches where books_id = ${booksId} and id = ${batchId}`,
  );
  const dayBalances = await rowsOf(
    tx,
    DayBalanceRow,
    sql`select date, amount from day_balances
        where books_id = ${booksId} and batch_id = ${batchId} order by date`,
  );
  if (!row) fail('NOT_FOUND');
  return { ...row, dayBalances, account: null, bank: null, kind: null, currency: null };
}

import { fail } from '@zubrell/core/errors';
import {
  type BankFileFacts,
  type FileFormat,
  refusedOf,
  type StatementFacts,
} from '@zubrell/core/formats/bankFile';
import {
  type LayoutChoices,
  shapeOf,
  type TableLayout,
} from '@zubrell/core/formats/table/tableLayout';
import type { BankAccountId, BatchId, BooksId } from '@zubrell/core/ids';
import {
  closingBalance,
  expectedClosing,
  type LinesSummary,
  openingBalance,
  statementGap,
} from '@zubrell/core/intake/statementBalances';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import { linesSaid, type Said, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { bulkInsert } from '../../db/bulkInsert.ts';
import { type BooksTx, rowsOf, type Tx } from '../../db/database.ts';
import { needs } from '../books/needsOf.ts';
import { insertOpening } from '../ledger/openingBalance.ts';
import { markHeld } from '../lines/markHeld.ts';
import { relearnStems } from '../lines/relearnStems.ts';
import { stemsPaying } from '../proposals/cardDues.ts';
import { renewSoon } from '../proposals/renewProposals.ts';
import { stemsBeside } from '../proposals/stemsReached.ts';
import { postAtOnce } from '../rules/postAtOnce.ts';
import { type BooksCommand, nextCommand } from '../steps/booksCommand.ts';
import { recordStep, type StepItem } from '../steps/recordStep.ts';
import { type Placed, placedStems, placeIncoming } from './placeIncoming.ts';

/** A statement whose lines are in the table of incoming lines, and the batch it becomes. */
export interface Incoming {
  readonly batchId: BatchId;
  readonly bankAccountId: BankAccountId;
  readonly accountName: string;
  readonly fileName: string;
  readonly createdBy: string;
  readonly currency: string;
  readonly confirmBalance: boolean;
  /** Days that the source reports wholly, as a feed does; a file's first and last may be cut. */
  readonly wholeDays?: { readonly from: string; readonly to: string };
  /** Post the opening balance that the statement gives, if there is none yet. */
  readonly withOpening: boolean;
  readonly facts: {
    readonly summary: LinesSummary;
    readonly file: Pick<BankFileFacts, 'problems' | 'layout' | 'encoding'> & {
      /** Null where no file was read. */
      readonly format: FileFormat | null;
    };
  };
  readonly statement: StatementFacts;
}

/** A batch that is placed, for the step to be recorded. */
export interface PlacedBatch extends Placed {
  readonly items: readonly StepItem[];
  readonly words: Said;
}

/**
 * Keeps the incoming lines as a batch, as one step. The books must be locked.
 *
 * @throws {ZubrellError} FILE_OTHER_BALANCE, OPENING_AFTER_LINES
 */
export async function keepIncoming(command: BooksCommand, incoming: Incoming): Promise<Placed> {
  const { items, words, ...placed } = await placeBatch(command, incoming);
  const needed = needs('bankAccount', [incoming.bankAccountId]);
  await recordStep(command, { kind: 'keepBatch', words, items, needs: needed });
  await postAtOnce(nextCommand(command));
  return placed;
}

/**
 * Places the incoming lines as a batch: finds which are new, notes what the statement says, renews what
 * is proposed.
 *
 * @throws {ZubrellError} FILE_GAP, FILE_OTHER_BALANCE, OPENING_AFTER_LINES
 */
export async function placeBatch(command: BooksCommand, incoming: Incoming): Promise<PlacedBatch> {
  const { tx, booksId, step } = command;
  const { batchId, bankAccountId, statement, fileName, accountName, currency } = incoming;
  const { file, summary } = incoming.facts;
  const closing = closingBalance(statement);
  const items: StepItem[] = [
    { thing: 'batch', thingId: batchId, before: null, after: { isKept: true } },
  ];
  const opened = await openWith(command, incoming);
  if (opened !== null) items.push(opened.item);
  const { confirmBalance } = incoming;
  const gap = statementGap(statement, summary);
  if (closing && gap && !confirmBalance && refusedOf(file).length === 0) {
    fail('FILE_GAP', { difference: formatAmount(gap, currency) });
  }
  const expected = expectedClosing(statement, summary);
  const placing = {
    bankAccountId,
    batchId,
    step,
    closing: expected,
    currency,
    confirmBalance,
    wholeDays: incoming.wholeDays ?? null,
  };
  const placed = await placeIncoming(tx, booksId, placing);
  await tx.execute(
    sql`update batches set status = 'kept', format = ${file.format},
          problems = ${JSON.stringify(file.problems)}::jsonb,
          layout = ${file.layout && JSON.stringify(file.layout)}::jsonb,
          from_date = ${statement.from ?? summary.first}, to_date = ${statement.to ?? summary.last},
          opening = ${statement.opening}, closing = ${closing?.amount ?? null},
          closing_date = ${closing?.date ?? null}, line_count = ${placed.lineCount},
          new_count = ${placed.newCount}
        where books_id = ${booksId} and id = ${batchId}`,
  );
  await bulkInsert(
    tx,
    'day_balances',
    { books_id: 'uuid', batch_id: 'uuid', date: 'date', amount: 'bigint' },
    statement.dayBalances.map((day) => ({ books_id: booksId, batch_id: batchId, ...day })),
  );
  await markHeld(tx, booksId, bankAccountId);
  if (file.layout) await rememberLayout({ tx, booksId }, bankAccountId, file.layout, file.encoding);
  const moved = await relearnStems(tx, booksId, step);
  const paying = await stemsPaying(tx, booksId, bankAccountId);
  const stems = [...(await placedStems(tx, booksId)), ...moved, ...paying];
  const beside = await stemsBeside(tx, booksId, stems);
  await renewSoon(tx, booksId, [...stems, ...beside], incoming.createdBy);
  const { newCount, lineCount } = placed;
  const came =
    newCount === lineCount ? linesSaid(newCount) : say`${newCount} new of ${linesSaid(lineCount)}`;
  const words = say`Imported ${came} from ${fileName} into ${accountName}${opened ? say`, with the ${opened.words}` : ''}`;
  return { ...placed, items, words };
}

/** Posts the statement's opening balance where that is wanted and none is there. */
async function openWith(
  command: BooksCommand,
  { bankAccountId, withOpening, statement, facts: { summary } }: Incoming,
): Promise<Awaited<ReturnType<typeof insertOpening>> | null> {
  const { tx, booksId } = command;
  const opening = openingBalance(statement, summary);
  if (!withOpening || opening === null || !(await canOpen(tx, booksId, bankAccountId, summary))) {
    return null;
  }
  return insertOpening(command, bankAccountId, opening);
}

const CanOpenRow = z.object({ canOpen: z.boolean() });

async function canOpen(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  { first }: LinesSummary,
): Promise<boolean> {
  const [row] = await rowsOf(
    tx,
    CanOpenRow,
    sql`select not exists (
            select from entries e
            where e.books_id = ${booksId} and e.opening_of = ${bankAccountId} and not e.is_void)
          and not exists (
            select from lines l
            where l.books_id = ${booksId} and l.bank_account_id = ${bankAccountId} and l.is_here
              and l.date < ${first}) as "canOpen"`,
  );
  return row?.canOpen ?? false;
}

/**
 * Keeps how a bank's tables are read, so that the next file of the same shape is read alike. Where its
 * headings stand is found in each.
 */
async function rememberLayout(
  { tx, booksId }: BooksTx,
  bankAccountId: BankAccountId,
  layout: TableLayout,
  encoding: string,
): Promise<void> {
  const { delimiter, roles, dates, decimal, isTurned } = layout;
  const choices: LayoutChoices = {
    ...(delimiter === null ? {} : { delimiter, encoding }),
    roles,
    dates,
    decimal,
    isTurned,
  };
  await tx.execute(
    sql`insert into layouts (books_id, bank_account_id, shape, choices, times)
        values (${booksId}, ${bankAccountId}, ${shapeOf(layout)}, ${JSON.stringify(choices)}::jsonb, 1)
        on conflict (books_id, bank_account_id, shape)
        do update set choices = excluded.choices, times = layouts.times + 1`,
  );
}

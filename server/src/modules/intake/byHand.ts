import { randomUUID } from 'node:crypto';
import type { StepDone } from '@zubrell/contract/common';
import type { BalanceByHand, LineByHand } from '@zubrell/contract/intake';
import { fail } from '@zubrell/core/errors';
import type { BankAccountId } from '@zubrell/core/ids';
import { plainWording } from '@zubrell/core/text/plainWording';
import { stemOf } from '@zubrell/core/text/stemOf';
import { amountSaid, dateSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { rowsOf } from '../../db/database.ts';
import { StemRow } from '../../db/rows.ts';
import { batches } from '../../db/schema/lines.ts';
import { needs } from '../books/needsOf.ts';
import { bankAccountOf, booksCurrency } from '../books/queries.ts';
import { aliasOf } from '../lines/aliases.ts';
import { markHeld } from '../lines/markHeld.ts';
import { renewProposals } from '../proposals/renewProposals.ts';
import { stemsBeside } from '../proposals/stemsReached.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { plainWords, recordDone, recordStep, type StepItem } from '../steps/recordStep.ts';

/**
 * Writes a line that no file and no feed brings: cash, or an odd one. It waits in the Desk like any other; of a
 * closed period it is late.
 *
 * @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN, LINE_NIL
 */
export async function addLine(
  command: BooksCommand,
  bankAccountId: BankAccountId,
  { date, amount, description, reference }: LineByHand,
): Promise<StepDone> {
  const { tx, booksId } = command;
  const { name } = await bankAccountOf(tx, booksId, bankAccountId);
  const item = await insertLine(command, bankAccountId, { date, amount, description, reference });
  const shown = amountSaid(amount, await booksCurrency(tx, booksId), true);
  return recordDone(command, {
    kind: 'addLine',
    words: say`Added a line of ${shown} to ${name} by hand`,
    items: [item],
    needs: needs('bankAccount', [bankAccountId]),
  });
}

/**
 * Writes a line that is here by itself.
 *
 * @returns what the step touched
 * @throws {ZubrellError} LINE_NIL
 */
export async function insertLine(
  command: BooksCommand,
  bankAccountId: BankAccountId,
  { date, amount, description, reference }: LineByHand,
): Promise<StepItem> {
  const { tx, booksId, step } = command;
  if (amount === 0) fail('LINE_NIL');
  const id = randomUUID();
  const own = stemOf({ description, payee: null, reference });
  const plain = plainWording(description);
  const [line] = await rowsOf(
    tx,
    StemRow,
    sql`insert into lines (books_id, id, bank_account_id, date, amount, description, reference,
          position, stem, own_stem, plain, is_own, last_step)
        values (${booksId}, ${id}, ${bankAccountId}, ${date}, ${amount}, ${description},
          ${reference}, 0,
          coalesce((${aliasOf(booksId, sql`${own}::text`, sql`${plain}::text`)}), ${own}),
          ${own}, ${plain}, true, ${step})
        returning stem`,
  );
  await markHeld(tx, booksId, bankAccountId);
  const stems = [line?.stem ?? own];
  await renewProposals(tx, booksId, [...stems, ...(await stemsBeside(tx, booksId, stems))]);
  return { thing: 'lineHere', thingId: id, before: { isHere: false }, after: { isHere: true } };
}

/**
 * Writes down a balance that was counted or read off, so that the account can be proved without a file.
 *
 * @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN
 */
export async function addBalance(
  command: BooksCommand,
  bankAccountId: BankAccountId,
  { date, amount }: BalanceByHand,
): Promise<StepDone> {
  const { tx, clock, booksId, actor, step } = command;
  const { name } = await bankAccountOf(tx, booksId, bankAccountId);
  const id = randomUUID();
  await tx.insert(batches).values({
    booksId,
    id,
    bankAccountId,
    fileName: 'Counted by hand',
    statementIndex: 0,
    status: 'kept',
    fromDate: date,
    toDate: date,
    closing: amount,
    closingDate: date,
    createdBy: actor.userId,
    createdAt: clock.now(),
  });
  const shown = amountSaid(amount, await booksCurrency(tx, booksId));
  const words = say`Counted ${shown} in ${name} on ${dateSaid(date)}`;
  const items: StepItem[] = [
    { thing: 'batch', thingId: id, before: null, after: { isKept: true } },
  ];
  await recordStep(command, {
    kind: 'count',
    words,
    items,
    needs: needs('bankAccount', [bankAccountId]),
  });
  return { step, words: plainWords(words) };
}

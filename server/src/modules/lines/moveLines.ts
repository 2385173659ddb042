import { randomUUID } from 'node:crypto';
import type { LinesDone, MoveLines } from '@zubrell/contract/desk';
import type { BankAccountId } from '@zubrell/core/ids';
import { linesSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { needs } from '../books/needsOf.ts';
import { bankAccountOf, booksCurrency } from '../books/queries.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { plainWords, recordStep, type StepItem } from '../steps/recordStep.ts';
import { insertKeptOut } from './excludeLines.ts';
import { markHeld } from './markHeld.ts';
import { settleLines } from './postLines.ts';
import { leftOutFor, targetLines, withoutCounted } from './targetLines.ts';

/**
 * Moves open lines that came in through the wrong bank account: there they are kept out of the books and
 * weigh nothing, here they come in as open lines. One step.
 *
 * @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN
 */
export async function moveLines(
  command: BooksCommand,
  { target, bankAccountId, seenStep }: MoveLines,
): Promise<LinesDone> {
  const { tx, booksId, step } = command;
  const account = await bankAccountOf(tx, booksId, bankAccountId);
  const currency = await booksCurrency(tx, booksId);
  const found = withoutCounted(await targetLines({ tx, booksId }, currency, target, seenStep));
  const leftOut = [...found.leftOut];
  const lines = found.lines.filter((line) => {
    if (line.currency !== account.currency) {
      const params = { name: account.name, currency: account.currency };
      leftOut.push(leftOutFor(line.id, 'LINE_OTHER_CURRENCY', params));
      return false;
    }
    if (line.ledgerAccountId !== account.accountId) return true;
    leftOut.push(leftOutFor(line.id, 'LINE_THERE', { name: account.name }));
    return false;
  });
  if (lines.length === 0) return { step: null, words: 'Nothing moved', done: [], leftOut };
  const keptOut = await insertKeptOut(
    command,
    lines.map((line) => ({ lines: [line] })),
    'excluded',
    'otherAccount',
  );
  const copies = lines.map(({ id }) => ({ from: id, id: randomUUID() }));
  await insertCopies(command, bankAccountId, copies);
  await markHeld(command.tx, command.booksId, bankAccountId);
  // The copies are of the same stems, so they are proposed for with the lines' look-alikes.
  await settleLines(command, lines);
  const words = say`Moved ${linesSaid(lines.length)} to ${account.name}`;
  const arrived = copies.map(
    ({ id }): StepItem => ({
      thing: 'lineHere',
      thingId: id,
      before: { isHere: false },
      after: { isHere: true },
    }),
  );
  const items = [...keptOut, ...arrived];
  await recordStep(command, {
    kind: 'moveLines',
    words,
    items,
    needs: needs('bankAccount', [bankAccountId]),
  });
  return { step, words: plainWords(words), done: lines.map(({ id }) => id), leftOut };
}

/** Ids belong to a bank account, so the copies have none. */
async function insertCopies(
  { tx, booksId, step }: BooksCommand,
  bankAccountId: BankAccountId,
  copies: readonly { readonly from: string; readonly id: string }[],
): Promise<void> {
  await tx.execute(
    sql`insert into lines (books_id, id, bank_account_id, date, value_date, amount, description,
          reference, payee, type, cheque_number, counterparty, category, cardholder, original, prepared,
          position, stem, own_stem, plain, is_own, moved_from, last_step)
        select l.books_id, c.id, ${bankAccountId}, l.date, l.value_date, l.amount, l.description,
          l.reference, l.payee, l.type, l.cheque_number, l.counterparty, l.category, l.cardholder, l.original,
          l.prepared, l.position, l.stem, l.own_stem, l.plain, true, l.id, ${step}
        from unnest(${sql.param(copies.map(({ from }) => from))}::uuid[],
          ${sql.param(copies.map(({ id }) => id))}::uuid[]) as c (source, id)
        join lines l on l.books_id = ${booksId} and l.id = c.source`,
  );
}

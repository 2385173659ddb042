import type { StepDone } from '@zubrell/contract/common';
import type { SettleCause } from '@zubrell/contract/statements';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { BankAccountId, DecisionId, LineId } from '@zubrell/core/ids';
import { amountSaid, dateSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { needs } from '../books/needsOf.ts';
import { bankAccountOf } from '../books/queries.ts';
import { setLineDecisions } from '../decisions/setLineDecisions.ts';
import { insertLine } from '../intake/byHand.ts';
import { insertKeptOut } from '../lines/excludeLines.ts';
import { countedTo, joinLiveDecision, lastStepOfLine } from '../lines/lineState.ts';
import { settleLines } from '../lines/postLines.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { inTheWayOf } from '../steps/putItems.ts';
import { recordDone, type StepItem } from '../steps/recordStep.ts';

const WrongRow = z.object({
  id: z.string(),
  date: z.string(),
  amount: z.int(),
  stem: z.string(),
  text: z.string(),
  reference: z.string().nullable(),
  decisionId: idRow<DecisionId>().nullable(),
  lastStep: z.int(),
  countedTo: z.string().nullable(),
  mates: z.int(),
});
type WrongRow = z.infer<typeof WrongRow>;

/**
 * Settles what made a statement differ, as one step, whether the line was decided or not: a second copy is excluded; a
 * line with a wrong amount is deleted, and one with the right amount takes its place and waits on the Desk.
 *
 * @throws {ZubrellError} LINE_UNKNOWN, LINE_CHANGED, LINE_HELD, STATEMENT_COUNTS_LINE, LINE_NIL
 */
export async function settleCause(
  command: BooksCommand,
  bankAccountId: BankAccountId,
  { lineId, seenStep, ...wanted }: SettleCause,
): Promise<StepDone> {
  const { tx, booksId } = command;
  const line = await wrongLine(command, bankAccountId, lineId, seenStep);
  const opened: StepItem = {
    thing: 'line',
    thingId: lineId,
    before: { decisionId: line.decisionId },
    after: { decisionId: null },
  };
  if (line.decisionId !== null) await open(command, line, opened);
  const isCopy = wanted.kind === 'excludeCopy';
  const kept = isCopy ? { lines: [line], copyOf: wanted.copyOf } : { lines: [line] };
  const [out] = isCopy
    ? await insertKeptOut(command, [kept], 'excluded', 'secondCopy')
    : await insertKeptOut(command, [kept], 'deleted', 'corrected');
  await settleLines(command, [line]);
  const items: StepItem[] = out ? [{ ...out, before: opened.before }] : [];
  const { currency } = await bankAccountOf(tx, booksId, bankAccountId);
  const day = dateSaid(line.date);
  if (isCopy) {
    const words = say`Excluded ${line.text} of ${day}: second copy`;
    return recordDone(command, {
      kind: 'exclude',
      words,
      items,
      needs: needs('lineHere', [wanted.copyOf]),
    });
  }
  const { date, text: description, reference } = line;
  const { amount } = wanted;
  items.push(await insertLine(command, bankAccountId, { date, amount, description, reference }));
  const [was, is] = [amountSaid(line.amount, currency), amountSaid(amount, currency)];
  const words = say`Replaced ${line.text} of ${day}, ${was}, by a line of ${is}`;
  return recordDone(command, { kind: 'replaceLine', words, items });
}

async function wrongLine(
  { tx, booksId }: BooksCommand,
  bankAccountId: BankAccountId,
  lineId: LineId,
  seenStep: number,
): Promise<WrongRow> {
  const [line] = await rowsOf(
    tx,
    WrongRow,
    sql`select l.id, l.date, l.amount, l.stem, l.description as text, l.reference,
          dl.decision_id as "decisionId", ${lastStepOfLine} as "lastStep", ${countedTo} as "countedTo",
          (select count(*) from decision_lines mate
            where mate.books_id = dl.books_id and mate.decision_id = dl.decision_id
              and mate.is_live)::int as mates
        from lines l ${joinLiveDecision}
        where l.books_id = ${booksId} and l.id = ${lineId} and l.is_here
          and l.bank_account_id = ${bankAccountId} for update of l`,
  );
  if (!line) fail('LINE_UNKNOWN');
  if (line.countedTo !== null) {
    fail('STATEMENT_COUNTS_LINE', { to: formatLongDate(line.countedTo) });
  }
  if (line.lastStep > seenStep) fail('STATEMENT_LINE_ELSEWHERE');
  return line;
}

/** Opens a decided line, as long as nothing rests on what was decided. */
async function open(command: BooksCommand, line: WrongRow, opened: StepItem): Promise<void> {
  const { taken } = await inTheWayOf(command, [opened]);
  if (taken.length > 0 || line.mates > 1) fail('STATEMENT_LINE_TIED', { text: line.text });
  await setLineDecisions(command, [{ lineId: line.id, from: line.decisionId, to: null }]);
  if (line.decisionId !== null) await command.follow.decisionsEnded(command, [line.decisionId]);
}

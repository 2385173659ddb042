import type { StepDone } from '@zubrell/contract/common';
import type { ChangeStatement } from '@zubrell/contract/statements';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import { amountSaid, dateSaid, say } from '@zubrell/core/words/say';
import { needs } from '../books/needsOf.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone } from '../steps/recordStep.ts';
import { type Found, freshState, type Named, openStatement, standingOf } from './openStatement.ts';
import { putStatement, type StatementState } from './statementThings.ts';

/** Says something of a statement: its closing balance, its last day, an explanation that is none; as one step. */
export async function changeStatement(
  command: BooksCommand,
  named: Named,
  change: ChangeStatement,
): Promise<StepDone> {
  const found = await openStatement(command, named);
  const { account, statement } = found;
  const before = await standingOf(command, statement);
  const fresh = before.state ?? freshState(named, statement);
  const { currency } = account;
  const given = change.closing?.currency ?? currency;
  if (given !== currency) fail('STATEMENT_CURRENCY', { given, currency });
  const to = change.lastDay ?? statement.to;
  if (to !== statement.to) checkDays(found, to);
  const dismissed = change.restoreDismissed ? [] : fresh.dismissed;
  const after: StatementState = {
    ...fresh,
    to,
    closing: change.closing === undefined ? fresh.closing : (change.closing?.amount ?? null),
    dismissed: change.dismiss ? [...new Set([...dismissed, change.dismiss])] : dismissed,
  };
  await putStatement(command, before.id, before.state, after);
  const of = say`${account.name} to ${dateSaid(statement.to)}`;
  const words =
    to !== statement.to
      ? say`Ended the statement of ${account.name} on ${dateSaid(to)}`
      : change.closing === undefined
        ? say`Set aside an explanation on the statement of ${of}`
        : change.closing === null
          ? say`Cleared the closing balance of ${of}`
          : say`Recorded a closing balance of ${amountSaid(change.closing.amount, currency)} for ${of}`;
  return recordDone(command, {
    kind: 'changeStatement',
    words,
    items: [{ thing: 'statement', thingId: before.id, before: before.state, after }],
    needs: needs('bankAccount', [named.bankAccountId]),
  });
}

/** A statement's last day lies after its first, and before the next one that somebody has said something about. */
function checkDays({ statement: { from }, all, at }: Found, to: string): void {
  if (to < from) fail('STATEMENT_DATES', { to: formatLongDate(to), from: formatLongDate(from) });
  const next = all.slice(at + 1).find(({ said }) => said !== null);
  if (next && to >= next.from) {
    fail('STATEMENT_OVERLAPS', { to: formatLongDate(next.to), from: formatLongDate(next.from) });
  }
}

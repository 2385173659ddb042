import type { StepDone } from '@zubrell/contract/common';
import type { ReopenStatement } from '@zubrell/contract/statements';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import { dateSaid, say } from '@zubrell/core/words/say';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone } from '../steps/recordStep.ts';
import { findStatement } from './accountFacts.ts';
import { type Named, standingOf } from './openStatement.ts';
import { notAgreed, putStatement } from './statementThings.ts';

/**
 * Opens an agreed statement again, the newest of its account, as one step: its days can change again.
 *
 * @throws {ZubrellError} STATEMENT_NOT_AGREED, STATEMENT_AFTER_AGREED, LEAVE_NEEDED
 */
export async function reopenStatement(
  command: BooksCommand,
  { bankAccountId, to }: Named,
  { reason }: ReopenStatement,
): Promise<StepDone> {
  const { tx, booksId, clock } = command;
  const wanted = { to, today: clock.today() };
  const { account, statement, all, at } = await findStatement(tx, booksId, bankAccountId, wanted);
  if (statement.said?.agreedStep == null) fail('STATEMENT_NOT_AGREED', { to: formatLongDate(to) });
  const later = all.slice(at + 1).findLast(({ said }) => said?.agreedStep != null);
  if (later) fail('STATEMENT_AFTER_AGREED', { to: formatLongDate(later.to) });
  const before = await standingOf(command, statement);
  if (before.state === null) fail('STATEMENT_UNKNOWN');
  const after = notAgreed(before.state);
  await putStatement(command, before.id, before.state, after);
  return recordDone(command, {
    kind: 'reopenStatement',
    words: say`Reopened the statement of ${account.name} to ${dateSaid(to)}: ${reason}`,
    items: [{ thing: 'statement', thingId: before.id, before: before.state, after }],
  });
}

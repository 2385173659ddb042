import type { StepDone } from '@zubrell/contract/common';
import type { MoveStatementLines, TickEntries } from '@zubrell/contract/statements';
import { addDays, formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import { countSaid, dateSaid, linesSaid, type Said, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { rowsOf } from '../../db/database.ts';
import { IdRow } from '../../db/rows.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone, type StepItem } from '../steps/recordStep.ts';
import { type Named, openStatement } from './openStatement.ts';

/** Counts lines in the statement after or before, or by their own date again, as one step. They keep their dates. */
export async function moveStatementLines(
  command: BooksCommand,
  named: Named,
  { lineIds, into }: MoveStatementLines,
): Promise<StepDone> {
  const { tx, booksId } = command;
  const { account, statement, all, at } = await openStatement(command, named);
  const before = all[at - 1];
  if (into === 'previous' && before?.said?.agreedStep != null) {
    fail('STATEMENT_AGREED', { to: formatLongDate(before.to) });
  }
  const lines = await rowsOf(
    tx,
    IdRow,
    sql`select id from lines where books_id = ${booksId} and is_here
          and bank_account_id = ${named.bankAccountId}
          and id = any(${sql.param(lineIds)}::uuid[]) for update`,
  );
  if (lines.length < new Set(lineIds).size) fail('STATEMENT_LINE_ELSEWHERE');
  const days = {
    here: statement.to,
    next: addDays(statement.to, 1),
    previous: addDays(statement.from, -1),
    own: null,
  };
  const day = days[into];
  const where = {
    here: say`the statement to ${dateSaid(statement.to)}`,
    next: say`the next statement`,
    previous: say`the previous statement`,
    own: say`the statement of their date`,
  };
  return putDays(command, {
    kind: 'changeStatement',
    words: say`Counted ${linesSaid(lines.length)} of ${account.name} in ${where[into]}`,
    ids: lines.map(({ id }) => id),
    state: day === null ? null : { day, kind: 'line' },
  });
}

/** Ticks entries as being on the printed statement, or takes the ticks away, as one step. */
export async function tickEntries(
  command: BooksCommand,
  named: Named,
  { legIds, isTicked }: TickEntries,
): Promise<StepDone> {
  const { tx, booksId } = command;
  const { account, statement } = await openStatement(command, named);
  if (account.firstLine !== null) fail('STATEMENT_TICKED_ONLY', { name: account.name });
  const legs = await rowsOf(
    tx,
    IdRow,
    sql`select g.id from legs g
        join entries e on e.books_id = g.books_id and e.id = g.entry_id and not e.is_void
        where g.books_id = ${booksId} and g.account_id = ${account.accountId}
          and e.date <= ${statement.to} and g.id = any(${sql.param(legIds)}::uuid[])`,
  );
  if (legs.length < new Set(legIds).size) fail('STATEMENT_LINE_ELSEWHERE');
  const entries = countSaid(legs.length, 'entry', 'entries');
  return putDays(command, {
    kind: 'tickEntries',
    words: say`${isTicked ? say`Ticked` : say`Unticked`} ${entries} of ${account.name}`,
    ids: legs.map(({ id }) => id),
    state: isTicked ? { day: statement.to, kind: 'leg' } : null,
  });
}

async function putDays(
  command: BooksCommand,
  {
    kind,
    words,
    ids,
    state,
  }: {
    readonly kind: 'changeStatement' | 'tickEntries';
    readonly words: Said;
    readonly ids: readonly string[];
    readonly state: { readonly day: string; readonly kind: 'line' | 'leg' } | null;
  },
): Promise<StepDone> {
  const standing = await command.things.statementDay.standing(command, ids);
  const items = ids.map(
    (thingId): StepItem => ({
      thing: 'statementDay',
      thingId,
      before: standing.get(thingId) ?? null,
      after: state,
    }),
  );
  const { taken } = (await command.things.statementDay.inTheWay?.(command, items, items)) ?? {
    taken: [],
  };
  if (taken.length > 0) fail('STATEMENT_LINE_ELSEWHERE');
  await command.things.statementDay.put(command, items);
  return recordDone(command, { kind, words, items });
}

import type { StepDone } from '@zubrell/contract/common';
import type { AgreeStatement } from '@zubrell/contract/statements';
import { fail } from '@zubrell/core/errors';
import type { StatementId } from '@zubrell/core/ids';
import { amountSaid, dateSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { bulkInsert } from '../../db/bulkInsert.ts';
import { rowsOf } from '../../db/database.ts';
import { needs } from '../books/needsOf.ts';
import { lastStepOfLine } from '../lines/lineState.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone } from '../steps/recordStep.ts';
import { hindrancesOf } from './hindrances.ts';
import { becameOf, freshState, type Named, openStatement, standingOf } from './openStatement.ts';
import { putStatement, type StatementState } from './statementThings.ts';
import { type WholeStatement, wholeStatement } from './wholeStatement.ts';

const ChangedRow = z.object({ who: z.string(), what: z.string() });

/**
 * Agrees a statement with the bank, as one step: it adds up, nothing in it is open, and the one before is agreed. The
 * account is closed up to its last day.
 *
 * @throws {ZubrellError} STATEMENT_AGREED, STATEMENT_CHANGED, LEAVE_NEEDED and those of {@link hindrancesOf}
 */
export async function agreeStatement(
  command: BooksCommand,
  named: Named,
  { seenStep }: AgreeStatement,
): Promise<StepDone> {
  const { tx, booksId, clock, actor, step } = command;
  const { statement } = await openStatement(command, named);
  const wanted = { to: named.to, today: clock.today() };
  const found = await wholeStatement(tx, booksId, named.bankAccountId, wanted);
  await refuseChanged(command, found, seenStep);
  const { shown, account } = found;
  const [hindrance] = hindrancesOf(shown, account);
  if (hindrance) fail(hindrance.code, hindrance.params);
  const before = await standingOf(command, statement);
  const after: StatementState = {
    ...(before.state ?? freshState(named, statement)),
    agreedStep: step,
    agreedOpening: shown.opening,
    agreedClosing: shown.closing,
    agreedBy: actor.userId,
    agreedAt: clock.now().toISOString(),
    lastAgreedStep: step,
  };
  await putStatement(command, before.id, before.state, after);
  await insertParts(command, before.id, found);
  return recordDone(command, {
    kind: 'agreeStatement',
    words: say`Agreed the statement of ${account.name} to ${dateSaid(named.to)} at ${amountSaid(shown.closing ?? 0, account.currency)}`,
    items: [{ ...(await becameOf(command, before)), thing: 'statement' }],
    needs: needs('bankAccount', [named.bankAccountId]),
  });
}

/** Refuses where somebody changed lines of the statement since it was looked at. */
async function refuseChanged(
  { tx, booksId }: BooksCommand,
  { lines }: WholeStatement,
  seenStep: number,
): Promise<void> {
  const [changed] = await rowsOf(
    tx,
    ChangedRow,
    sql`select u.name as who, s.words as what
        from (
          select max(${lastStepOfLine}) as step from lines l
          where l.books_id = ${booksId} and l.id = any(${sql.param(lines.map(({ id }) => id))}::uuid[])) newest
        join steps s on s.books_id = ${booksId} and s.no = newest.step
        join users u on u.id = s.user_id
        where newest.step > ${seenStep}`,
  );
  if (changed) fail('STATEMENT_CHANGED', changed);
}

async function insertParts(
  { tx, booksId, step }: BooksCommand,
  statementId: StatementId,
  { counted, lines }: WholeStatement,
): Promise<void> {
  const decisions = new Map(lines.map(({ id, decisionId }) => [id, decisionId]));
  await bulkInsert(
    tx,
    'statement_parts',
    {
      books_id: 'uuid',
      statement_id: 'uuid',
      step: 'bigint',
      kind: 'text',
      thing_id: 'uuid',
      amount: 'bigint',
      decision_id: 'uuid',
    },
    counted.map(({ id, amount }) => ({
      books_id: booksId,
      statement_id: statementId,
      step,
      kind: decisions.has(id) ? 'line' : 'leg',
      thing_id: id,
      amount,
      decision_id: decisions.get(id) ?? null,
    })),
  );
}

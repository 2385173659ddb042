import { randomUUID } from 'node:crypto';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { BankAccountId, StatementId } from '@zubrell/core/ids';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { findStatement, type PlannedStatement } from './accountFacts.ts';
import { StatementState } from './statementThings.ts';

/** Which statement a command is about. */
export interface Named {
  readonly bankAccountId: BankAccountId;
  readonly to: string;
}

/** How a statement stands, as steps keep it, and with what id. */
export interface Standing {
  readonly id: StatementId;
  readonly state: StatementState | null;
}

/** A statement with its account and neighbours. */
export type Found = Awaited<ReturnType<typeof findStatement>>;

/** A statement that isn't agreed. @throws {ZubrellError} STATEMENT_UNKNOWN, STATEMENT_AGREED */
export async function openStatement(
  { tx, booksId, clock }: BooksCommand,
  { bankAccountId, to }: Named,
): Promise<Found> {
  const found = await findStatement(tx, booksId, bankAccountId, { to, today: clock.today() });
  const isAgreed = found.statement.said?.agreedStep != null;
  if (isAgreed) fail('STATEMENT_AGREED', { to: formatLongDate(to) });
  return found;
}

/** How a statement stands; one that nobody has said anything of yet gets an id. */
export async function standingOf(
  command: BooksCommand,
  { said }: Pick<PlannedStatement, 'said'>,
): Promise<Standing> {
  if (said === null) return { id: randomUUID(), state: null };
  const states = await command.things.statement.standing(command, [said.id]);
  return { id: said.id, state: StatementState.nullable().parse(states.get(said.id) ?? null) };
}

/** A statement of which nothing is said yet. */
export function freshState(
  { bankAccountId }: Named,
  { from, to }: PlannedStatement,
): StatementState {
  return {
    bankAccountId,
    from,
    to,
    closing: null,
    dismissed: [],
    agreedStep: null,
    agreedOpening: null,
    agreedClosing: null,
    agreedBy: null,
    agreedAt: null,
    lastAgreedStep: null,
  };
}

/** What became of a statement, as the database has it now. */
export async function becameOf(command: BooksCommand, { id, state }: Standing) {
  const now = await command.things.statement.standing(command, [id]);
  return { thingId: id, before: state, after: now.get(id) ?? null };
}

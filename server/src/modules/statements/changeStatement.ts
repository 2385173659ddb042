import { randomUUID } from 'node:crypto';
import type { StepDone } from '@zubrell/contract/common';
import type {
  AgreeStatement,
  ChangeStatement,
  MoveStatementLines,
  ReopenStatement,
  TickEntries,
} from '@zubrell/contract/statements';
import { addDays, formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { BankAccountId, StatementId } from '@zubrell/core/ids';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { bulkInsert } from '../../db/bulkInsert.ts';
import { rowsOf } from '../../db/database.ts';
import { needs } from '../books/needsOf.ts';
import { booksCurrency } from '../books/queries.ts';
import { countLines } from '../lines/postLines.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone, type StepItem } from '../steps/recordStep.ts';
import { findStatement, type PlannedStatement } from './accountFacts.ts';
import { hindrancesOf } from './hindrances.ts';
import { type FoundStatement, statementOf } from './statementOf.ts';
import { putStatement, type StatementState } from './statementThings.ts';

/** Which statement a command is about. */
export interface Named {
  readonly bankAccountId: BankAccountId;
  readonly to: string;
}

/** How a statement stands, as steps keep it, and with what id. */
interface Standing {
  readonly id: StatementId;
  readonly state: StatementState | null;
}

const IdRow = z.object({ id: z.string() });

/** Says something of a statement: its closing balance, its last day, an explanation that is none; as one step. */
export async function changeStatement(
  command: BooksCommand,
  named: Named,
  change: ChangeStatement,
): Promise<StepDone> {
  const { tx, booksId } = command;
  const found = await openStatement(command, named);
  const { account, statement } = found;
  const before = await standingOf(command, statement);
  const fresh = before.state ?? freshState(named, statement);
  const currency = await booksCurrency(tx, booksId);
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
  const of = `${account.name} to ${formatLongDate(statement.to)}`;
  const words =
    to !== statement.to
      ? `Ended the statement of ${account.name} on ${formatLongDate(to)}`
      : change.closing === undefined
        ? `Set aside an explanation on the statement of ${of}`
        : change.closing === null
          ? `Cleared the closing balance of ${of}`
          : `Recorded a closing balance of ${formatAmount(change.closing.amount, currency)} for ${of}`;
  return recordDone(command, {
    kind: 'changeStatement',
    words,
    items: [{ thing: 'statement', thingId: before.id, before: before.state, after }],
    needs: needs('bankAccount', [named.bankAccountId]),
  });
}

type Found = Awaited<ReturnType<typeof findStatement>>;

/** A statement that isn't agreed. @throws {ZubrellError} STATEMENT_UNKNOWN, STATEMENT_AGREED */
async function openStatement(
  { tx, booksId, clock }: BooksCommand,
  { bankAccountId, to }: Named,
): Promise<Found> {
  const found = await findStatement(tx, booksId, bankAccountId, { to, today: clock.today() });
  if (found.statement.said?.agreedStep != null)
    fail('STATEMENT_AGREED', { to: formatLongDate(to) });
  return found;
}

/** A statement's last day lies after its first, and before the next one that somebody has said something about. */
function checkDays({ statement: { from }, all, at }: Found, to: string): void {
  if (to < from) fail('STATEMENT_DATES', { to: formatLongDate(to), from: formatLongDate(from) });
  const next = all.slice(at + 1).find(({ said }) => said !== null);
  if (next && to >= next.from) {
    fail('STATEMENT_OVERLAPS', { to: formatLongDate(next.to), from: formatLongDate(next.from) });
  }
}

async function standingOf(
  command: BooksCommand,
  { said }: Pick<PlannedStatement, 'said'>,
): Promise<Standing> {
  if (said === null) return { id: randomUUID(), state: null };
  const states = await command.things.statement.standing(command, [said.id]);
  return { id: said.id, state: (states.get(said.id) ?? null) as StatementState | null };
}

function freshState({ bankAccountId }: Named, { from, to }: PlannedStatement): StatementState {
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
    here: `the statement to ${formatLongDate(statement.to)}`,
    next: 'the next statement',
    previous: 'the previous statement',
    own: 'the statement of their date',
  };
  return putDays(command, {
    kind: 'changeStatement',
    words: `Counted ${countLines(lines.length)} of ${account.name} in ${where[into]}`,
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
  const entries = legs.length === 1 ? '1 entry' : `${legs.length} entries`;
  return putDays(command, {
    kind: 'tickEntries',
    words: `${isTicked ? 'Ticked' : 'Unticked'} ${entries} of ${account.name}`,
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
    readonly words: string;
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
  const found = await statementOf(tx, booksId, named.bankAccountId, wanted);
  await refuseChanged(command, found, seenStep);
  const { shown, account } = found;
  const [hindrance] = hindrancesOf(shown, account, await booksCurrency(tx, booksId));
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
    words: `Agreed the statement of ${account.name} to ${formatLongDate(named.to)} at ${formatAmount(shown.closing ?? 0, await booksCurrency(tx, booksId))}`,
    items: [{ ...(await changed(command, before)), thing: 'statement' }],
    needs: needs('bankAccount', [named.bankAccountId]),
  });
}

/** What became of a statement, as the database has it now. */
async function changed(command: BooksCommand, { id, state }: Standing) {
  const now = await command.things.statement.standing(command, [id]);
  return { thingId: id, before: state, after: now.get(id) ?? null };
}

/** Refuses where somebody changed lines of the statement since it was looked at. */
async function refuseChanged(
  { tx, booksId }: BooksCommand,
  { lines }: FoundStatement,
  seenStep: number,
): Promise<void> {
  const [changed] = await rowsOf(
    tx,
    ChangedRow,
    sql`select u.name as who, s.words as what from lines l
        join steps s on s.books_id = l.books_id and s.no = l.last_step
        join users u on u.id = s.user_id
        where l.books_id = ${booksId} and l.last_step > ${seenStep}
          and l.id = any(${sql.param(lines.map(({ id }) => id))}::uuid[])
        order by l.last_step desc limit 1`,
  );
  if (changed) fail('STATEMENT_CHANGED', changed);
}

async function insertParts(
  { tx, booksId, step }: BooksCommand,
  statementId: StatementId,
  { counted, lines }: FoundStatement,
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
  const after: StatementState = {
    ...before.state,
    agreedStep: null,
    agreedOpening: null,
    agreedClosing: null,
    agreedBy: null,
    agreedAt: null,
  };
  await putStatement(command, before.id, before.state, after);
  return recordDone(command, {
    kind: 'reopenStatement',
    words: `Reopened the statement of ${account.name} to ${formatLongDate(to)}: ${reason}`,
    items: [{ thing: 'statement', thingId: before.id, before: before.state, after }],
  });
}

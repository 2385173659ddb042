import type { StatementRow, StatementRows } from '@zubrell/contract/statements';
import { type HolderSpending, spendingByHolder } from '@zubrell/core/closing/cards';
import type { StatementRowState } from '@zubrell/core/closing/states';
import { addDays } from '@zubrell/core/dates/calendarDate';
import type { BankAccountId, BooksId } from '@zubrell/core/ids';
import { sumOf } from '@zubrell/core/money/minor';
import { cursorOf, placeOf } from '../../db/cursor.ts';
import type { Tx } from '../../db/database.ts';
import {
  type AccountLine,
  accountLines,
  bookedLines,
  type TickableLeg,
  tickableLegs,
} from './accountRows.ts';
import { frameOf, type StatementFrame, type StatementWanted } from './statementFrame.ts';
import { agreedLines } from './statementLines.ts';

/** A page ends with the day on which it has so many lines. */
const A_PAGE = 500;

/** What is in a statement, or in a part of it. */
export interface Within {
  /** In its order, with what the opening balance and all rows up to each come to. */
  readonly rows: readonly StatementRow[];
  /** The lines among them, kept out ones too. */
  readonly lines: readonly AccountLine[];
  /** The entries that are ticked. */
  readonly ticked: readonly TickableLeg[];
}

/**
 * A page of what is in a statement: whole days, so that each costs the same wherever it is.
 *
 * @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN, STATEMENT_UNKNOWN, CURSOR_FOREIGN
 */
export async function statementRows(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  { cursor, ...wanted }: StatementWanted & { readonly cursor?: string | undefined },
): Promise<StatementRows> {
  const [after = null] = placeOf(cursor, 'date') ?? [];
  const frame = await frameOf(tx, booksId, bankAccountId, wanted);
  const rest = frame.days.filter(({ date }) => after === null || date > after);
  let count = 0;
  const full = rest.find((day) => {
    count += day.count;
    return count >= A_PAGE;
  });
  // Entries that are ticked are few: nobody ticks off thousands of them.
  const last = full === undefined || full === rest.at(-1) || frame.isTickedHere ? null : full.date;
  const { rows } = await within(tx, booksId, frame, { after, last });
  return { items: [...rows], next: last === null ? null : cursorOf(last) };
}

/**
 * What each cardholder spent and got back within a statement.
 *
 * @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN, STATEMENT_UNKNOWN
 */
export async function statementHolders(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  wanted: StatementWanted,
): Promise<HolderSpending[]> {
  const frame = await frameOf(tx, booksId, bankAccountId, wanted);
  const { lines } = await within(tx, booksId, frame, { after: null, last: null });
  return spendingByHolder(lines.filter((line) => isCountedIn(frame, line)));
}

/**
 * What is in a statement.
 *
 * @param part the days after one and up to another, by what `frame.days` are; null for no limit
 */
export async function within(
  tx: Tx,
  booksId: BooksId,
  frame: StatementFrame,
  { after, last }: { readonly after: string | null; readonly last: string | null },
): Promise<Within> {
  const { statement, account, agreed, days, isTickedHere, summary } = frame;
  const { bankAccountId, accountId } = account;
  const { from, to } = statement;
  const first = agreed ? (days[0]?.date ?? from) : from;
  const end = agreed ? (days.at(-1)?.date ?? to) : to;
  const part = { from: after === null ? first : addDays(after, 1), to: last ?? end };
  const lines = isTickedHere
    ? []
    : agreed
      ? await agreedLines(tx, booksId, agreed, part)
      : (await accountLines(tx, booksId, bankAccountId, part)).filter(
          ({ counts }) => counts >= part.from && counts <= part.to,
        );
  const legs = isTickedHere ? await tickableLegs(tx, booksId, accountId, to) : [];
  const ticked = legs.filter((leg) => isTickedIn(frame, leg));
  const booked = await bookedLines(
    tx,
    booksId,
    lines.map(({ id }) => id),
  );
  // Field by field: spreading what the database gave took most of the time that a long statement needs.
  const rows = [
    ...lines.map((line) => lineRow(frame, line, booked.get(line.id))),
    ...ticked.map((leg) => legRow(leg, true)),
  ];
  const before = days.filter(({ date }) => after !== null && date <= after);
  return { rows: withRunning(rows, summary.opening + sumOf(before)), lines, ticked };
}

/** Whether a statement counts a line that lies in it. */
export function isCountedIn({ agreed }: StatementFrame, { isWeighed }: AccountLine): boolean {
  return agreed !== null || isWeighed;
}

/** Whether an entry is ticked in a statement. */
export function isTickedIn(
  { agreed, statement: { from, to } }: StatementFrame,
  { day, countedTo }: TickableLeg,
): boolean {
  if (agreed) return countedTo === to;
  return day !== null && day >= from && countedTo === null;
}

/** A line as a row. @param booked left out for one that is not in the statement */
export function lineRow(
  frame: StatementFrame,
  line: AccountLine,
  booked: Pick<StatementRow, 'entryId' | 'payeeId' | 'accountIds'> | undefined,
  isHere = true,
): StatementRow {
  return {
    id: line.id,
    kind: 'line',
    entryId: booked?.entryId ?? null,
    payeeId: booked?.payeeId ?? null,
    accountIds: booked?.accountIds ?? [],
    date: line.date,
    day: line.day,
    text: line.text,
    cardholder: line.cardholder,
    amount: line.amount,
    runsTo: null,
    state: line.state satisfies StatementRowState,
    isLate: line.date < frame.statement.from && line.day === null,
    isCounted: isHere && isCountedIn(frame, line),
  };
}

/** An entry that is ticked, or can be, as a row. */
export function legRow(
  { id, entryId, date, day, text, payeeId, accountIds, amount }: TickableLeg,
  isCounted: boolean,
): StatementRow {
  const booked = { entryId, payeeId, accountIds };
  const shown = {
    id,
    kind: 'leg',
    date,
    day,
    text,
    amount,
    cardholder: null,
    runsTo: null,
  } as const;
  return { ...booked, ...shown, state: 'entry', isLate: false, isCounted };
}

function withRunning(rows: readonly StatementRow[], opening: number): StatementRow[] {
  let balance = opening;
  return rows.map((row) => {
    if (!row.isCounted) return row;
    balance += row.amount;
    return { ...row, runsTo: balance };
  });
}

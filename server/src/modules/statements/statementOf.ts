import type { Statement, StatementChange, StatementRow } from '@zubrell/contract/statements';
import { EDGE_DAYS } from '@zubrell/core/closing/adjustments';
import type { StatementRowState } from '@zubrell/core/closing/states';
import { addDays } from '@zubrell/core/dates/calendarDate';
import type { BankAccountId, BooksId } from '@zubrell/core/ids';
import { sumOf } from '@zubrell/core/money/minor';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import { lastStepOf } from '../books/queries.ts';
import { joinLiveDecision } from '../lines/lineState.ts';
import { outstandingItems } from '../proof/queries.ts';
import { statedBalances } from '../proof/statedBalances.ts';
import { type AccountFacts, findStatement, type SaidStatement } from './accountFacts.ts';
import {
  type AccountLine,
  accountLines,
  bookedLines,
  type TickableLeg,
  tickableLegs,
} from './accountRows.ts';
import { cardPayment } from './cardPayment.ts';
import { explanationsOf } from './explain.ts';
import { hindrancesOf } from './hindrances.ts';
import { isTicked, movedByDay, summaries } from './listStatements.ts';

/** Which statement: its last day, and the day that it is. */
export interface StatementWanted {
  readonly to: string;
  readonly today: string;
}

/** A statement, with what counts in it. */
export interface FoundStatement {
  readonly account: AccountFacts;
  readonly said: SaidStatement | null;
  readonly shown: Statement;
  readonly counted: readonly { readonly id: string; readonly amount: number }[];
  readonly lines: readonly AccountLine[];
}

/** A statement with all that it is made of. @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN, STATEMENT_UNKNOWN */
export async function statementOf(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  wanted: StatementWanted,
): Promise<FoundStatement> {
  const { account, statement, all, at } = await findStatement(tx, booksId, bankAccountId, wanted);
  const { from, to, said } = statement;
  const isTickedHere = isTicked(account);
  const lines = await accountLines(tx, booksId, bankAccountId, { from, to });
  const legs = isTickedHere ? await tickableLegs(tx, booksId, account.accountId, to) : [];
  const stated = await statedBalances(tx, booksId, bankAccountId);
  const moved = await movedByDay(tx, booksId, bankAccountId);
  const summary = summaries(account, all.slice(0, at + 1), moved, stated).at(-1);
  if (!summary) throw new Error('a statement that was found has a summary');
  const isIn = ({ counts }: AccountLine) => counts >= from && counts <= to;
  const isAgreed = summary.state === 'agreed';
  const within = lines.filter((line) => (isAgreed ? line.countedTo === to : isIn(line)));
  const inside = new Set(within.map(({ id }) => id));
  const isCounted = (line: AccountLine) => line.isWeighed || line.countedTo === to;
  const counted = within.filter(isCounted);
  const keptOut = isAgreed ? [] : within.filter((line) => !line.isWeighed);
  const isTickedIn = (leg: TickableLeg) =>
    isAgreed ? leg.countedTo === to : isTickedLeg(leg) && (leg.day ?? '') >= from;
  const ticked = legs.filter(isTickedIn);
  const booked = await bookedLines(
    tx,
    booksId,
    within.map(({ id }) => id),
  );
  // Field by field: spreading what the database gave took most of the time that a long statement needs.
  const rowOf = (line: AccountLine): StatementRow => {
    const entry = booked.get(line.id);
    return {
      id: line.id,
      kind: 'line',
      entryId: entry?.entryId ?? null,
      payeeId: entry?.payeeId ?? null,
      accountIds: entry?.accountIds ?? [],
      date: line.date,
      day: line.day,
      text: line.text,
      cardholder: line.cardholder,
      amount: line.amount,
      runsTo: null,
      state: line.state satisfies StatementRowState,
      isLate: line.date < from && line.day === null,
      isCounted: inside.has(line.id) && isCounted(line),
    };
  };
  const rows = withRunning(
    [...within.map(rowOf), ...ticked.map((leg) => legRow(leg, true))],
    summary.opening,
  );
  const { closing } = summary;
  const addsUp = isAgreed ? summary.addsUp : summary.opening + sumOf(counted) + sumOf(ticked);
  const off = closing === null ? null : closing - addsUp;
  const statedOpening = stated.find(({ date }) => date === addDays(from, -1))?.amount ?? null;
  const dismissed = said?.dismissed ?? [];
  const isOff = off !== null && off !== 0;
  const edges = isOff ? await linesAround(tx, booksId, bankAccountId, { from, to }) : [];
  const found =
    !isOff || closing === null
      ? []
      : await explanationsOf(tx, booksId, bankAccountId, {
          period: { from, to },
          opening: summary.opening,
          statedOpening,
          closing,
          isClosingTyped: summary.isClosingTyped,
          counted,
          keptOut,
          near: edges.filter(
            (line) =>
              line.isWeighed && line.countedTo === null && !isIn(line) && isNear(line, from, to),
          ),
          stated: stated.filter(({ date }) => date >= from && date < to),
        });
  const named = new Set(found.flatMap(({ causes }) => causes.flatMap(({ lineIds }) => lineIds)));
  const before = all[at - 1] ?? null;
  const shown: Omit<Statement, 'hindrances'> = {
    ...summary,
    lineCount: counted.length + ticked.length,
    openCount: isAgreed ? 0 : counted.filter(({ state }) => state === 'open').length,
    askedCount: isAgreed ? 0 : counted.filter(({ state }) => state === 'asked').length,
    addsUp,
    off,
    seenStep: await lastStepOf(tx, booksId),
    isTicked: isTickedHere,
    payment: await cardPayment(tx, booksId, account, { to, closing }),
    statedOpening: statedOpening === summary.opening ? null : statedOpening,
    before: before && { to: before.to, isAgreed: before.said?.agreedStep != null },
    after: all[at + 1]?.to ?? null,
    rows,
    elsewhere: [
      ...lines
        .filter((line) => line.date >= from && line.date <= to && !inside.has(line.id))
        .map(rowOf),
      ...legs
        .filter((leg) => !isTickedIn(leg) && leg.countedTo === null)
        .map((leg) => legRow(leg, false)),
    ],
    nearby: edges.filter(({ id }) => !inside.has(id) && named.has(id)).map(rowOf),
    outstanding: await outstandingItems(tx, booksId, { bankAccountId: [bankAccountId], to }),
    explanations: found.filter(({ key }) => !dismissed.includes(key)),
    dismissedCount: found.filter(({ key }) => dismissed.includes(key)).length,
    changes: said === null ? [] : await changesOf(tx, booksId, said, within),
  };
  const hindrances = hindrancesOf(shown, account);
  const parts = [...counted, ...ticked];
  return {
    account,
    said,
    shown: { ...shown, changedCount: shown.changes.length, hindrances },
    counted: parts,
    lines: counted,
  };
}

/** The lines that count shortly before or after a statement, or are dated then. */
async function linesAround(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  { from, to }: { readonly from: string; readonly to: string },
): Promise<readonly AccountLine[]> {
  const [before, after] = await together(
    accountLines(tx, booksId, bankAccountId, {
      from: addDays(from, -EDGE_DAYS),
      to: addDays(from, -1),
    }),
    accountLines(tx, booksId, bankAccountId, { from: addDays(to, 1), to: addDays(to, EDGE_DAYS) }),
  );
  return [...before, ...after];
}

const isTickedLeg = ({ day, countedTo }: TickableLeg) => day !== null && countedTo === null;

function isNear({ counts }: AccountLine, from: string, to: string): boolean {
  return counts >= addDays(from, -EDGE_DAYS) && counts <= addDays(to, EDGE_DAYS);
}

function legRow(
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

const ChangedRow = z.object({
  lineId: z.string(),
  date: z.string(),
  text: z.string(),
  amount: z.int(),
  what: z.enum(['went', 'decided', 'open', 'same']),
});

/** What is not as it was when a statement was agreed last; nothing where it never was. */
async function changesOf(
  tx: Tx,
  booksId: BooksId,
  { id, agreedStep, lastAgreedStep }: SaidStatement,
  within: readonly AccountLine[],
): Promise<StatementChange[]> {
  const step = agreedStep ?? lastAgreedStep;
  if (step === null) return [];
  const parts = await rowsOf(
    tx,
    ChangedRow,
    sql`select l.id as "lineId", l.date, l.description as text, l.amount,
          case when not l.is_here then 'went' when dl.decision_id is null and p.decision_id is not null then 'open'
            when dl.decision_id is distinct from p.decision_id then 'decided' else 'same' end as what
        from statement_parts p
        join lines l on l.books_id = p.books_id and l.id = p.thing_id
        ${joinLiveDecision}
        where p.books_id = ${booksId} and p.statement_id = ${id} and p.step = ${step}
        order by l.date, l.position`,
  );
  const known = new Set(parts.map(({ lineId }) => lineId));
  const came = within
    .filter((line) => line.isWeighed && !known.has(line.id))
    .map((line) => ({
      lineId: line.id,
      date: line.date,
      text: line.text,
      amount: line.amount,
      what: 'came' as const,
    }));
  return [
    ...parts.flatMap(({ what, ...part }) => (what === 'same' ? [] : [{ ...part, what }])),
    ...came,
  ];
}

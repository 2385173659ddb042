import type { Explanation, Statement, StatementChange } from '@zubrell/contract/statements';
import { EDGE_DAYS } from '@zubrell/core/closing/adjustments';
import { addDays } from '@zubrell/core/dates/calendarDate';
import type { BankAccountId, BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import { lastStepOf } from '../books/queries.ts';
import { joinLiveDecision } from '../lines/lineState.ts';
import { outstandingItems } from '../proof/queries.ts';
import type { SaidStatement } from './accountFacts.ts';
import { type AccountLine, accountLines, bookedLines, tickableLegs } from './accountRows.ts';
import { cardPayment } from './cardPayment.ts';
import { explanationsOf } from './explain.ts';
import { hindrancesOf } from './hindrances.ts';
import { changedParts } from './listStatements.ts';
import { frameOf, type StatementFrame, type StatementWanted } from './statementFrame.ts';
import { linesAround, linesElsewhere } from './statementLines.ts';
import { isCountedIn, isTickedIn, legRow, lineRow } from './statementRows.ts';

/** Nothing was asked. */
const NONE: Promise<never[]> = Promise.resolve([]);

/**
 * A statement, but for its rows. Its lines are read only where it is off, to explain that, or was opened again.
 *
 * @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN, STATEMENT_UNKNOWN
 */
export async function statementOf(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  wanted: StatementWanted,
): Promise<Statement> {
  return shownOf(tx, booksId, await frameOf(tx, booksId, bankAccountId, wanted));
}

/** A statement, but for its rows. */
export async function shownOf(tx: Tx, booksId: BooksId, frame: StatementFrame): Promise<Statement> {
  const { account, statement, before, after, summary, isTickedHere } = frame;
  const { bankAccountId, accountId } = account;
  const { from, to, said } = statement;
  const { closing, opening, off } = summary;
  const isOff = off !== null && off !== 0;
  const isReopened = summary.state === 'reopened';
  const [seenStep, payment, outstanding, lines, apart, legs, hasHolders] = await together(
    lastStepOf(tx, booksId),
    cardPayment(tx, booksId, account, { to, closing }),
    outstandingItems(tx, booksId, { bankAccountId: [bankAccountId], to }),
    isOff || isReopened ? accountLines(tx, booksId, bankAccountId, { from, to }) : NONE,
    isTickedHere ? NONE : linesElsewhere(tx, booksId, bankAccountId, statement),
    isTickedHere ? tickableLegs(tx, booksId, accountId, to) : NONE,
    namesHolders(tx, booksId, frame),
  );
  const inside = lines.filter(({ counts }) => counts >= from && counts <= to);
  const [{ found, named }, booked, changes] = await together(
    explainedBy(tx, booksId, frame, inside),
    bookedLines(
      tx,
      booksId,
      apart.map(({ id }) => id),
    ),
    said === null ? NONE : changesOf(tx, booksId, said, inside),
  );
  const statedOpening = openingStated(frame);
  const dismissed = said?.dismissed ?? [];
  const shown: Omit<Statement, 'hindrances'> = {
    ...summary,
    seenStep,
    isTicked: isTickedHere,
    payment,
    statedOpening: statedOpening === opening ? null : statedOpening,
    before: before && { to: before.to, isAgreed: before.said?.agreedStep != null },
    after: after?.to ?? null,
    hasHolders,
    elsewhere: [
      ...apart.map((line) => lineRow(frame, line, booked.get(line.id), false)),
      ...legs
        .filter((leg) => !isTickedIn(frame, leg) && leg.countedTo === null)
        .map((leg) => legRow(leg, false)),
    ],
    named,
    outstanding,
    explanations: found.filter(({ key }) => !dismissed.includes(key)),
    dismissedCount: found.filter(({ key }) => dismissed.includes(key)).length,
    changes,
    changedCount: changes.length,
  };
  return { ...shown, hindrances: hindrancesOf(shown, account) };
}

/** What a statement itself says that it opened at; null where it doesn't. */
function openingStated({ stated, statement: { from } }: StatementFrame): number | null {
  return stated.find(({ date }) => date === addDays(from, -1))?.amount ?? null;
}

/** What would explain that a statement is off, and the lines that this names. */
async function explainedBy(
  tx: Tx,
  booksId: BooksId,
  frame: StatementFrame,
  inside: readonly AccountLine[],
): Promise<{ readonly found: readonly Explanation[]; readonly named: Statement['named'] }> {
  const { account, statement, summary, stated } = frame;
  const { bankAccountId } = account;
  const { from, to } = statement;
  const { closing, opening, off, isClosingTyped } = summary;
  if (closing === null || off === 0) return { found: [], named: [] };
  const edges = await linesAround(tx, booksId, bankAccountId, { from, to });
  const isNear = ({ counts }: AccountLine) =>
    counts >= addDays(from, -EDGE_DAYS) &&
    counts <= addDays(to, EDGE_DAYS) &&
    (counts < from || counts > to);
  const found = await explanationsOf(tx, booksId, bankAccountId, {
    period: { from, to },
    opening,
    statedOpening: openingStated(frame),
    closing,
    isClosingTyped,
    counted: inside.filter((line) => isCountedIn(frame, line)),
    keptOut: inside.filter((line) => !isCountedIn(frame, line)),
    near: edges.filter((line) => line.isWeighed && line.countedTo === null && isNear(line)),
    stated: stated.filter(({ date }) => date >= from && date < to),
  });
  const names = new Set(found.flatMap(({ causes }) => causes.flatMap(({ lineIds }) => lineIds)));
  const known = new Map([...edges, ...inside].map((line) => [line.id, line]));
  const named = [...names].flatMap((lineId) => {
    const line = known.get(lineId);
    return line ? [{ id: line.id, date: line.date, text: line.text, amount: line.amount }] : [];
  });
  return { found, named };
}

const HoldersRow = z.object({ names: z.boolean() });

/** Whether lines of an account that are dated in a statement's period name cardholders. */
async function namesHolders(
  tx: Tx,
  booksId: BooksId,
  { account, statement: { from, to } }: StatementFrame,
): Promise<boolean> {
  const [row] = await rowsOf(
    tx,
    HoldersRow,
    sql`select exists (select from lines l
          where l.books_id = ${booksId} and l.bank_account_id = ${account.bankAccountId}
            and l.date between ${from} and ${to} and l.cardholder is not null) as names`,
  );
  return row?.names ?? false;
}

const ChangedRow = z.object({
  lineId: z.string(),
  date: z.string(),
  text: z.string(),
  amount: z.int(),
  what: z.enum(['went', 'decided', 'open', 'same']),
});
const KnownRow = z.object({ lineId: z.string() });

/**
 * What is not as it was when a statement was agreed last; nothing where it never was.
 *
 * @param inside the lines in one that was opened again
 */
async function changesOf(
  tx: Tx,
  booksId: BooksId,
  { id, agreedStep, lastAgreedStep }: SaidStatement,
  inside: readonly AccountLine[],
): Promise<StatementChange[]> {
  const step = agreedStep ?? lastAgreedStep;
  if (step === null) return [];
  const ofStep = sql`p.books_id = ${booksId} and p.statement_id = ${id} and p.step = ${step}`;
  const isReopened = agreedStep === null;
  const [parts, known] = await together(
    rowsOf(
      tx,
      ChangedRow,
      sql`select l.id as "lineId", l.date, l.description as text, l.amount,
            case when not l.is_here then 'went' when dl.decision_id is null and p.decision_id is not null then 'open'
              when dl.decision_id is distinct from p.decision_id then 'decided' else 'same' end as what
          from statement_parts p
          join lines l on l.books_id = p.books_id and l.id = p.thing_id
          ${joinLiveDecision}
          where ${ofStep} and p.thing_id = any(array(
            select c.thing_id from ${changedParts(booksId)} c
            where c.statement_id = ${id} and c.step = ${step}))
          order by l.date, l.position`,
    ),
    isReopened
      ? rowsOf(
          tx,
          KnownRow,
          sql`select p.thing_id as "lineId" from statement_parts p where ${ofStep}`,
        )
      : NONE,
  );
  const wasThere = new Set(known.map(({ lineId }) => lineId));
  const came = isReopened ? inside.filter((line) => line.isWeighed && !wasThere.has(line.id)) : [];
  return [
    ...parts.flatMap(({ what, ...part }) => (what === 'same' ? [] : [{ ...part, what }])),
    ...came.map((line) => ({
      lineId: line.id,
      date: line.date,
      text: line.text,
      amount: line.amount,
      what: 'came' as const,
    })),
  ];
}

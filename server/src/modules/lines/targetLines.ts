import type { Scope, Target } from '@zubrell/contract/desk';
import { Proposal } from '@zubrell/contract/desk';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import type { ErrorCode, ErrorParams } from '@zubrell/core/errors';
import { messageOf } from '@zubrell/core/errors';
import type { BankAccountId, LineId } from '@zubrell/core/ids';
import { heldReasons } from '@zubrell/core/intake/held';
import { askedStates } from '@zubrell/core/questions/states';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type BooksTx, rowsOf } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { countedTo, isInLane, isTwice, joinLiveDecision, lastChangeOfLine } from './lineState.ts';
import { scopeFilter, stackFilter } from './scopeFilter.ts';

/** A line that a command is about, locked until the transaction ends. */
export const TargetLine = z.object({
  id: z.string(),
  date: z.string(),
  amount: z.number(),
  /** In which it is, ISO 4217. */
  currency: z.string(),
  reference: z.string().nullable(),
  chequeNumber: z.string().nullable(),
  /** How it was paid, as the bank calls it. */
  method: z.string().nullable(),
  stem: z.string(),
  bankAccountId: idRow<BankAccountId>(),
  ledgerAccountId: z.string(),
  proposal: Proposal.nullable(),
  /** Proposals with the same digest say the same. */
  digest: z.string().nullable(),
  /** By habit: log odds that the proposed account is right. */
  odds: z.number().nullable(),
  twiceOf: z.string().nullable(),
  /** Whether a question about it is open, or answered and not settled. */
  asked: z.enum(askedStates).nullable(),
  /** Why it is held for a decision. */
  held: z.enum(heldReasons).nullable(),
  /** The last day of the agreed statement that counts it; null where none does. */
  countedTo: z.string().nullable(),
});
export type TargetLine = z.infer<typeof TargetLine>;

/** What the bank said of line `l` that its entry keeps. */
export const bankFactColumns = sql`l.reference, l.cheque_number as "chequeNumber", l.type as method`;

/** The same as an entry has it. */
export function bankFactsOf({ reference, chequeNumber, method }: TargetLine) {
  return { reference, number: chequeNumber, method };
}

/** A line that a command leaves alone, and why. */
export interface LeftOut {
  readonly lineId: LineId;
  readonly code: ErrorCode;
  readonly message: string;
}

/** A line left out for an error of the table. */
export function leftOutFor(lineId: LineId, code: ErrorCode, params: ErrorParams = {}): LeftOut {
  return { lineId, code, message: messageOf(code, params) };
}

/** Lines without those that may be second copies: these are answered for first. */
export function withoutTwice(found: FoundLines): FoundLines {
  const twice = found.lines.filter(({ twiceOf }) => twiceOf !== null);
  return {
    lines: found.lines.filter(({ twiceOf }) => twiceOf === null),
    leftOut: [...found.leftOut, ...twice.map(({ id }) => leftOutFor(id, 'LINE_TWICE'))],
  };
}

/** Lines without those that an agreed statement counts: they can't be kept out as long as it stands. */
export function withoutCounted(found: FoundLines): FoundLines {
  const counted = found.lines.flatMap(({ id, countedTo: to }) =>
    to === null ? [] : leftOutFor(id, 'STATEMENT_COUNTS_LINE', { to: formatLongDate(to) }),
  );
  return {
    lines: found.lines.filter(({ countedTo: to }) => to === null),
    leftOut: [...found.leftOut, ...counted],
  };
}

/** The lines of a target that can be decided, and those left out. */
export interface FoundLines {
  readonly lines: readonly TargetLine[];
  readonly leftOut: readonly LeftOut[];
}

/** A line with who changed it last. */
export const ChangedLine = z.object({
  id: z.string(),
  lastChange: z.object({
    step: z.number(),
    by: z.string().nullable(),
    what: z.string().nullable(),
  }),
});
export type ChangedLine = z.infer<typeof ChangedLine>;

/** Leaves a line out that was changed since the sender looked; null where it was not. */
export function leftOutIfChanged(
  { id, lastChange: { step, by, what } }: ChangedLine,
  seenStep: number,
): LeftOut | null {
  if (step <= seenStep) return null;
  return leftOutFor(id, 'LINE_CHANGED', { who: by ?? '', what: what ?? '' });
}

const FoundLine = TargetLine.extend(ChangedLine.shape).extend({
  isHere: z.boolean(),
  decisionKind: z.string().nullable(),
});

/** The Ready lines of a scope that nobody works on. */
export interface ReadyTarget {
  readonly ready: Scope;
  readonly without: readonly string[];
}

/** The condition that line `l` with proposal `p` is Ready and that nobody works on it. */
export async function isSwept(books: BooksTx, scope: Scope): Promise<SQL> {
  return sql`${isInLane('ready')} and ${await scopeFilter(books, scope)}
    and not exists (select from drafts f where f.books_id = l.books_id and f.line_id = l.id
      and f.coding is not null)`;
}

async function isWanted(books: BooksTx, target: Target | ReadyTarget): Promise<SQL> {
  if ('lineIds' in target) return sql`l.id = any(${sql.param(target.lineIds)}::uuid[])`;
  if ('ready' in target) {
    return sql`${await isSwept(books, target.ready)}
      and l.id <> all(${sql.param(target.without)}::uuid[])`;
  }
  const isInStack = target.stack === undefined ? sql`true` : stackFilter(target.stack);
  return sql`${isInLane(target.lane)}
    and ${isInStack} and ${await scopeFilter(books, target.scope)}`;
}

/** The lines of a target, locked, parted into those that can be decided and those left out. */
export async function targetLines(
  { tx, booksId }: BooksTx,
  currency: string,
  target: Target | ReadyTarget,
  seenStep: number,
): Promise<FoundLines> {
  const found = await rowsOf(
    tx,
    FoundLine,
    sql`select l.id, l.date, l.amount, coalesce(b.currency, ${currency}) as currency, ${bankFactColumns},
          l.stem, l.is_here as "isHere", ${lastChangeOfLine},
          b.id as "bankAccountId", b.account_id as "ledgerAccountId", p.proposal,
          p.digest::text as digest, p.odds, case when ${isTwice} then l.twice_of end as "twiceOf", l.asked,
          l.held, ${countedTo} as "countedTo", d.kind as "decisionKind"
        from lines l
        join bank_accounts b on b.books_id = l.books_id and b.id = l.bank_account_id
        left join proposals p on p.books_id = l.books_id and p.line_id = l.id
        ${joinLiveDecision}
        left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        where l.books_id = ${booksId} and ${await isWanted({ tx, booksId }, target)}
        order by l.date, l.position, l.id
        for update of l`,
  );
  const leftOut: LeftOut[] = [];
  const leave = (lineId: LineId, code: ErrorCode, params: ErrorParams = {}) => {
    leftOut.push(leftOutFor(lineId, code, params));
  };
  const lines = found.filter((line) => {
    const changed = leftOutIfChanged(line, seenStep);
    if (!line.isHere) leave(line.id, 'LINE_UNKNOWN');
    else if (changed) leftOut.push(changed);
    else if (line.decisionKind !== null) {
      leave(line.id, 'LINE_DECIDED', { state: line.decisionKind });
    } else return true;
    return false;
  });
  if ('lineIds' in target) {
    const ids = new Set(found.map((line) => line.id));
    for (const id of target.lineIds) if (!ids.has(id)) leave(id, 'LINE_UNKNOWN');
  }
  return { lines, leftOut };
}

import type { BooksId, DecisionId, LineId } from '@zubrell/core/ids';
import { ownKinds } from '@zubrell/core/ledger/entries';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { execute, rowsOf, type Tx, together } from '../../db/database.ts';
import { IdRow, idRow } from '../../db/rows.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';

/** A line and the decisions it goes from and to; null is open. */
export interface LineChange {
  readonly lineId: LineId;
  readonly from: string | null;
  readonly to: string | null;
}

const CurrentRow = z.object({ id: z.string(), decisionId: idRow<DecisionId>().nullable() });

/**
 * Moves lines between decisions already made: those left are no longer live and the entries that they made are
 * voided, unless another decision stands on them too; those gone to come back to life with the same entries.
 * Entries made by hand stay as they are.
 *
 * @param changes of a decision on several lines all of them
 * @returns ids of the lines that no longer stand as `from` says; nothing is changed then
 */
export async function setLineDecisions(
  command: BooksCommand,
  changes: readonly LineChange[],
): Promise<string[]> {
  const { tx, booksId } = command;
  const lineIds = changes.map((change) => change.lineId);
  const [current, alone] = await together(
    rowsOf(
      tx,
      CurrentRow,
      sql`select l.id, dl.decision_id as "decisionId"
          from lines l
          left join decision_lines dl
            on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
          where l.books_id = ${booksId} and l.id = any(${sql.param(lineIds)}::uuid[])
          for update of l`,
    ),
    leftBehind(tx, booksId, changes),
  );
  const standing = new Map(current.map((row) => [row.id, row.decisionId]));
  const moved = changes.filter((change) => standing.get(change.lineId) !== change.from);
  if (moved.length > 0) return moved.map((change) => change.lineId);
  if (alone.length > 0) return alone;
  await together(
    setDecisionsLive(command, idsOf(changes, 'from'), false),
    setDecisionsLive(command, idsOf(changes, 'to'), true),
  );
  return [];
}

function idsOf(changes: readonly LineChange[], side: 'from' | 'to'): string[] {
  return changes.flatMap((change) => change[side] ?? []);
}

/** Lines of decisions to be left that are not among those given. */
async function leftBehind(
  tx: Tx,
  booksId: BooksId,
  changes: readonly LineChange[],
): Promise<string[]> {
  const rows = await rowsOf(
    tx,
    IdRow,
    sql`select line_id as id from decision_lines
        where books_id = ${booksId} and is_live
          and decision_id = any(${sql.param(idsOf(changes, 'from'))}::uuid[])
          and line_id <> all(${sql.param(changes.map(({ lineId }) => lineId))}::uuid[])`,
  );
  return rows.map(({ id }) => id);
}

/**
 * Puts decisions into force or out of it: their ties to lines and legs, what they settle, and the entries that they
 * made, as long as nothing else is tied to those.
 */
export async function setDecisionsLive(
  { tx, booksId, step }: BooksCommand,
  decisionIds: readonly DecisionId[],
  isLive: boolean,
): Promise<void> {
  if (decisionIds.length === 0) return;
  const these = sql`books_id = ${booksId} and decision_id = any(${sql.param(decisionIds)}::uuid[])`;
  const isStillTied = sql`exists (
    select from legs other
    join decision_legs tied on tied.books_id = other.books_id and tied.leg_id = other.id
    where other.books_id = e.books_id and other.entry_id = e.id and tied.is_live)`;
  await together(
    execute(
      tx,
      sql`update decision_lines set is_live = ${isLive}, last_step = ${step} where ${these}`,
    ),
    execute(tx, sql`update decision_legs set is_live = ${isLive} where ${these}`),
    execute(tx, sql`update allocations set is_live = ${isLive} where ${these}`),
    // Which entries they made is found first: the planner can't tell how few others are tied to.
    execute(
      tx,
      sql`with made as materialized (
            select distinct g.entry_id
            from unnest(${sql.param(decisionIds)}::uuid[]) as decided (id)
            join decision_legs t on t.books_id = ${booksId} and t.decision_id = decided.id
            join legs g on g.books_id = t.books_id and g.id = t.leg_id)
          update entries e set is_void = ${!isLive}
          from made
          where e.books_id = ${booksId} and e.id = made.entry_id
            and e.kind = any(${sql.param(ownKinds)}::text[]) and e.is_void = ${isLive}
            and ${isLive ? sql`true` : sql`not ${isStillTied}`}`,
    ),
  );
}

import { takesOf } from '@zubrell/core/propose/rule/conditions';
import { indexRules } from '@zubrell/core/propose/rule/ruleIndex';
import { sql } from 'drizzle-orm';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { booksLines } from './booksLines.ts';
import { activeOf, type RuleState, ruleRows } from './ruleRows.ts';

/** A rule before and after a step; null where it is not there. */
export interface RuleChange {
  readonly thing: 'rule';
  readonly thingId: string;
  readonly before: RuleState | null;
  readonly after: RuleState | null;
}

/**
 * Writes what rules changed to, and has open lines proposed for anew that they took before or take now.
 * Drafts, and whatever else somebody did to a line, are left alone.
 *
 * @returns how many open lines the changed rules take now, before any other rule; null where a rule does
 * not stand as it was said to
 */
export async function setRules(
  command: BooksCommand,
  changes: readonly RuleChange[],
): Promise<number | null> {
  const { tx, booksId } = command;
  const rows = await ruleRows(tx, booksId);
  const standing = new Map(rows.map((row) => [row.id, row]));
  const isMoved = changes.some(({ thingId, before }) => {
    const now = standing.get(thingId);
    return (now === undefined) !== (before === null) || (now && before && !isSame(now, before));
  });
  if (isMoved) return null;
  await write(command, changes);
  return applyChanges(command, changes);
}

function isSame(a: RuleState, b: RuleState): boolean {
  const told = ({ name, isOn, rank, body, sinceStep }: RuleState) => [
    name,
    isOn,
    rank,
    body,
    sinceStep,
  ];
  return JSON.stringify(told(a)) === JSON.stringify(told(b));
}

async function write(
  { tx, booksId, step }: BooksCommand,
  changes: readonly RuleChange[],
): Promise<void> {
  const put = changes.flatMap(({ thingId, after }) => (after ? { id: thingId, ...after } : []));
  const gone = changes.filter(({ after }) => after === null).map(({ thingId }) => thingId);
  if (put.length > 0) {
    await tx.execute(
      sql`insert into rules (books_id, id, name, rank, is_on, body, since_step, against, last_step)
          select ${booksId}::uuid, id, name, rank, is_on, body::jsonb, since_step, against, ${step}
          from unnest(
            ${sql.param(put.map(({ id }) => id))}::uuid[],
            ${sql.param(put.map(({ name }) => name))}::text[],
            ${sql.param(put.map(({ rank }) => rank))}::float8[],
            ${sql.param(put.map(({ isOn }) => isOn))}::boolean[],
            ${sql.param(put.map(({ body }) => JSON.stringify(body)))}::text[],
            ${sql.param(put.map(({ sinceStep }) => sinceStep))}::bigint[],
            ${sql.param(put.map(({ against }) => against))}::int[])
            as put (id, name, rank, is_on, body, since_step, against)
          on conflict (books_id, id) do update set name = excluded.name, rank = excluded.rank,
            is_on = excluded.is_on, is_here = true, body = excluded.body,
            since_step = excluded.since_step, against = excluded.against, last_step = excluded.last_step`,
    );
  }
  if (gone.length > 0) {
    await tx.execute(
      sql`update rules set is_here = false, last_step = ${step}
          where books_id = ${booksId} and id = any(${sql.param(gone)}::uuid[])`,
    );
  }
}

/** Proposes anew for open lines that changed rules take or took. @returns how many they take now */
async function applyChanges(
  command: BooksCommand,
  changes: readonly RuleChange[],
): Promise<number> {
  const { tx, booksId, follow } = command;
  const touched = changes.flatMap(({ before, after }) =>
    [before, after].flatMap((state) => (state?.isOn ? [state.body] : [])),
  );
  if (touched.length === 0) return 0;
  const { lines } = await booksLines(tx, booksId);
  const changed = new Set(changes.map(({ thingId }) => thingId));
  const [only] = touched;
  const isReached =
    only && touched.length === 1
      ? takesOf(only.takes)
      : (
          (index) => (line: (typeof lines)[number]) =>
            index.first(line) >= 0
        )(indexRules(touched));
  const reached = lines.filter((line) => line.state === 'open' && isReached(line));
  if (reached.length === 0) return 0;
  const active = activeOf(await ruleRows(tx, booksId));
  const index = indexRules(active);
  const now = reached.filter((line) => changed.has(active[index.first(line)]?.id ?? ''));
  await follow.linesTaught(
    command,
    reached.map(({ stem }) => stem),
  );
  return now.length;
}

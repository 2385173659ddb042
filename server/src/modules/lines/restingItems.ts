import type { LineId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { IdRow, idRow } from '../../db/rows.ts';
import { offsetItem } from '../decisions/offsetItem.ts';
import { entryItem } from '../ledger/handPlans.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { inTheWayOf } from '../steps/putItems.ts';
import type { Need, StepItem } from '../steps/recordStep.ts';

/**
 * Items with those that have to go with them, because they rest on what goes: decisions on lines that go, copies
 * whose original goes, lines moved elsewhere, and what used up the credit of a payment.
 */
export async function withResting(
  command: BooksCommand,
  items: readonly StepItem[],
): Promise<readonly StepItem[]> {
  let all = items;
  for (;;) {
    const { taken } = await inTheWayOf(command, all);
    const known = new Set(all.map(({ thing, thingId }) => `${thing} ${thingId}`));
    const more = (await goingItems(command, taken)).filter(
      ({ thing, thingId }) => !known.has(`${thing} ${thingId}`),
    );
    if (more.length === 0) return all;
    all = [...all, ...more];
  }
}

const GoingItemsRow = z.object({ id: z.string(), lineId: idRow<LineId>().nullable() });

/** What takes decisions back, with the entries made by hand that they belong to, and lines that are here by themselves. */
async function goingItems(
  { tx, booksId }: BooksCommand,
  taken: readonly Need[],
): Promise<StepItem[]> {
  const idsOf = (thing: string) =>
    taken.filter((need) => need.thing === thing).map(({ thingId }) => thingId);
  const decisions = sql.param(idsOf('decision'));
  const rows = await rowsOf(
    tx,
    GoingItemsRow,
    sql`select wanted.id, dl.line_id as "lineId"
        from (select distinct unnest(${decisions}::uuid[]) as id) wanted
        left join decision_lines dl on dl.books_id = ${booksId} and dl.decision_id = wanted.id
          and dl.is_live`,
  );
  // What a payment entered by hand settles goes with the payment.
  const entries = await rowsOf(
    tx,
    IdRow,
    sql`select distinct e.id from decision_legs x
        join legs g on g.books_id = x.books_id and g.id = x.leg_id and g.role = 'control'
        join entries e on e.books_id = g.books_id and e.id = g.entry_id and e.content is not null
          and not e.is_void
        where x.books_id = ${booksId} and x.decision_id = any(${decisions}::uuid[])`,
  );
  return [
    ...entries.map(({ id }) => entryItem(id, false)),
    ...rows.map(
      ({ id, lineId }): StepItem =>
        lineId === null
          ? offsetItem(id, false)
          : {
              thing: 'line',
              thingId: lineId,
              before: { decisionId: id },
              after: { decisionId: null },
            },
    ),
    ...idsOf('lineHere').map(
      (thingId): StepItem => ({
        thing: 'lineHere',
        thingId,
        before: { isHere: true },
        after: { isHere: false },
      }),
    ),
  ];
}

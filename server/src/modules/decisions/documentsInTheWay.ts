import type { DecisionId } from '@zubrell/core/ids';
import { sumOf } from '@zubrell/core/money/minor';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import type { Need, StepItem } from '../steps/recordStep.ts';
import { type InTheWay, isHere } from '../steps/things.ts';

/** A decision, as something that is needed or in the way. */
export const decisionNeed = (thingId: string): Need => ({ thing: 'decision', thingId });

/**
 * Whether the tie to leg `g` of entry `paid`, which left credit, is that of the decision that left it: a payment
 * entered by hand leaves it by its own, and its line is tied by another.
 */
export const isCreditTie: SQL = sql`(paid.content is null or g.role = 'control')`;

const DocumentRow = z.object({
  id: z.string(),
  amount: z.number(),
  isVoid: z.boolean(),
  /** The decision whose payment left it as credit. */
  madeBy: z.string().nullable(),
  allocations: z.array(
    z.object({
      decisionId: idRow<DecisionId>(),
      amount: z.number(),
      isLive: z.boolean(),
      step: z.number(),
    }),
  ),
});

/** Documents that would be settled by more than they come to, and credit that is used. */
export async function documentsInTheWay(
  { tx, booksId }: BooksCommand,
  arriving: readonly string[],
  leaving: readonly string[],
  all: readonly StepItem[],
): Promise<Required<InTheWay>> {
  const both = sql.param([...arriving, ...leaving]);
  const documents = await rowsOf(
    tx,
    DocumentRow,
    sql`with touched as (
          select a.document_id as id, null::uuid as made_by from allocations a
          where a.books_id = ${booksId} and a.decision_id = any(${both}::uuid[])
          union all
          select c.id, x.decision_id from decision_legs x
          join legs g on g.books_id = x.books_id and g.id = x.leg_id
          join entries paid on paid.books_id = g.books_id and paid.id = g.entry_id
          join documents c on c.books_id = g.books_id and c.entry_id = g.entry_id and c.kind = 'credit'
            and ${isCreditTie}
          where x.books_id = ${booksId} and x.decision_id = any(${sql.param(leaving)}::uuid[]))
        select d.id, d.amount, e.is_void as "isVoid", max(t.made_by::text) as "madeBy",
          (select coalesce(json_agg(json_build_object('decisionId', a.decision_id, 'amount', a.amount,
              'isLive', a.is_live, 'step', s.step) order by s.step desc), '[]')
            from allocations a
            join decisions s on s.books_id = a.books_id and s.id = a.decision_id
            where a.books_id = d.books_id and a.document_id = d.id) as allocations
        from touched t
        join documents d on d.books_id = ${booksId} and d.id = t.id
        join entries e on e.books_id = d.books_id and e.id = d.entry_id
        group by d.books_id, d.id, e.is_void`,
  );
  const coming = new Set(
    all
      .filter(({ thing, after }) => thing === 'document' && isHere(after))
      .map(({ thingId }) => thingId),
  );
  const [isArriving, isLeaving] = [new Set(arriving), new Set(leaving)];
  const taken: Need[] = [];
  const absent: Need[] = [];
  for (const { id, amount, isVoid, madeBy, allocations } of documents) {
    const staying = allocations.filter(
      ({ decisionId, isLive }) => isLive && !isLeaving.has(decisionId),
    );
    const own = allocations.filter(({ decisionId }) => isArriving.has(decisionId));
    if (madeBy !== null && isLeaving.has(madeBy) && !isArriving.has(madeBy)) {
      taken.push(...staying.map(({ decisionId }) => decisionNeed(decisionId)));
      continue;
    }
    if (own.length > 0 && isVoid && !coming.has(id))
      absent.push({ thing: 'document', thingId: id });
    const settled = sumOf(staying) + sumOf(own);
    if (settled !== 0 && Math.sign(settled) !== Math.sign(amount)) {
      const reopening = staying.find((each) => Math.sign(each.amount) !== Math.sign(amount));
      const paying = allocations.find(
        (each) => !each.isLive && Math.sign(each.amount) === Math.sign(amount),
      );
      if (own.length > 0 && paying) absent.push(decisionNeed(paying.decisionId));
      else if (reopening) taken.push(decisionNeed(reopening.decisionId));
    } else if (Math.abs(settled) > Math.abs(amount)) {
      const newest = staying.find((each) => Math.sign(each.amount) === Math.sign(amount));
      if (newest) taken.push(decisionNeed(newest.decisionId));
    }
  }
  return { taken, absent };
}

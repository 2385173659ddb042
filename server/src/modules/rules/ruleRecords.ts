import type { BooksId, RuleId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';

/** What became of a rule's proposals. */
export const RuleUse = z.object({
  ruleId: idRow<RuleId>(),
  /** Lines decided by it or against it, seen or unseen. */
  used: z.number(),
  /** Of those that somebody looked at, or corrected later, how many were kept. */
  kept: z.number(),
  looked: z.number(),
  postedAtOnce: z.number(),
  /** The same of the newest few only. */
  newestKept: z.number(),
  newestLooked: z.number(),
  /**
   * How many in a row were kept, up to the newest, since the rule says what it says now and since it was
   * stopped from posting at once.
   */
  keptInRow: z.number(),
  lastUsed: z.string().nullable(),
});
export type RuleUse = z.infer<typeof RuleUse>;

/** So many of the newest tell whether a rule is mostly overruled. */
const NEWEST = 6;

/**
 * The record of every rule that has one. What was posted unseen counts apart, until somebody corrects it:
 * then it counts as looked at and not kept. What was undone and is open again does not count.
 */
export function ruleUses(tx: Tx, booksId: BooksId): Promise<RuleUse[]> {
  return rowsOf(
    tx,
    RuleUse,
    sql`with used as (
          select d.rule_id, d.step, d.way, l.date, dl.is_live and d.is_kept as kept,
            not dl.is_live as corrected,
            not dl.is_live or d.way is null or d.way in ('line', 'stack') as looked,
            d.step >= greatest(r.since_step, r.stopped_step + 1) as is_now
          from decisions d
          join rules r on r.books_id = d.books_id and r.id = d.rule_id
          join decision_lines dl on dl.books_id = d.books_id and dl.decision_id = d.id
          join lines l on l.books_id = dl.books_id and l.id = dl.line_id and l.is_here
          where d.books_id = ${booksId} and d.rule_id is not null
            and (dl.is_live or exists (
              select from decision_lines now
              join decisions nd on nd.books_id = now.books_id and nd.id = now.decision_id
              where now.books_id = dl.books_id and now.line_id = dl.line_id and now.is_live
                and nd.coding -> 'parts' is distinct from d.coding -> 'parts'))),
        placed as (
          select *, row_number() over (partition by rule_id order by step desc, date desc) as place
          from used where looked),
        row_of as (
          select rule_id, count(*) filter (where is_now and place < broken) as kept_in_row
          from (
            select *, coalesce(min(place) filter (where not kept)
              over (partition by rule_id), 1e9) as broken
            from placed) numbered
          group by rule_id)
        select u.rule_id as "ruleId", count(*)::int as used,
          count(*) filter (where looked and kept)::int as kept,
          count(*) filter (where looked)::int as looked,
          count(*) filter (where way = 'rule')::int as "postedAtOnce",
          coalesce((select count(*) filter (where kept)::int from placed p
            where p.rule_id = u.rule_id and place <= ${NEWEST}), 0) as "newestKept",
          coalesce((select count(*)::int from placed p
            where p.rule_id = u.rule_id and place <= ${NEWEST}), 0) as "newestLooked",
          coalesce((select kept_in_row::int from row_of o
            where o.rule_id = u.rule_id), 0) as "keptInRow",
          max(date) as "lastUsed"
        from used u group by u.rule_id`,
  );
}

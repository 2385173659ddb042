import { learnStems, type SeenStem } from '@zubrell/core/text/learnStems';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { restem } from './aliases.ts';

/** With more different stems than this, those of a batch are left as they are. */
const MOST_STEMS = 60_000;

/**
 * Learns from all lines of the books which stems belong together, and puts their lines so. What somebody said
 * of stems is left alone.
 *
 * @returns the stems of which lines went or to which they came, to be proposed for anew
 */
export async function relearnStems(tx: Tx, booksId: string): Promise<readonly string[]> {
  const seen = await rowsOf<SeenStem & { readonly isSaid: boolean }>(
    tx,
    sql`select l.own_stem as stem, count(*)::int as count, s.is_said as "isSaid",
          case when s.is_said then l.own_stem else min(l.stem) end as current,
          coalesce(array_agg(distinct coalesce(y.merged_into, y.id)::text)
            filter (where y.id is not null), '{}') as "payeeIds"
        from lines l
        left join decision_lines dl
          on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
        left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        left join payees y on y.books_id = d.books_id and y.id = (d.coding ->> 'payeeId')::uuid
        cross join lateral (
          select exists (select from aliases a where a.books_id = l.books_id and a.is_live
            and a.stem = l.own_stem) as is_said) s
        where l.books_id = ${booksId} and l.is_here
        group by l.own_stem, s.is_said limit ${MOST_STEMS + 1}`,
  );
  if (seen.length > MOST_STEMS) return [];
  const learned = learnStems(seen);
  const moved = seen.filter(
    ({ stem, current, isSaid }) => !isSaid && (learned.get(stem) ?? stem) !== current,
  );
  if (moved.length === 0) return [];
  const stems = moved.map(({ stem }) => stem);
  await tx.execute(
    sql`insert into learned_stems (books_id, stem, target)
        select ${booksId}::uuid, stem, target from unnest(
          ${sql.param(stems)}::text[],
          ${sql.param(stems.map((stem) => learned.get(stem) ?? stem))}::text[]) as learned (stem, target)
        on conflict (books_id, stem) do update set target = excluded.target`,
  );
  return restem(
    tx,
    booksId,
    stems,
    moved.map(({ current }) => current),
  );
}

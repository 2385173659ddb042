import type { BooksId } from '@zubrell/core/ids';
import { learnNoise } from '@zubrell/core/text/learnNoise';
import { learnStems, type SeenStem } from '@zubrell/core/text/learnStems';
import { type LineTexts, stemOf } from '@zubrell/core/text/stemOf';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { type BooksTx, rowsOf, type Tx } from '../../db/database.ts';
import { restem } from './aliases.ts';

/** With more different stems than this, those of a batch are left as they are. */
const MOST_STEMS = 60_000;

/**
 * Learns from the lines of the books which words say nothing of who was paid, and which stems belong together,
 * and puts the lines so. What somebody said of stems is left alone.
 *
 * @returns the stems of which lines went or to which they came, to be proposed for anew
 */
export async function relearnStems(
  tx: Tx,
  booksId: BooksId,
  step: number,
): Promise<readonly string[]> {
  const renamed = await withoutNoise(tx, booksId, step);
  const moved = await together({ tx, booksId }, step);
  return [...new Set([...renamed, ...moved])];
}

/** So many of the newest lines show what is noise. */
const LOOKED_AT = 20_000;

const NewestRow = z.object({
  description: z.string(),
  payee: z.string().nullable(),
  reference: z.string().nullable(),
}) satisfies z.ZodType<LineTexts>;

const TextRow = NewestRow.extend({ id: z.string(), ownStem: z.string(), stem: z.string() });

const WordRow = z.object({ word: z.string() });

/** Takes words out of stems that say only how money moved, as the newest lines show. */
async function withoutNoise(tx: Tx, booksId: BooksId, step: number): Promise<readonly string[]> {
  const newest = await rowsOf(
    tx,
    NewestRow,
    sql`select description, payee, reference from lines
        where books_id = ${booksId} and is_here order by date desc limit ${LOOKED_AT}`,
  );
  const found = [...learnNoise(newest)];
  // What was noise once stays so: its lines are without it by now.
  const words = await rowsOf(
    tx,
    WordRow,
    sql`with learned as (
          insert into noise_words (books_id, word)
          select ${booksId}::uuid, word from unnest(${sql.param(found)}::text[]) as found (word)
          on conflict do nothing returning word)
        select word from noise_words where books_id = ${booksId}
        union select word from learned`,
  );
  if (words.length === 0) return [];
  const noise = new Set(words.map(({ word }) => word));
  const rows = await rowsOf(
    tx,
    TextRow,
    sql`select l.id, l.description, l.payee, l.reference, l.own_stem as "ownStem", l.stem
        from lines l
        where l.books_id = ${booksId}
          and string_to_array(l.own_stem, ' ') && ${sql.param([...noise])}::text[]
          and not exists (select from aliases a
            where a.books_id = l.books_id and a.is_live and a.stem = l.own_stem)`,
  );
  const renamed = rows
    .map((row) => ({ ...row, better: stemOf(row, noise) }))
    .filter(({ ownStem, better }) => better !== ownStem);
  if (renamed.length === 0) return [];
  await tx.execute(
    sql`update lines l set own_stem = better.stem
        from unnest(
          ${sql.param(renamed.map(({ id }) => id))}::uuid[],
          ${sql.param(renamed.map(({ better }) => better))}::text[]) as better (id, stem)
        where l.books_id = ${booksId} and l.id = better.id`,
  );
  const stems = [...new Set(renamed.map(({ better }) => better))];
  return restem({ tx, booksId }, step, stems, [...new Set(renamed.map(({ stem }) => stem))]);
}

const SeenRow = z.object({
  stem: z.string(),
  count: z.int(),
  payeeIds: z.array(z.string()),
  current: z.string(),
  isSaid: z.boolean(),
}) satisfies z.ZodType<SeenStem>;

/** Puts lines together whose stems were learned to be one payee's. */
async function together({ tx, booksId }: BooksTx, step: number): Promise<readonly string[]> {
  const seen = await rowsOf(
    tx,
    SeenRow,
    sql`select l.own_stem as stem, count(*)::int as count, s.is_said as "isSaid",
          case when s.is_said then l.own_stem else min(l.stem) end as current,
          coalesce(array_agg(distinct coalesce(y.merged_into, y.id)::text)
            filter (where y.id is not null), '{}') as "payeeIds"
        from lines l
        left join decision_lines dl
          on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
        left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        left join payees y on y.books_id = d.books_id and y.id = d.payee_id
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
    { tx, booksId },
    step,
    stems,
    moved.map(({ current }) => current),
  );
}

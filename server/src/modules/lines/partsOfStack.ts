import type { Scope, StackKey, StackParts } from '@zubrell/contract/desk';
import type { BooksId } from '@zubrell/core/ids';
import { MANY_HEADS } from '@zubrell/core/text/headCounts';
import { stackParts } from '@zubrell/core/text/stackParts';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { type BooksTx, rowsOf, type Tx } from '../../db/database.ts';
import { isInLane } from './lineState.ts';
import { scopeFilter, stackFilter } from './scopeFilter.ts';

/** So often words that say nothing are taken out and what is left is looked at. */
const LOOKS = 4;
/** So many of the newest lines of a stack show what tells them apart, and of all lines which words are common. */
const LOOKED_AT = 5_000;

const WordingRow = z.object({ plain: z.string(), date: z.string() });

/** What tells the open lines of one stack of look-alikes apart; null where nothing does. */
export async function partsOfStack(
  { tx, booksId }: BooksTx,
  scope: Scope,
  lane: string,
  stack: StackKey,
): Promise<StackParts | null> {
  if (stack.grouping !== 'lookAlikes') return null;
  const inScope = await scopeFilter({ tx, booksId }, scope);
  const lines = await rowsOf(
    tx,
    WordingRow,
    sql`select l.plain, l.date from lines l
        left join proposals p on p.books_id = l.books_id and p.line_id = l.id
        where l.books_id = ${booksId} and ${isInLane(lane)}
          and ${stackFilter(stack)} and ${inScope}
        order by l.date desc limit ${LOOKED_AT}`,
  );
  const common = new Set<string>();
  for (let look = 0; look < LOOKS; look += 1) {
    const found = stackParts(lines, common);
    if (found === null) return null;
    const words = found.parts.map(({ word }) => word).filter((word) => !/\p{N}/u.test(word));
    const more = await commonWords(tx, booksId, words);
    if (more.length === 0) return { before: found.before, parts: [...found.parts] };
    for (const word of more) common.add(word);
  }
  return null;
}

const WordRow = z.object({ word: z.string() });

/** Those of words that stand in the newest lines with many different beginnings: towns, say. */
async function commonWords(
  tx: Tx,
  booksId: BooksId,
  words: readonly string[],
): Promise<readonly string[]> {
  if (words.length === 0) return [];
  const rows = await rowsOf(
    tx,
    WordRow,
    sql`with newest as (
          select split_part(stem, ' ', 1) as head, ' ' || plain || ' ' as plain from lines
          where books_id = ${booksId} and is_here order by date desc limit ${LOOKED_AT})
        select wanted.word from unnest(${sql.param(words)}::text[]) as wanted (word)
        join newest on strpos(newest.plain, ' ' || wanted.word || ' ') > 0
        group by 1 having count(distinct newest.head) >= ${MANY_HEADS}`,
  );
  return rows.map(({ word }) => word);
}

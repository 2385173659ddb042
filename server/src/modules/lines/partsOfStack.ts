import type { Scope, StackKey, StackParts } from '@zubrell/contract/desk';
import { stackParts } from '@zubrell/core/text/stackParts';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { type BooksTx, rowsOf } from '../../db/database.ts';
import { booksCurrency } from '../books/queries.ts';
import { isOpenLine, laneOfLine } from './lineState.ts';
import { scopeFilter, stackFilter } from './scopeFilter.ts';

/** So many of the newest lines of a stack show what tells them apart. */
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
  const inScope = scopeFilter(scope, await booksCurrency(tx, booksId));
  const lines = await rowsOf(
    tx,
    WordingRow,
    sql`select l.plain, l.date from lines l
        left join proposals p on p.books_id = l.books_id and p.line_id = l.id
        where l.books_id = ${booksId} and ${isOpenLine} and ${laneOfLine} = ${lane}
          and ${stackFilter(stack)} and ${inScope}
        order by l.date desc limit ${LOOKED_AT}`,
  );
  const found = stackParts(lines);
  return found && { before: found.before, parts: [...found.parts] };
}

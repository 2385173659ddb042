import { foldCase } from '@zubrell/core/text/foldCase';
import { type SQL, sql } from 'drizzle-orm';

/**
 * The condition that a text has what was typed in it, whatever the case.
 *
 * @param text may be null, which has nothing in it
 */
export function hasText(text: SQL, typed: string): SQL {
  const pattern = `%${foldCase(typed).replace(/[\\%_]/g, '\\$&')}%`;
  // Most texts are plain ASCII, which the database compares far quicker.
  return sql`case when octet_length(${text}) = length(${text})
      then ${text} ilike ${pattern}
      else folded(${text}) like ${pattern} end`;
}

/** The condition that two texts are one but for case. */
export function isSameText(one: SQL, other: SQL): SQL {
  return sql`folded(${one}) = folded(${other})`;
}

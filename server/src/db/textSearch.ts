import { foldCase } from '@zubrell/core/text/foldCase';
import { type SQL, sql } from 'drizzle-orm';

/**
 * The condition that a text has what was typed in it, whatever the case.
 *
 * @param text may be null, which has nothing in it
 */
export function hasText(text: SQL, typed: string): SQL {
  return sql`folded(${text}) like ${patternOf(typed)}`;
}

/** The pattern of LIKE that folded texts with this anywhere in them have. */
export function patternOf(typed: string): string {
  return `%${foldCase(typed).replace(/[\\%_]/g, '\\$&')}%`;
}

/** The condition that two texts are one but for case. */
export function isSameText(one: SQL, other: SQL): SQL {
  return sql`folded(${one}) = folded(${other})`;
}

import { sql } from 'drizzle-orm';
import { copyColumns } from './copyRows.ts';

/** What a source says of a line, by the columns of lines, and of the table of incoming ones. */
const FACTS = copyColumns.filter(
  (column) => !['position', 'place', 'stem', 'plain'].includes(column),
);

/** The names of these columns. */
export const factColumns = sql.raw(FACTS.join(', '));

/** These columns of a table, by its alias. */
export const factsOf = (alias: 'f' | 'i' | 'l') =>
  sql.raw(FACTS.map((column) => `${alias}.${column}`).join(', '));

/** Whether incoming line `i` says something else than line `l`, which it was found to be. */
export const saysOther = sql`(${factsOf('i')}) is distinct from (${factsOf('l')})`;

/** What incoming line `i` says, to be kept with its sighting. */
export const ownFacts = sql`jsonb_build_object(
  ${sql.join(
    FACTS.map((column) => sql.raw(`'${column}', i.${column}`)),
    sql`, `,
  )}, 'own_stem', i.stem, 'plain', i.plain)`;

/** Line `o` as sighting `g` tells it, as `f`. */
export const joinAsSeen = sql`cross join lateral jsonb_populate_record(o, g.own) f`;

import { sql } from 'drizzle-orm';

/** What the table keeps for a rate that holds ever since. */
export const EVER = '1900-01-01';

/** The rates of tax code `t` as JSON, the oldest first. */
export const ratesOf = sql`(
  select coalesce(json_agg(json_build_object(
    'fromDate', nullif(r.from_date, ${EVER}::date), 'rate', r.rate) order by r.from_date), '[]')
  from tax_rates r where r.books_id = t.books_id and r.tax_code_id = t.id)`;

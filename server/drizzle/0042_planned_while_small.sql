-- The planner looks anew only at tables of which so many changed rows make another share of the books of app.books_id
-- than it expects, and never waits for whoever looks at one already: what it looked at stays locked against others who
-- want to until the transaction ends. For less than a thousand rows it looks at small tables only, which takes no time:
-- where it knows none but small books, it would look for each of several hundred lines among all of them.
CREATE OR REPLACE FUNCTION refresh_statistics(tables text[], changed bigint) RETURNS void LANGUAGE plpgsql SECURITY DEFINER
SET search_path = public, pg_temp AS $$
DECLARE
  one text;
BEGIN
  FOR one IN
    SELECT c.relname FROM pg_class c
    LEFT JOIN pg_stats s ON s.schemaname = 'public' AND s.tablename = c.relname AND s.attname = 'books_id'
    LEFT JOIN LATERAL (
      SELECT max(often.share) FILTER (WHERE often.books = current_setting('app.books_id', true)) AS own,
        sum(often.share) AS of_often, count(*) AS often
      FROM unnest(s.most_common_vals::text::text[], s.most_common_freqs) AS often (books, share)) m ON true
    WHERE c.relnamespace = 'public'::regnamespace AND c.relkind = 'r' AND c.relname = ANY (tables)
      AND (changed >= 1000 OR c.reltuples < 20000)
      AND 5 * changed > c.reltuples * coalesce(m.own, (1 - coalesce(m.of_often, 0)) / greatest(1,
        CASE WHEN s.n_distinct < 0 THEN -s.n_distinct * c.reltuples ELSE s.n_distinct END - m.often))
  LOOP
    EXECUTE format('ANALYZE (SKIP_LOCKED) %I', one);
  END LOOP;
END $$;

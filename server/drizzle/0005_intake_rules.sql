DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['day_balances', 'layouts', 'consents', 'feeds', 'announced_lines'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format(
      'CREATE POLICY own_books ON %I
         USING (books_id = nullif(current_setting(''app.books_id'', true), '''')::uuid)
         WITH CHECK (books_id = nullif(current_setting(''app.books_id'', true), '''')::uuid)',
      name);
  END LOOP;
END $$;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON layouts, consents, feeds, announced_lines TO zubrell_app;
--> statement-breakpoint
GRANT SELECT, INSERT ON day_balances TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (layout, opening) ON batches TO zubrell_app;
--> statement-breakpoint
-- Which feeds are due, over all books: the scheduler knows no books before it asks.
CREATE FUNCTION due_feeds(now timestamptz) RETURNS TABLE (books_id uuid, feed_id uuid)
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT books_id, id FROM feeds
  WHERE next_at <= now AND NOT is_fetching AND bank_account_id IS NOT NULL
  ORDER BY next_at
$$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION due_feeds(timestamptz) FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION due_feeds(timestamptz) TO zubrell_app;

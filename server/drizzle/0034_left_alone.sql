-- What waits for a job, over all books: the sweeper knows no books before it asks.
CREATE FUNCTION waiting_work() RETURNS TABLE (task text, books_id uuid, id uuid)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT 'keepBatch', books_id, id FROM batches WHERE status = 'reading'
  UNION ALL
  SELECT 'fetchFeed', books_id, id FROM feeds WHERE is_fetching
$$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION waiting_work() FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION waiting_work() TO zubrell_app;

-- What tells whether a server is well: how far the database is migrated, and how many feeds fail, over all books.
GRANT USAGE ON SCHEMA drizzle TO zubrell_app;--> statement-breakpoint
GRANT SELECT ON drizzle.__drizzle_migrations TO zubrell_app;--> statement-breakpoint
CREATE FUNCTION feeds_in_trouble() RETURNS integer
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT count(*)::integer FROM feeds
  WHERE bank_account_id IS NOT NULL AND last_result -> 'result' ->> 'kind' = 'trouble'
$$;

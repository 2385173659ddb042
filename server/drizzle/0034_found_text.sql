-- Found by any piece of a text.
CREATE EXTENSION IF NOT EXISTS pg_trgm;
--> statement-breakpoint
CREATE EXTENSION IF NOT EXISTS btree_gin;
--> statement-breakpoint
-- As before, for plain ASCII by a far shorter way; not STRICT, so that it is read into the queries that use it.
CREATE OR REPLACE FUNCTION folded(value text) RETURNS text LANGUAGE sql IMMUTABLE PARALLEL SAFE
RETURN CASE WHEN octet_length(value) = length(value)
  THEN lower(value COLLATE "C") COLLATE "und-x-icu"
  ELSE normalize(
    replace(
      replace(
        lower(upper(lower(normalize(value, NFKC) COLLATE "und-x-icu"))),
        U&'\03C2', U&'\03C3'),
      U&'i\0307', 'i'),
    NFC) END;
--> statement-breakpoint
-- All that a line says, folded, with what nobody can type in between: a search never runs over the end of one.
CREATE FUNCTION said(description text, reference text, payee text) RETURNS text
LANGUAGE sql IMMUTABLE PARALLEL SAFE
RETURN folded(description || E'\x1f' || coalesce(reference, '') || E'\x1f' || coalesce(payee, ''));
--> statement-breakpoint
DROP INDEX "decisions_payee";--> statement-breakpoint
ALTER TABLE "decisions" ADD COLUMN "payee_id" uuid GENERATED ALWAYS AS ((coding ->> 'payeeId')::uuid) STORED;--> statement-breakpoint
CREATE INDEX "lines_amount" ON "lines" USING btree ("books_id","amount");--> statement-breakpoint
CREATE INDEX "lines_said" ON "lines" USING gin ("books_id",said("description", "reference", "payee") gin_trgm_ops) WITH (gin_pending_list_limit=32768);--> statement-breakpoint
CREATE INDEX "decisions_payee" ON "decisions" USING btree ("books_id","payee_id");
--> statement-breakpoint
-- The lines of the books of app.books_id that say something like a pattern, so many at most. Row-level security lets
-- no condition go by an index that might tell what it hides, and LIKE might: so the owner asks, of these books alone.
CREATE FUNCTION lines_saying(pattern text, most int) RETURNS SETOF uuid
LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  RETURN QUERY EXECUTE
    'SELECT id FROM lines WHERE books_id = $1 AND said(description, reference, payee) LIKE $2 LIMIT $3'
    USING nullif(current_setting('app.books_id', true), '')::uuid, pattern, most;
END $$;
--> statement-breakpoint
REVOKE EXECUTE ON FUNCTION lines_saying(text, int) FROM public;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION lines_saying(text, int) TO zubrell_app;
--> statement-breakpoint
-- The planner looks anew only at tables that so many changed rows make another table of, and never waits for whoever
-- looks at one already: what it looked at stays locked against others who want to until the transaction ends.
DROP FUNCTION refresh_statistics();
--> statement-breakpoint
CREATE FUNCTION refresh_statistics(tables text[], changed bigint) RETURNS void LANGUAGE plpgsql SECURITY DEFINER
SET search_path = public, pg_temp AS $$
DECLARE
  one text;
BEGIN
  FOR one IN
    SELECT c.relname FROM pg_class c
    WHERE c.relnamespace = 'public'::regnamespace AND c.relkind = 'r' AND c.relname = ANY (tables)
      AND c.reltuples < 5 * changed
  LOOP
    EXECUTE format('ANALYZE (SKIP_LOCKED) %I', one);
  END LOOP;
END $$;
--> statement-breakpoint
REVOKE EXECUTE ON FUNCTION refresh_statistics(text[], bigint) FROM public;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION refresh_statistics(text[], bigint) TO zubrell_app;

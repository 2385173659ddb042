-- After a bulk change the planner knows nothing of the new rows, and takes plans made for nearly empty
-- tables. Only the owner may analyze, so the program does it through this function.
CREATE FUNCTION refresh_statistics() RETURNS void LANGUAGE plpgsql SECURITY DEFINER
SET search_path = public, pg_temp AS $$
BEGIN
  ANALYZE lines, sightings, proposals, decisions, decision_lines, entries, legs, decision_legs;
END $$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION refresh_statistics() FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION refresh_statistics() TO zubrell_app;

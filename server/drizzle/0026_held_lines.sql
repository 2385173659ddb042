ALTER TABLE "lines" ADD COLUMN "held" text;--> statement-breakpoint
GRANT UPDATE (held) ON lines TO zubrell_app;
--> statement-breakpoint
-- A reason for keeping lines out has to be true: a copy names its original, and what a bank booked in error comes
-- to zero with its correction.
ALTER TABLE decisions ADD CONSTRAINT decisions_copy_named
  CHECK (reason IS DISTINCT FROM 'secondCopy' OR copy_of IS NOT NULL) NOT VALID;
--> statement-breakpoint
CREATE FUNCTION check_kept_out() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  total numeric;
BEGIN
  IF NOT EXISTS (
    SELECT FROM decisions
    WHERE books_id = NEW.books_id AND id = NEW.decision_id AND reason = 'bankError'
  ) THEN
    RETURN NULL;
  END IF;
  SELECT coalesce(sum(l.amount), 0) INTO total
  FROM decision_lines x JOIN lines l ON l.books_id = x.books_id AND l.id = x.line_id
  WHERE x.books_id = NEW.books_id AND x.decision_id = NEW.decision_id AND x.is_live;
  IF total <> 0 THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'EXCLUDE_NOT_ZERO',
      DETAIL = json_build_object('total', total)::text;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER decision_lines_kept_out AFTER INSERT OR UPDATE ON decision_lines
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_kept_out();

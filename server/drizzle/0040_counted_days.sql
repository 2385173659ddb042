CREATE TABLE "counted_days" (
	"books_id" uuid NOT NULL,
	"statement_id" uuid NOT NULL,
	"bank_account_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"date" date NOT NULL,
	"count" integer NOT NULL,
	"amount" bigint NOT NULL,
	CONSTRAINT "counted_days_books_id_statement_id_kind_date_pk" PRIMARY KEY("books_id","statement_id","kind","date")
);
--> statement-breakpoint
CREATE INDEX "statement_parts_undecided" ON "statement_parts" USING btree ("books_id","thing_id") WHERE "statement_parts"."kind" = 'line' and "statement_parts"."decision_id" is null;--> statement-breakpoint
CREATE INDEX "decision_lines_undone" ON "decision_lines" USING btree ("books_id","line_id","decision_id") WHERE not "decision_lines"."is_live";--> statement-breakpoint
CREATE INDEX "lines_gone" ON "lines" USING btree ("books_id","id") WHERE not "lines"."is_here";--> statement-breakpoint
-- Where nothing had been said of a statement before it was agreed, undoing that left it agreed behind what is shown.
UPDATE statements SET agreed_step = NULL, agreed_opening = NULL, agreed_closing = NULL, agreed_by = NULL, agreed_at = NULL
  WHERE NOT is_here AND agreed_step IS NOT NULL;--> statement-breakpoint
ALTER TABLE "statements" ADD CONSTRAINT "statements_agreed_here" CHECK ("statements"."is_here" or "statements"."agreed_step" is null);--> statement-breakpoint
CREATE VIEW days_that_are_counted AS
  SELECT s.books_id, s.id AS statement_id, s.bank_account_id, p.kind, coalesce(l.date, s.to_date) AS date,
    count(*)::integer AS count, sum(p.amount)::bigint AS amount
  FROM statements s
  JOIN statement_parts p ON p.books_id = s.books_id AND p.statement_id = s.id AND p.step = s.agreed_step
  LEFT JOIN lines l ON p.kind = 'line' AND l.books_id = p.books_id AND l.id = p.thing_id
  GROUP BY 1, 2, 3, 4, 5;
--> statement-breakpoint
CREATE FUNCTION renew_counted_days(the_books uuid, ids uuid[]) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  DELETE FROM counted_days WHERE books_id = the_books AND statement_id = ANY (ids);
  INSERT INTO counted_days (books_id, statement_id, bank_account_id, kind, date, count, amount)
  SELECT books_id, statement_id, bank_account_id, kind, date, count, amount FROM days_that_are_counted
  WHERE books_id = the_books AND statement_id = ANY (ids);
$$;
--> statement-breakpoint
REVOKE EXECUTE ON FUNCTION renew_counted_days(uuid, uuid[]) FROM public;--> statement-breakpoint
-- Parts come when a statement is agreed, and go with it.
CREATE FUNCTION parts_changed() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM renew_counted_days(books_id, array_agg(DISTINCT statement_id)) FROM changed GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION statements_changed() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM renew_counted_days(a.books_id, array_agg(a.id))
  FROM after a JOIN before b ON b.books_id = a.books_id AND b.id = a.id
  WHERE (a.agreed_step, a.to_date) IS DISTINCT FROM (b.agreed_step, b.to_date) GROUP BY a.books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER counted_parts_come AFTER INSERT ON statement_parts
  REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION parts_changed();--> statement-breakpoint
CREATE TRIGGER counted_parts_go AFTER DELETE ON statement_parts
  REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION parts_changed();--> statement-breakpoint
CREATE TRIGGER counted_statements_change AFTER UPDATE ON statements
  REFERENCING OLD TABLE AS before NEW TABLE AS after FOR EACH STATEMENT EXECUTE FUNCTION statements_changed();--> statement-breakpoint
ALTER TABLE counted_days ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY own_books ON counted_days
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
GRANT SELECT ON counted_days TO zubrell_app;--> statement-breakpoint
INSERT INTO counted_days (books_id, statement_id, bank_account_id, kind, date, count, amount)
  SELECT books_id, statement_id, bank_account_id, kind, date, count, amount FROM days_that_are_counted;

CREATE TABLE "statement_days" (
	"books_id" uuid NOT NULL,
	"thing_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"day" date NOT NULL,
	CONSTRAINT "statement_days_books_id_thing_id_pk" PRIMARY KEY("books_id","thing_id")
);
--> statement-breakpoint
CREATE TABLE "statement_parts" (
	"books_id" uuid NOT NULL,
	"statement_id" uuid NOT NULL,
	"step" bigint NOT NULL,
	"kind" text NOT NULL,
	"thing_id" uuid NOT NULL,
	"amount" bigint NOT NULL,
	"decision_id" uuid,
	CONSTRAINT "statement_parts_books_id_statement_id_step_thing_id_pk" PRIMARY KEY("books_id","statement_id","step","thing_id")
);
--> statement-breakpoint
CREATE TABLE "statements" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"bank_account_id" uuid NOT NULL,
	"from_date" date NOT NULL,
	"to_date" date NOT NULL,
	"closing" bigint,
	"dismissed" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"agreed_step" bigint,
	"agreed_opening" bigint,
	"agreed_closing" bigint,
	"agreed_by" uuid,
	"agreed_at" timestamp with time zone,
	"last_agreed_step" bigint,
	"is_here" boolean DEFAULT true NOT NULL,
	CONSTRAINT "statements_books_id_id_pk" PRIMARY KEY("books_id","id"),
	CONSTRAINT "statements_period" CHECK ("statements"."from_date" <= "statements"."to_date")
);
--> statement-breakpoint
CREATE TABLE "late_turns" (
	"books_id" uuid NOT NULL,
	"entry_id" uuid NOT NULL,
	"date" date NOT NULL,
	"sign" smallint NOT NULL,
	"step" bigint NOT NULL,
	CONSTRAINT "late_turns_books_id_entry_id_date_step_pk" PRIMARY KEY("books_id","entry_id","date","step"),
	CONSTRAINT "late_turns_sign" CHECK ("late_turns"."sign" in (1, -1))
);
--> statement-breakpoint
ALTER TABLE "bank_accounts" ADD COLUMN "cycle" jsonb DEFAULT '{"kind":"month"}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "books" ADD COLUMN "leaves" jsonb DEFAULT '{"setAside":["bookkeeper"],"letRulesPost":["bookkeeper"],"close":["bookkeeper","reviewer"],"reopen":["reviewer"]}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "entries" ADD COLUMN "is_counted" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "entries" ADD COLUMN "bank_date" date;--> statement-breakpoint
ALTER TABLE "statement_parts" ADD CONSTRAINT "statement_parts_books_id_statement_id_statements_books_id_id_fk" FOREIGN KEY ("books_id","statement_id") REFERENCES "public"."statements"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "statements" ADD CONSTRAINT "statements_books_id_bank_account_id_bank_accounts_books_id_id_fk" FOREIGN KEY ("books_id","bank_account_id") REFERENCES "public"."bank_accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "late_turns" ADD CONSTRAINT "late_turns_books_id_entry_id_entries_books_id_id_fk" FOREIGN KEY ("books_id","entry_id") REFERENCES "public"."entries"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "statement_parts_thing" ON "statement_parts" USING btree ("books_id","thing_id");--> statement-breakpoint
CREATE INDEX "statements_account" ON "statements" USING btree ("books_id","bank_account_id","to_date");--> statement-breakpoint
UPDATE entries SET is_counted = NOT is_void;--> statement-breakpoint
-- What counts in balances, by the day on which it does: entries on their own, and what became of them when that was closed.
CREATE VIEW movements WITH (security_invoker = true) AS
  SELECT g.books_id, g.id AS leg_id, g.entry_id, g.account_id, g.position, g.amount, e.date,
    e.bank_date, e.step, 0::smallint AS turned
  FROM legs g JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id
  WHERE e.is_counted
  UNION ALL
  SELECT g.books_id, g.id, g.entry_id, g.account_id, g.position, t.sign * g.amount, t.date,
    coalesce(e.bank_date, e.date), t.step, t.sign
  FROM legs g
  JOIN late_turns t ON t.books_id = g.books_id AND t.entry_id = g.entry_id
  JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id;--> statement-breakpoint
GRANT SELECT ON movements TO zubrell_app;--> statement-breakpoint
-- Up to which day an entry's date is closed: by the books' lock date, and by the statements of its bank accounts.
CREATE FUNCTION closed_for_entry(the_books uuid, the_entry uuid) RETURNS date
LANGUAGE sql STABLE SET search_path = public, pg_temp AS $$
  SELECT greatest((SELECT lock_date FROM books WHERE id = the_books), (
    SELECT max(b.closed_to)
    FROM legs l JOIN bank_accounts b ON b.books_id = l.books_id AND b.account_id = l.account_id
    WHERE l.books_id = the_books AND l.entry_id = the_entry))
$$;--> statement-breakpoint
CREATE OR REPLACE FUNCTION check_entry_period() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'INSERT' THEN
    PERFORM raise_if_closed(NEW.date, (SELECT lock_date FROM books WHERE id = NEW.books_id));
  ELSIF NEW.date <> OLD.date OR NEW.is_counted <> OLD.is_counted THEN
    PERFORM raise_if_closed(least(NEW.date, OLD.date), closed_for_entry(NEW.books_id, NEW.id));
  END IF;
  RETURN NEW;
END $$;--> statement-breakpoint
-- An entry that is taken back, or comes again: in an open period it is as if it had never been, or as it was; in a closed
-- one what it says stays, and the contrary counts on the first open day.
CREATE FUNCTION turn_entry() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER
SET search_path = public, pg_temp AS $$
DECLARE
  closed date := closed_for_entry(NEW.books_id, NEW.id);
  last record;
BEGIN
  IF closed IS NULL OR NEW.date > closed THEN
    DELETE FROM late_turns WHERE books_id = NEW.books_id AND entry_id = NEW.id;
    NEW.is_counted := NOT NEW.is_void;
    RETURN NEW;
  END IF;
  SELECT date, step INTO last FROM late_turns
  WHERE books_id = NEW.books_id AND entry_id = NEW.id ORDER BY date DESC, step DESC LIMIT 1;
  IF last.date > closed THEN
    DELETE FROM late_turns
    WHERE books_id = NEW.books_id AND entry_id = NEW.id AND date = last.date AND step = last.step;
  ELSE
    INSERT INTO late_turns (books_id, entry_id, date, sign, step)
    SELECT NEW.books_id, NEW.id, closed + 1, CASE WHEN NEW.is_void THEN -1 ELSE 1 END, last_step + 1
    FROM books WHERE id = NEW.books_id;
  END IF;
  RETURN NEW;
END $$;--> statement-breakpoint
CREATE TRIGGER entries_turn BEFORE UPDATE OF is_void ON entries
  FOR EACH ROW WHEN (OLD.is_void <> NEW.is_void) EXECUTE FUNCTION turn_entry();--> statement-breakpoint
-- What is in force is what its turns come to.
CREATE FUNCTION check_turns() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  stands integer;
BEGIN
  SELECT e.is_counted::integer + coalesce((
      SELECT sum(t.sign) FROM late_turns t WHERE t.books_id = e.books_id AND t.entry_id = e.id), 0)
      - (NOT e.is_void)::integer
    INTO stands
  FROM entries e WHERE e.books_id = NEW.books_id AND e.id = NEW.id;
  IF stands <> 0 THEN
    RAISE EXCEPTION 'entry % counts otherwise than it stands', NEW.id;
  END IF;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE CONSTRAINT TRIGGER entries_turned AFTER INSERT OR UPDATE ON entries
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_turns();--> statement-breakpoint
-- Whether a statement that is agreed counts a line: then it stays, and is not kept out.
CREATE FUNCTION raise_if_counted(the_books uuid, the_line uuid) RETURNS void LANGUAGE plpgsql AS $$
DECLARE
  counted date;
BEGIN
  SELECT s.to_date INTO counted FROM statement_parts p
  JOIN statements s ON s.books_id = p.books_id AND s.id = p.statement_id AND s.agreed_step = p.step
  WHERE p.books_id = the_books AND p.thing_id = the_line LIMIT 1;
  IF FOUND THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'STATEMENT_COUNTS_LINE',
      DETAIL = json_build_object('to', counted)::text;
  END IF;
END $$;--> statement-breakpoint
CREATE OR REPLACE FUNCTION check_decision_period() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.is_live AND EXISTS (
    SELECT FROM decisions WHERE books_id = NEW.books_id AND id = NEW.decision_id
      AND kind IN ('excluded', 'deleted')
  ) THEN
    PERFORM raise_if_counted(NEW.books_id, NEW.line_id);
  END IF;
  RETURN NEW;
END $$;--> statement-breakpoint
CREATE FUNCTION check_line_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM raise_if_counted(NEW.books_id, NEW.id);
  RETURN NEW;
END $$;--> statement-breakpoint
CREATE TRIGGER lines_stay BEFORE UPDATE OF is_here ON lines
  FOR EACH ROW WHEN (OLD.is_here AND NOT NEW.is_here) EXECUTE FUNCTION check_line_stays();--> statement-breakpoint
DO $$
DECLARE
  own constant text := 'nullif(current_setting(''app.books_id'', true), '''')::uuid';
  one text;
BEGIN
  FOREACH one IN ARRAY ARRAY['late_turns', 'statement_days', 'statement_parts', 'statements'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', one);
    EXECUTE format(
      'CREATE POLICY own_books ON %1$I USING (books_id = %2$s) WITH CHECK (books_id = %2$s)', one, own);
  END LOOP;
END $$;--> statement-breakpoint
GRANT SELECT ON late_turns TO zubrell_app;--> statement-breakpoint
GRANT SELECT, INSERT ON statement_parts TO zubrell_app;--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON statements, statement_days TO zubrell_app;

-- Row-level security: within a transaction only the books named by app.books_id are there.
DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY[
    'accounts', 'tax_codes', 'tax_rates', 'payees', 'bank_accounts', 'uploads', 'upload_pieces',
    'batches', 'lines', 'sightings', 'drafts', 'proposals', 'entries', 'legs', 'decisions',
    'decision_lines', 'decision_legs', 'steps', 'step_items', 'idempotency_keys'
  ] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format(
      'CREATE POLICY own_books ON %I
         USING (books_id = nullif(current_setting(''app.books_id'', true), '''')::uuid)
         WITH CHECK (books_id = nullif(current_setting(''app.books_id'', true), '''')::uuid)',
      name);
  END LOOP;
END $$;
--> statement-breakpoint
ALTER TABLE books ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
-- Books can also be listed by their members.
CREATE POLICY own_books ON books
  USING (
    id = nullif(current_setting('app.books_id', true), '')::uuid
    OR EXISTS (
      SELECT FROM memberships m
      WHERE m.books_id = books.id
        AND m.user_id = nullif(current_setting('app.user_id', true), '')::uuid
    )
  )
  WITH CHECK (id = nullif(current_setting('app.books_id', true), '')::uuid);
--> statement-breakpoint

-- The ledger: every entry has two legs or more and they add up to zero when the transaction ends.
CREATE FUNCTION check_entry_balance() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  the_entry uuid;
  total numeric;
  leg_count integer;
BEGIN
  IF TG_TABLE_NAME = 'entries' THEN
    the_entry := NEW.id;
  ELSE
    the_entry := NEW.entry_id;
  END IF;
  SELECT coalesce(sum(amount), 0), count(*) INTO total, leg_count
  FROM legs WHERE books_id = NEW.books_id AND entry_id = the_entry;
  IF total <> 0 OR leg_count < 2 THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'ENTRY_UNBALANCED',
      DETAIL = json_build_object('entry', the_entry, 'total', total, 'legs', leg_count)::text;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER entries_balanced AFTER INSERT ON entries
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_entry_balance();
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER legs_balanced AFTER INSERT OR UPDATE ON legs
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_entry_balance();
--> statement-breakpoint

-- Nothing changes in a closed period: the books' lock date, and a bank account's closed statements.
CREATE FUNCTION raise_if_closed(the_date date, closed date) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
  IF closed IS NOT NULL AND the_date <= closed THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'PERIOD_CLOSED',
      DETAIL = json_build_object('date', the_date, 'closed', closed)::text;
  END IF;
END $$;
--> statement-breakpoint
CREATE FUNCTION check_entry_period() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM raise_if_closed(NEW.date, (SELECT lock_date FROM books WHERE id = NEW.books_id));
  IF TG_OP = 'UPDATE' THEN
    PERFORM raise_if_closed(NEW.date, max(b.closed_to))
    FROM legs l JOIN bank_accounts b ON b.books_id = l.books_id AND b.account_id = l.account_id
    WHERE l.books_id = NEW.books_id AND l.entry_id = NEW.id;
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER entries_period BEFORE INSERT OR UPDATE ON entries
  FOR EACH ROW EXECUTE FUNCTION check_entry_period();
--> statement-breakpoint
CREATE FUNCTION check_leg_period() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM raise_if_closed(e.date, b.closed_to)
  FROM entries e JOIN bank_accounts b ON b.books_id = e.books_id AND b.account_id = NEW.account_id
  WHERE e.books_id = NEW.books_id AND e.id = NEW.entry_id;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER legs_period BEFORE INSERT OR UPDATE ON legs
  FOR EACH ROW EXECUTE FUNCTION check_leg_period();
--> statement-breakpoint
CREATE FUNCTION check_decision_period() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  the_line record;
BEGIN
  SELECT date, bank_account_id INTO the_line
  FROM lines WHERE books_id = NEW.books_id AND id = NEW.line_id;
  PERFORM raise_if_closed(the_line.date, greatest(
    (SELECT closed_to FROM bank_accounts
     WHERE books_id = NEW.books_id AND id = the_line.bank_account_id),
    (SELECT lock_date FROM books WHERE id = NEW.books_id)));
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER decision_lines_period BEFORE INSERT OR UPDATE ON decision_lines
  FOR EACH ROW EXECUTE FUNCTION check_decision_period();
--> statement-breakpoint

-- What the running program may do. Facts, entries and steps are added, never changed or removed;
-- of them only the columns of state can be written.
GRANT USAGE ON SCHEMA public TO zubrell_app;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON
  users, sessions, memberships, books, accounts, tax_codes, tax_rates, payees, bank_accounts,
  uploads, upload_pieces, drafts, proposals, idempotency_keys
  TO zubrell_app;
--> statement-breakpoint
GRANT SELECT, INSERT ON
  batches, lines, sightings, entries, legs, decisions, decision_lines, decision_legs, steps,
  step_items
  TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (status, format, refusal, problems, from_date, to_date, closing, closing_date,
  line_count, new_count) ON batches TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (stem, is_here, last_step) ON lines TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (is_void) ON entries TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (is_live) ON decision_lines, decision_legs TO zubrell_app;

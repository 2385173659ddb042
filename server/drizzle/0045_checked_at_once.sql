-- Checks that wait for the end of a transaction look at all that a statement touched at once, not at one row after another.
CREATE TABLE "checks_due" (
	"books_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"kind" text NOT NULL,
	"ids" uuid[] NOT NULL,
	CONSTRAINT "checks_due_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
ALTER TABLE checks_due ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY own_books ON checks_due
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
-- Every entry has two legs or more, and they add up to zero.
CREATE FUNCTION check_balances(the_books uuid, entry_ids uuid[]) RETURNS void
LANGUAGE plpgsql SET search_path = public, pg_temp AS $$
DECLARE
  wrong record;
BEGIN
  -- Looked up entry by entry whatever the plan, so that it may be kept.
  SELECT w.id, own.total, own.legs INTO wrong FROM unnest(entry_ids) w(id)
  CROSS JOIN LATERAL (
    SELECT coalesce(sum(g.amount), 0) AS total, count(*) AS legs FROM legs g
    WHERE g.books_id = the_books AND g.entry_id = w.id) own
  WHERE own.total <> 0 OR own.legs < 2
  LIMIT 1;
  IF wrong.id IS NOT NULL THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'ENTRY_UNBALANCED',
      DETAIL = json_build_object('entry', wrong.id, 'total', wrong.total, 'legs', wrong.legs)::text;
  END IF;
END $$;
--> statement-breakpoint
-- An entry counts as it stands; a void one is tied to nothing, pays nothing and has no cost on an invoice, and one that
-- comes back has none that another invoice has by now.
CREATE FUNCTION check_turned(the_books uuid, entry_ids uuid[]) RETURNS void
LANGUAGE plpgsql SET search_path = public, pg_temp AS $$
DECLARE
  wrong record;
BEGIN
  EXECUTE '
    SELECT e.id FROM unnest($2) w(id)
    JOIN entries e ON e.books_id = $1 AND e.id = w.id
    LEFT JOIN (
      SELECT entry_id, sum(sign) AS sign FROM late_turns
      WHERE books_id = $1 AND entry_id = ANY ($2) GROUP BY 1) t ON t.entry_id = e.id
    WHERE e.is_counted::integer + coalesce(t.sign, 0) <> (NOT e.is_void)::integer
    LIMIT 1'
  INTO wrong USING the_books, entry_ids;
  IF wrong.id IS NOT NULL THEN
    RAISE EXCEPTION 'entry % counts otherwise than it stands', wrong.id;
  END IF;
  EXECUTE '
    SELECT e.id FROM unnest($2) w(id)
    JOIN entries e ON e.books_id = $1 AND e.id = w.id
    WHERE e.is_void AND (
      EXISTS (
        SELECT FROM legs g JOIN decision_legs x ON x.books_id = g.books_id AND x.leg_id = g.id
        WHERE g.books_id = $1 AND g.entry_id = e.id AND x.is_live)
      OR EXISTS (
        SELECT FROM documents d
        JOIN allocations a ON a.books_id = d.books_id AND a.document_id = d.id AND a.is_live
        WHERE d.books_id = $1 AND d.entry_id = e.id))
    LIMIT 1'
  INTO wrong USING the_books, entry_ids;
  IF wrong.id IS NOT NULL THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'ENTRY_PAIRED',
      DETAIL = json_build_object('entry', wrong.id)::text;
  END IF;
  EXECUTE '
    SELECT e.id, i.number FROM unnest($2) w(id)
    JOIN entries e ON e.books_id = $1 AND e.id = w.id AND e.is_void
    JOIN legs g ON g.books_id = e.books_id AND g.entry_id = e.id AND g.is_recharged
    JOIN invoiced_costs i ON i.books_id = g.books_id AND i.leg_id = g.id
    LIMIT 1'
  INTO wrong USING the_books, entry_ids;
  IF wrong.id IS NOT NULL THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'RECHARGE_INVOICED',
      DETAIL = json_build_object('number', wrong.number)::text;
  END IF;
  EXECUTE '
    SELECT e.id FROM unnest($2) w(id)
    JOIN entries e ON e.books_id = $1 AND e.id = w.id AND NOT e.is_void
    JOIN documents d ON d.books_id = e.books_id AND d.entry_id = e.id
    JOIN invoiced_costs i ON i.books_id = d.books_id AND i.document_id = d.id
    JOIN legs g ON g.books_id = i.books_id AND g.id = i.leg_id
    JOIN entries cost ON cost.books_id = g.books_id AND cost.id = g.entry_id
    WHERE cost.is_void OR EXISTS (
      SELECT FROM invoiced_costs o
      WHERE o.books_id = i.books_id AND o.leg_id = i.leg_id AND o.document_id <> d.id)
    LIMIT 1'
  INTO wrong USING the_books, entry_ids;
  IF wrong.id IS NOT NULL THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'RECHARGE_TAKEN', DETAIL = '{}';
  END IF;
END $$;
--> statement-breakpoint
-- What a decision pairs comes to the same at the bank and in the books, and none of it is void.
CREATE FUNCTION check_pairs(the_books uuid, decision_ids uuid[]) RETURNS void
LANGUAGE plpgsql SET search_path = public, pg_temp AS $$
DECLARE
  wrong record;
BEGIN
  EXECUTE '
    SELECT w.id, bank.sum AS bank, books.sum AS books FROM unnest($2) w(id)
    JOIN decisions d ON d.books_id = $1 AND d.id = w.id AND d.kind = ''paired''
    CROSS JOIN LATERAL (
      SELECT coalesce(sum(l.amount), 0) AS sum
      FROM decision_lines x JOIN lines l ON l.books_id = x.books_id AND l.id = x.line_id
      WHERE x.books_id = $1 AND x.decision_id = d.id AND x.is_live) bank
    CROSS JOIN LATERAL (
      SELECT coalesce(sum(g.own) FILTER (WHERE g.role = ''bank''), 0) AS sum, bool_or(e.is_void) AS has_void
      FROM decision_legs x
      JOIN legs g ON g.books_id = x.books_id AND g.id = x.leg_id
      JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id
      WHERE x.books_id = $1 AND x.decision_id = d.id AND x.is_live) books
    WHERE bank.sum <> books.sum OR books.has_void
    LIMIT 1'
  INTO wrong USING the_books, decision_ids;
  IF wrong.id IS NOT NULL THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'PAIR_UNBALANCED',
      DETAIL = json_build_object('decision', wrong.id, 'bank', wrong.bank, 'books', wrong.books)::text;
  END IF;
END $$;
--> statement-breakpoint
CREATE FUNCTION check_what_is_due() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  DELETE FROM checks_due WHERE books_id = NEW.books_id AND id = NEW.id;
  CASE NEW.kind
    WHEN 'balance' THEN PERFORM check_balances(NEW.books_id, NEW.ids);
    WHEN 'turn' THEN PERFORM check_turned(NEW.books_id, NEW.ids);
    WHEN 'pair' THEN PERFORM check_pairs(NEW.books_id, NEW.ids);
  END CASE;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER checks_due_come AFTER INSERT ON checks_due
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_what_is_due();
--> statement-breakpoint
CREATE FUNCTION entries_are_due() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  INSERT INTO checks_due (books_id, kind, ids)
    SELECT books_id, 'balance', array_agg(id) FROM changed WHERE TG_OP = 'INSERT' GROUP BY books_id
    UNION ALL
    SELECT books_id, 'turn', array_agg(id) FROM changed
    WHERE TG_OP = 'UPDATE' OR is_void OR NOT is_counted GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION legs_are_due() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  INSERT INTO checks_due (books_id, kind, ids)
    SELECT books_id, 'balance', array_agg(DISTINCT entry_id) FROM changed GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION changed_legs_are_due() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  EXECUTE '
    INSERT INTO checks_due (books_id, kind, ids)
      SELECT a.books_id, ''balance'', array_agg(DISTINCT a.entry_id)
      FROM changed a JOIN before b ON b.books_id = a.books_id AND b.id = a.id
      WHERE (a.entry_id, a.amount) <> (b.entry_id, b.amount) GROUP BY a.books_id';
  RETURN NULL;
END $$;
--> statement-breakpoint
-- Only what is paired has to come out even.
CREATE FUNCTION ties_are_due() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  EXECUTE '
    INSERT INTO checks_due (books_id, kind, ids)
      SELECT d.books_id, ''pair'', array_agg(DISTINCT d.id) FROM changed x
      JOIN decisions d ON d.books_id = x.books_id AND d.id = x.decision_id
      WHERE d.kind = ''paired'' GROUP BY d.books_id';
  RETURN NULL;
END $$;
--> statement-breakpoint
DROP TRIGGER entries_balanced ON entries;--> statement-breakpoint
DROP TRIGGER entries_void ON entries;--> statement-breakpoint
DROP TRIGGER entries_recharged ON entries;--> statement-breakpoint
DROP TRIGGER entries_turned ON entries;--> statement-breakpoint
DROP TRIGGER entries_come_turned ON entries;--> statement-breakpoint
DROP TRIGGER legs_balanced ON legs;--> statement-breakpoint
DROP TRIGGER decision_legs_paired ON decision_legs;--> statement-breakpoint
DROP TRIGGER decision_lines_paired ON decision_lines;--> statement-breakpoint
DROP FUNCTION check_entry_balance(), check_void(), check_recharges(), check_turns(), check_pairing();--> statement-breakpoint
CREATE TRIGGER entries_due_come AFTER INSERT ON entries
  REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION entries_are_due();--> statement-breakpoint
CREATE TRIGGER entries_due_change AFTER UPDATE ON entries
  REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION entries_are_due();--> statement-breakpoint
CREATE TRIGGER legs_due_come AFTER INSERT ON legs
  REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION legs_are_due();--> statement-breakpoint
CREATE TRIGGER legs_due_change AFTER UPDATE ON legs
  REFERENCING OLD TABLE AS before NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION changed_legs_are_due();--> statement-breakpoint
CREATE TRIGGER decision_legs_due_come AFTER INSERT ON decision_legs
  REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION ties_are_due();--> statement-breakpoint
CREATE TRIGGER decision_legs_due_change AFTER UPDATE ON decision_legs
  REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION ties_are_due();--> statement-breakpoint
CREATE TRIGGER decision_lines_due_come AFTER INSERT ON decision_lines
  REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION ties_are_due();--> statement-breakpoint
CREATE TRIGGER decision_lines_due_change AFTER UPDATE ON decision_lines
  REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION ties_are_due();--> statement-breakpoint
REVOKE EXECUTE ON FUNCTION check_balances(uuid, uuid[]), check_turned(uuid, uuid[]), check_pairs(uuid, uuid[]) FROM public;
--> statement-breakpoint
-- Most entries are later than anything that is closed, which few rows tell; whose accounts they are on is looked up for the rest.
CREATE OR REPLACE FUNCTION turn_entry() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  closed date := (SELECT lock_date FROM books WHERE id = NEW.books_id);
  last record;
BEGIN
  IF NEW.date <= (SELECT max(closed_to) FROM bank_accounts WHERE books_id = NEW.books_id) THEN
    closed := closed_for_entry(NEW.books_id, NEW.id);
  END IF;
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
END $$;

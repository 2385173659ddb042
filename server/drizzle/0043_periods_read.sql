-- A period is read without what it belongs to being looked up row by row: legs have their entry's day and payee, decided
-- lines what is asked of a month's, and what moved by day is told apart by how the tax return counts it. Sums of closed
-- months say nothing then that the days don't.
DROP TRIGGER books_closed_totals ON books;--> statement-breakpoint
DROP FUNCTION keep_closed_totals();--> statement-breakpoint
DROP FUNCTION sum_closed_months(uuid);--> statement-breakpoint
DROP TABLE "closed_totals";--> statement-breakpoint
ALTER TABLE "books" DROP COLUMN "summed_to";--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "date" date;--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "payee_id" uuid;--> statement-breakpoint
ALTER TABLE "decision_lines" ADD COLUMN "date" date;--> statement-breakpoint
ALTER TABLE "decision_lines" ADD COLUMN "amount" bigint;--> statement-breakpoint
ALTER TABLE "decision_lines" ADD COLUMN "account_id" uuid;--> statement-breakpoint
ALTER TABLE "decision_lines" ADD COLUMN "is_unseen" boolean;--> statement-breakpoint
-- What legs are to say of their entries and accounts, and decided lines of their lines and decisions.
CREATE VIEW legs_as_placed AS
  SELECT g.books_id, g.id, e.date, e.payee_id, coalesce(a.merged_into, g.account_id) AS shown_account_id
  FROM legs g
  JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id
  JOIN accounts a ON a.books_id = g.books_id AND a.id = g.account_id;
--> statement-breakpoint
CREATE OR REPLACE VIEW decisions_as_recorded AS
  SELECT books_id, id, kind, coalesce(reason, '') AS reason, coalesce(proposed_by, 'hand') AS source, is_looked::integer AS looked,
    (is_looked AND (is_account_kept OR kind = 'paired' AND is_kept))::integer AS kept,
    (coalesce(way, '') IN ('sweep', 'rule'))::integer AS unseen,
    CASE WHEN kind = 'posted' THEN (coding -> 'parts' -> 0 ->> 'accountId')::uuid END AS account_id
  FROM (SELECT *, coalesce(way, '') IN ('line', 'stack') AS is_looked FROM decisions) d;
--> statement-breakpoint
CREATE VIEW decision_lines_as_told AS
  SELECT t.books_id, t.decision_id, t.line_id, l.date, l.amount, d.account_id, d.unseen = 1 AS is_unseen
  FROM decision_lines t
  JOIN decisions_as_recorded d ON d.books_id = t.books_id AND d.id = t.decision_id
  JOIN lines l ON l.books_id = t.books_id AND l.id = t.line_id;
--> statement-breakpoint
ALTER TABLE legs DISABLE TRIGGER USER;--> statement-breakpoint
UPDATE legs g SET date = p.date, payee_id = p.payee_id FROM legs_as_placed p
  WHERE p.books_id = g.books_id AND p.id = g.id;--> statement-breakpoint
ALTER TABLE legs ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE decision_lines DISABLE TRIGGER USER;--> statement-breakpoint
UPDATE decision_lines t SET date = p.date, amount = p.amount, account_id = p.account_id, is_unseen = p.is_unseen
  FROM decision_lines_as_told p
  WHERE p.books_id = t.books_id AND p.decision_id = t.decision_id AND p.line_id = t.line_id;--> statement-breakpoint
ALTER TABLE decision_lines ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "legs" ALTER COLUMN "date" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "decision_lines" ALTER COLUMN "date" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "decision_lines" ALTER COLUMN "amount" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "decision_lines" ALTER COLUMN "is_unseen" SET NOT NULL;--> statement-breakpoint
CREATE INDEX "decision_lines_date" ON "decision_lines" USING btree ("books_id","date") WHERE "decision_lines"."is_live";--> statement-breakpoint
CREATE INDEX "entries_uncounted" ON "entries" USING btree ("books_id","date") WHERE not "entries"."is_counted";--> statement-breakpoint
CREATE INDEX "legs_coded" ON "legs" USING btree ("books_id","date") WHERE "legs"."role" = 'base';--> statement-breakpoint
-- Who writes many legs or decided lines says what they repeat; all of them are compared then in one look at their entries,
-- lines and decisions, which also sees whether the period is closed. For others a trigger fills it in, row by row.
DROP TRIGGER legs_shown ON legs;--> statement-breakpoint
DROP TRIGGER legs_period ON legs;--> statement-breakpoint
DROP FUNCTION show_leg();--> statement-breakpoint
DROP FUNCTION check_leg_period();--> statement-breakpoint
CREATE FUNCTION place_leg() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  into_account uuid;
  closed date;
BEGIN
  SELECT e.date, e.payee_id, a.merged_into, (
    SELECT max(b.closed_to) FROM bank_accounts b WHERE b.books_id = e.books_id AND b.account_id = NEW.account_id)
  INTO NEW.date, NEW.payee_id, into_account, closed
  FROM entries e
  LEFT JOIN accounts a ON a.books_id = e.books_id AND a.id = NEW.account_id
  WHERE e.books_id = NEW.books_id AND e.id = NEW.entry_id;
  NEW.shown_account_id := coalesce(into_account, NEW.account_id);
  PERFORM raise_if_closed(NEW.date, closed);
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER legs_place BEFORE INSERT ON legs
  FOR EACH ROW WHEN (NEW.date IS NULL) EXECUTE FUNCTION place_leg();
--> statement-breakpoint
CREATE TRIGGER legs_place_anew BEFORE UPDATE OF entry_id, amount, account_id ON legs
  FOR EACH ROW EXECUTE FUNCTION place_leg();
--> statement-breakpoint
CREATE FUNCTION tell_decision_line() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  SELECT l.date, l.amount, d.account_id, d.unseen = 1 INTO NEW.date, NEW.amount, NEW.account_id, NEW.is_unseen
  FROM lines l, decisions_as_recorded d
  WHERE l.books_id = NEW.books_id AND l.id = NEW.line_id AND d.books_id = NEW.books_id AND d.id = NEW.decision_id;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER decision_lines_tell BEFORE INSERT ON decision_lines
  FOR EACH ROW WHEN (NEW.date IS NULL) EXECUTE FUNCTION tell_decision_line();
--> statement-breakpoint
-- What was posted has an account: it is neither kept out nor paired.
DROP TRIGGER decision_lines_period ON decision_lines;--> statement-breakpoint
CREATE TRIGGER decision_lines_period BEFORE UPDATE ON decision_lines
  FOR EACH ROW WHEN (NEW.is_live AND NEW.account_id IS NULL) EXECUTE FUNCTION check_decision_period();
--> statement-breakpoint
DROP TRIGGER decision_lines_kept_out ON decision_lines;--> statement-breakpoint
CREATE CONSTRAINT TRIGGER decision_lines_kept_out AFTER INSERT OR UPDATE ON decision_lines
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW WHEN (NEW.account_id IS NULL) EXECUTE FUNCTION check_kept_out();
--> statement-breakpoint
DROP TRIGGER decision_lines_paired ON decision_lines;--> statement-breakpoint
CREATE CONSTRAINT TRIGGER decision_lines_paired AFTER INSERT OR UPDATE ON decision_lines
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW WHEN (NEW.account_id IS NULL) EXECUTE FUNCTION check_pairing();
--> statement-breakpoint
CREATE OR REPLACE FUNCTION decisions_came() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  wrong record;
BEGIN
  EXECUTE '
    WITH told AS MATERIALIZED (
      SELECT t.*, l.bank_account_id, l.is_here, d.kind, d.reason, d.source, d.looked, d.kept, d.unseen,
        (t.date, t.amount, t.account_id, t.is_unseen)
          IS DISTINCT FROM (l.date, l.amount, d.account_id, d.unseen = 1) AS is_untrue
      FROM added t
      JOIN lines l ON l.books_id = t.books_id AND l.id = t.line_id
      JOIN decisions_as_recorded d ON d.books_id = t.books_id AND d.id = t.decision_id),
    days AS (
      INSERT INTO decided_days AS c (books_id, bank_account_id, date, is_out, kind, reason, source, count, amount, looked,
        kept, unseen)
      SELECT books_id, bank_account_id, date, amount < 0, kind, reason, source, count(*), sum(amount), sum(looked),
        sum(kept), sum(unseen)
      FROM told WHERE is_live AND is_here GROUP BY 1, 2, 3, 4, 5, 6, 7
      ON CONFLICT (books_id, bank_account_id, date, is_out, kind, reason, source)
        DO UPDATE SET count = c.count + excluded.count, amount = c.amount + excluded.amount,
          looked = c.looked + excluded.looked, kept = c.kept + excluded.kept, unseen = c.unseen + excluded.unseen)
    SELECT books_id, line_id, is_untrue FROM told
    WHERE is_untrue OR is_live AND kind IN (''excluded'', ''deleted'') AND EXISTS (
      SELECT FROM statement_parts p
      JOIN statements s ON s.books_id = p.books_id AND s.id = p.statement_id AND s.agreed_step = p.step
      WHERE p.books_id = told.books_id AND p.thing_id = told.line_id)
    LIMIT 1'
  INTO wrong;
  IF wrong.is_untrue THEN
    RAISE EXCEPTION 'A decided line has another day, amount or account than its line and decision.';
  ELSIF wrong.line_id IS NOT NULL THEN
    PERFORM raise_if_counted(wrong.books_id, wrong.line_id);
  END IF;
  PERFORM renew_open_lines(books_id, array_agg(line_id)), renew_legless(books_id, array_agg(DISTINCT decision_id))
  FROM added WHERE is_live GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
DROP TRIGGER entries_period ON entries;--> statement-breakpoint
CREATE OR REPLACE FUNCTION check_entry_period() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM raise_if_closed(least(NEW.date, OLD.date), closed_for_entry(NEW.books_id, NEW.id));
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER entries_period BEFORE UPDATE ON entries
  FOR EACH ROW WHEN ((OLD.date, OLD.is_counted) <> (NEW.date, NEW.is_counted)) EXECUTE FUNCTION check_entry_period();
--> statement-breakpoint
-- What comes and counts stands as it counts: only turns can change that.
DROP TRIGGER entries_turned ON entries;--> statement-breakpoint
CREATE CONSTRAINT TRIGGER entries_turned AFTER UPDATE ON entries
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_turns();
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER entries_come_turned AFTER INSERT ON entries
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW WHEN (NEW.is_void OR NOT NEW.is_counted) EXECUTE FUNCTION check_turns();
--> statement-breakpoint
CREATE FUNCTION entries_came() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM raise_if_closed(min(e.date), k.lock_date) FROM added e JOIN books k ON k.id = e.books_id GROUP BY k.id, k.lock_date;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER entries_come AFTER INSERT ON entries
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION entries_came();
--> statement-breakpoint
-- No program gives an entry another day or payee, or a line another day or amount; where somebody does, what repeats
-- them follows.
CREATE FUNCTION place_legs_anew() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  UPDATE legs SET date = NEW.date, payee_id = NEW.payee_id WHERE books_id = NEW.books_id AND entry_id = NEW.id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER entries_placed AFTER UPDATE OF date, payee_id ON entries
  FOR EACH ROW WHEN ((OLD.date, OLD.payee_id) IS DISTINCT FROM (NEW.date, NEW.payee_id)) EXECUTE FUNCTION place_legs_anew();
--> statement-breakpoint
CREATE FUNCTION tell_decisions_anew() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  UPDATE decision_lines SET date = NEW.date, amount = NEW.amount WHERE books_id = NEW.books_id AND line_id = NEW.id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER lines_told AFTER UPDATE OF date, amount ON lines
  FOR EACH ROW WHEN ((OLD.date, OLD.amount) IS DISTINCT FROM (NEW.date, NEW.amount)) EXECUTE FUNCTION tell_decisions_anew();
--> statement-breakpoint
CREATE OR REPLACE FUNCTION check_decision_period() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF EXISTS (
    SELECT FROM decisions WHERE books_id = NEW.books_id AND id = NEW.decision_id AND kind IN ('excluded', 'deleted')
  ) THEN
    PERFORM raise_if_counted(NEW.books_id, NEW.line_id);
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
DELETE FROM moved_days;--> statement-breakpoint
ALTER TABLE "moved_days" DROP CONSTRAINT "moved_days_books_id_account_id_date_pk";--> statement-breakpoint
ALTER TABLE "moved_days" ADD COLUMN "is_tax" boolean NOT NULL;--> statement-breakpoint
ALTER TABLE "moved_days" ADD COLUMN "tax_code_id" uuid NOT NULL;--> statement-breakpoint
ALTER TABLE "moved_days" ADD COLUMN "tax_side" text NOT NULL;--> statement-breakpoint
ALTER TABLE "moved_days" ADD COLUMN "taxable" bigint NOT NULL;--> statement-breakpoint
ALTER TABLE "moved_days" ADD CONSTRAINT "moved_days_pk" PRIMARY KEY("books_id","account_id","date","is_tax","tax_code_id","tax_side");--> statement-breakpoint
DROP VIEW days_that_moved;--> statement-breakpoint
CREATE VIEW days_that_moved AS
  SELECT g.books_id, g.account_id, m.date, g.role = 'tax' AS is_tax,
    coalesce(g.tax_code_id, '00000000-0000-0000-0000-000000000000') AS tax_code_id, coalesce(g.tax_side, '') AS tax_side,
    sum(abs(m.sign))::integer AS count, sum(m.sign * g.amount)::bigint AS amount,
    sum(greatest(m.sign * g.amount, 0))::bigint AS debits, sum(m.sign * g.own)::bigint AS own,
    coalesce(sum(m.sign * g.taxable), 0)::bigint AS taxable
  FROM (
    SELECT books_id, id, date, 1 AS sign FROM entries WHERE is_counted
    UNION ALL
    SELECT books_id, entry_id, date, sign FROM late_turns) m
  JOIN legs g ON g.books_id = m.books_id AND g.entry_id = m.id
  GROUP BY 1, 2, 3, 4, 5, 6;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION count_moved(the_books uuid, moved uuid[], days date[], signs integer[], the_way integer) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  EXECUTE '
    INSERT INTO moved_days AS c (books_id, account_id, date, is_tax, tax_code_id, tax_side, count, amount, debits, own, taxable)
    SELECT $1, g.account_id, m.date, g.role = ''tax'',
      coalesce(g.tax_code_id, ''00000000-0000-0000-0000-000000000000''), coalesce(g.tax_side, ''''),
      count(*) * $5, sum(m.sign * g.amount) * $5, sum(greatest(m.sign * g.amount, 0)) * $5, sum(m.sign * g.own) * $5,
      coalesce(sum(m.sign * g.taxable), 0) * $5
    FROM unnest($2, $3, $4) AS m (entry_id, date, sign)
    JOIN legs g ON g.books_id = $1 AND g.entry_id = m.entry_id
    GROUP BY 2, 3, 4, 5, 6
    ON CONFLICT (books_id, account_id, date, is_tax, tax_code_id, tax_side) DO UPDATE
      SET count = c.count + excluded.count, amount = c.amount + excluded.amount, debits = c.debits + excluded.debits,
        own = c.own + excluded.own, taxable = c.taxable + excluded.taxable'
  USING the_books, moved, days, signs, the_way;
END $$;
--> statement-breakpoint
DROP FUNCTION count_legs(uuid, uuid[], uuid[], bigint[], bigint[], integer);--> statement-breakpoint
-- Adds legs on all days that their entries count on, or takes them off (−1).
CREATE FUNCTION count_legs(the_books uuid, counted legs[], the_way integer) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  EXECUTE '
    INSERT INTO moved_days AS c (books_id, account_id, date, is_tax, tax_code_id, tax_side, count, amount, debits, own, taxable)
    SELECT $1, g.account_id, m.date, g.role = ''tax'',
      coalesce(g.tax_code_id, ''00000000-0000-0000-0000-000000000000''), coalesce(g.tax_side, ''''),
      count(*) * $3, sum(m.sign * g.amount) * $3, sum(greatest(m.sign * g.amount, 0)) * $3, sum(m.sign * g.own) * $3,
      coalesce(sum(m.sign * g.taxable), 0) * $3
    FROM unnest($2) AS g
    JOIN LATERAL (
      SELECT date, 1 AS sign FROM entries e WHERE e.books_id = $1 AND e.id = g.entry_id AND e.is_counted
      UNION ALL
      SELECT date, sign FROM late_turns t WHERE t.books_id = $1 AND t.entry_id = g.entry_id) m ON true
    GROUP BY 2, 3, 4, 5, 6
    ON CONFLICT (books_id, account_id, date, is_tax, tax_code_id, tax_side) DO UPDATE
      SET count = c.count + excluded.count, amount = c.amount + excluded.amount, debits = c.debits + excluded.debits,
        own = c.own + excluded.own, taxable = c.taxable + excluded.taxable'
  USING the_books, counted, the_way;
END $$;
--> statement-breakpoint
REVOKE EXECUTE ON FUNCTION count_legs(uuid, legs[], integer), place_legs_anew(), tell_decision_line(), tell_decisions_anew()
  FROM public;--> statement-breakpoint
CREATE OR REPLACE FUNCTION legs_came() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  wrong record;
BEGIN
  EXECUTE '
    WITH placed AS MATERIALIZED (
      SELECT g.*, e.date AS entry_date, e.is_counted, NOT e.is_void AND e.kind <> ''opening'' AND b.is_bank AS is_untied,
        b.closed_to, (g.date, g.payee_id, g.shown_account_id)
          IS DISTINCT FROM (e.date, e.payee_id, coalesce(a.merged_into, g.account_id)) AS is_misplaced
      FROM added g
      JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id
      JOIN accounts a ON a.books_id = g.books_id AND a.id = g.account_id
      CROSS JOIN LATERAL (
        SELECT count(*) > 0 AS is_bank, max(closed_to) AS closed_to FROM bank_accounts
        WHERE books_id = a.books_id AND account_id = a.id) b),
    moved AS (
      SELECT p.*, p.entry_date AS day, 1 AS sign FROM placed p WHERE p.is_counted
      UNION ALL
      SELECT p.*, t.date, t.sign FROM placed p
      JOIN late_turns t ON t.books_id = p.books_id AND t.entry_id = p.entry_id),
    days AS (
      INSERT INTO moved_days AS c (books_id, account_id, date, is_tax, tax_code_id, tax_side, count, amount, debits, own, taxable)
      SELECT books_id, account_id, day, role = ''tax'',
        coalesce(tax_code_id, ''00000000-0000-0000-0000-000000000000''), coalesce(tax_side, ''''),
        count(*), sum(sign * amount), sum(greatest(sign * amount, 0)), sum(sign * own), coalesce(sum(sign * taxable), 0)
      FROM moved GROUP BY 1, 2, 3, 4, 5, 6
      ON CONFLICT (books_id, account_id, date, is_tax, tax_code_id, tax_side) DO UPDATE
        SET count = c.count + excluded.count, amount = c.amount + excluded.amount, debits = c.debits + excluded.debits,
          own = c.own + excluded.own, taxable = c.taxable + excluded.taxable),
    untied AS (
      INSERT INTO untied_legs (books_id, leg_id) SELECT books_id, id FROM placed WHERE is_untied)
    SELECT is_misplaced, entry_date, closed_to FROM placed WHERE is_misplaced OR entry_date <= closed_to LIMIT 1'
  INTO wrong;
  IF wrong.is_misplaced THEN
    RAISE EXCEPTION 'A leg has another day, payee or account than its entry and account.';
  END IF;
  PERFORM raise_if_closed(wrong.entry_date, wrong.closed_to);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION legs_went() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM count_legs(g.books_id, array_agg(ROW(g.*)::legs), -1) FROM gone g GROUP BY g.books_id;
  DELETE FROM untied_legs u USING gone g WHERE u.books_id = g.books_id AND u.leg_id = g.id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION legs_changed() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  lot record;
BEGIN
  FOR lot IN
    SELECT a.books_id, array_agg(DISTINCT a.entry_id) || array_agg(DISTINCT b.entry_id) AS entry_ids,
      array_agg(a.id) AS ids
    FROM after a JOIN before b ON b.books_id = a.books_id AND b.id = a.id
    WHERE (a.entry_id, a.account_id, a.amount, a.own, a.role, a.tax_code_id, a.tax_side, a.taxable)
      IS DISTINCT FROM (b.entry_id, b.account_id, b.amount, b.own, b.role, b.tax_code_id, b.tax_side, b.taxable)
    GROUP BY a.books_id
  LOOP
    PERFORM count_legs(lot.books_id, array_agg(ROW(g.*)::legs), -1) FROM before g
    WHERE g.books_id = lot.books_id AND g.id = ANY (lot.ids);
    PERFORM count_legs(lot.books_id, array_agg(ROW(g.*)::legs), 1) FROM after g
    WHERE g.books_id = lot.books_id AND g.id = ANY (lot.ids);
    PERFORM renew_untied(lot.books_id, lot.entry_ids);
    PERFORM renew_uneven(lot.books_id, array_agg(DISTINCT x.decision_id)) FROM decision_legs x
    WHERE x.books_id = lot.books_id AND x.leg_id = ANY (lot.ids) AND x.is_live HAVING count(*) > 0;
  END LOOP;
  RETURN NULL;
END $$;
--> statement-breakpoint
INSERT INTO moved_days (books_id, account_id, date, is_tax, tax_code_id, tax_side, count, amount, debits, own, taxable)
  SELECT books_id, account_id, date, is_tax, tax_code_id, tax_side, count, amount, debits, own, taxable FROM days_that_moved;

CREATE TABLE "moved_days" (
	"books_id" uuid NOT NULL,
	"account_id" uuid NOT NULL,
	"date" date NOT NULL,
	"count" integer NOT NULL,
	"amount" bigint NOT NULL,
	"debits" bigint NOT NULL,
	"own" bigint NOT NULL,
	CONSTRAINT "moved_days_books_id_account_id_date_pk" PRIMARY KEY("books_id","account_id","date")
);
--> statement-breakpoint
CREATE TABLE "uneven_decisions" (
	"books_id" uuid NOT NULL,
	"decision_id" uuid NOT NULL,
	"from_date" date NOT NULL,
	"until_date" date,
	CONSTRAINT "uneven_decisions_books_id_decision_id_pk" PRIMARY KEY("books_id","decision_id")
);
--> statement-breakpoint
CREATE TABLE "untied_legs" (
	"books_id" uuid NOT NULL,
	"leg_id" uuid NOT NULL,
	CONSTRAINT "untied_legs_books_id_leg_id_pk" PRIMARY KEY("books_id","leg_id")
);
--> statement-breakpoint
CREATE TABLE "decided_days" (
	"books_id" uuid NOT NULL,
	"bank_account_id" uuid NOT NULL,
	"date" date NOT NULL,
	"is_out" boolean NOT NULL,
	"kind" text NOT NULL,
	"reason" text NOT NULL,
	"count" integer NOT NULL,
	"amount" bigint NOT NULL,
	CONSTRAINT "decided_days_books_id_bank_account_id_date_is_out_kind_reason_pk" PRIMARY KEY("books_id","bank_account_id","date","is_out","kind","reason")
);
--> statement-breakpoint
DROP TABLE "decided_counts" CASCADE;--> statement-breakpoint
CREATE INDEX "entries_valuation" ON "entries" USING btree ("books_id") WHERE "entries"."kind" = 'valuation';--> statement-breakpoint
-- Decided lines by day, beside their number what the bank moved with them.
CREATE VIEW days_that_are_decided AS
  SELECT l.books_id, l.bank_account_id, l.date, l.amount < 0 AS is_out, d.kind, coalesce(d.reason, '') AS reason,
    count(*)::integer AS count, sum(l.amount)::bigint AS amount
  FROM lines l
  JOIN decision_lines t ON t.books_id = l.books_id AND t.line_id = l.id AND t.is_live
  JOIN decisions d ON d.books_id = t.books_id AND d.id = t.decision_id
  WHERE l.is_here GROUP BY 1, 2, 3, 4, 5, 6;
--> statement-breakpoint
DROP FUNCTION count_decided(uuid, uuid[], uuid[], integer[]);--> statement-breakpoint
-- Adds the lines of decisions that came into force, takes off those that went out of it: each by its sign.
CREATE FUNCTION count_decided(the_books uuid, lines_decided uuid[], decisions_of uuid[], signs integer[]) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  INSERT INTO decided_days AS c (books_id, bank_account_id, date, is_out, kind, reason, count, amount)
  SELECT the_books, l.bank_account_id, l.date, l.amount < 0, d.kind, coalesce(d.reason, ''), sum(changed.sign),
    sum(changed.sign * l.amount)
  FROM unnest(lines_decided, decisions_of, signs) AS changed (line_id, decision_id, sign)
  JOIN lines l ON l.books_id = the_books AND l.id = changed.line_id AND l.is_here
  JOIN decisions d ON d.books_id = the_books AND d.id = changed.decision_id
  GROUP BY 2, 3, 4, 5, 6
  ON CONFLICT (books_id, bank_account_id, date, is_out, kind, reason)
    DO UPDATE SET count = c.count + excluded.count, amount = c.amount + excluded.amount;
$$;
--> statement-breakpoint
-- What moved on which day, each account by itself.
CREATE VIEW days_that_moved AS
  SELECT g.books_id, g.account_id, m.date, sum(abs(m.sign))::integer AS count,
    sum(m.sign * g.amount)::bigint AS amount, sum(greatest(m.sign * g.amount, 0))::bigint AS debits,
    sum(m.sign * g.own)::bigint AS own
  FROM (
    SELECT books_id, id, date, 1 AS sign FROM entries WHERE is_counted
    UNION ALL
    SELECT books_id, entry_id, date, sign FROM late_turns) m
  JOIN legs g ON g.books_id = m.books_id AND g.entry_id = m.id
  GROUP BY 1, 2, 3;
--> statement-breakpoint
-- Adds what entries moved on days, or takes it off (`the_way` −1): on which day each counts, and with which sign.
CREATE FUNCTION count_moved(the_books uuid, moved uuid[], days date[], signs integer[], the_way integer) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  INSERT INTO moved_days AS c (books_id, account_id, date, count, amount, debits, own)
  SELECT the_books, g.account_id, m.date, count(*) * the_way, sum(m.sign * g.amount) * the_way,
    sum(greatest(m.sign * g.amount, 0)) * the_way, sum(m.sign * g.own) * the_way
  FROM unnest(moved, days, signs) AS m (entry_id, date, sign)
  JOIN legs g ON g.books_id = the_books AND g.entry_id = m.entry_id
  GROUP BY 2, 3
  ON CONFLICT (books_id, account_id, date) DO UPDATE
    SET count = c.count + excluded.count, amount = c.amount + excluded.amount, debits = c.debits + excluded.debits,
      own = c.own + excluded.own;
$$;
--> statement-breakpoint
-- Adds legs on all days that their entries count on, or takes them off (−1).
CREATE FUNCTION count_legs(
  the_books uuid, entry_ids uuid[], account_ids uuid[], amounts bigint[], owns bigint[], the_way integer) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  INSERT INTO moved_days AS c (books_id, account_id, date, count, amount, debits, own)
  SELECT the_books, g.account_id, m.date, count(*) * the_way, sum(m.sign * g.amount) * the_way,
    sum(greatest(m.sign * g.amount, 0)) * the_way, sum(m.sign * g.own) * the_way
  FROM unnest(entry_ids, account_ids, amounts, owns) AS g (entry_id, account_id, amount, own)
  JOIN LATERAL (
    SELECT date, 1 AS sign FROM entries e WHERE e.books_id = the_books AND e.id = g.entry_id AND e.is_counted
    UNION ALL
    SELECT date, sign FROM late_turns t WHERE t.books_id = the_books AND t.entry_id = g.entry_id) m ON true
  GROUP BY 2, 3
  ON CONFLICT (books_id, account_id, date) DO UPDATE
    SET count = c.count + excluded.count, amount = c.amount + excluded.amount, debits = c.debits + excluded.debits,
      own = c.own + excluded.own;
$$;
--> statement-breakpoint
-- The decisions whose lines and legs on a bank account differ on some day: from the first such day on, until the last
-- where they come to the same as a whole.
CREATE VIEW decisions_that_differ AS
  SELECT books_id, decision_id, min(date) AS from_date,
    CASE WHEN bool_and(whole = 0) THEN max(date) + 1 END AS until_date
  FROM (
    SELECT books_id, decision_id, account_id, date, sum(amount) AS amount,
      sum(sum(amount)) OVER (PARTITION BY books_id, decision_id, account_id) AS whole
    FROM (
      SELECT t.books_id, t.decision_id, b.account_id, l.date, l.amount
      FROM decision_lines t
      JOIN decisions d ON d.books_id = t.books_id AND d.id = t.decision_id AND d.kind IN ('posted', 'paired')
      JOIN lines l ON l.books_id = t.books_id AND l.id = t.line_id AND l.is_here
      JOIN bank_accounts b ON b.books_id = l.books_id AND b.id = l.bank_account_id
      WHERE t.is_live
      UNION ALL
      SELECT x.books_id, x.decision_id, g.account_id, e.date, -g.own
      FROM decision_legs x
      JOIN legs g ON g.books_id = x.books_id AND g.id = x.leg_id
      JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id AND NOT e.is_void
      WHERE x.is_live AND EXISTS (
        SELECT FROM bank_accounts b WHERE b.books_id = g.books_id AND b.account_id = g.account_id)) side
    GROUP BY 1, 2, 3, 4) day
  WHERE amount <> 0 GROUP BY 1, 2;
--> statement-breakpoint
CREATE VIEW legs_that_are_untied AS
  SELECT g.books_id, g.id AS leg_id, g.entry_id
  FROM legs g
  JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id AND NOT e.is_void AND e.kind <> 'opening'
  WHERE EXISTS (SELECT FROM bank_accounts b WHERE b.books_id = g.books_id AND b.account_id = g.account_id)
    AND NOT EXISTS (
      SELECT FROM decision_legs x WHERE x.books_id = g.books_id AND x.leg_id = g.id AND x.is_live);
--> statement-breakpoint
CREATE FUNCTION renew_uneven(the_books uuid, ids uuid[]) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  WITH wanted AS MATERIALIZED (
    SELECT d.* FROM decisions_that_differ d WHERE d.books_id = the_books AND d.decision_id = ANY (ids)),
  gone AS (
    DELETE FROM uneven_decisions u WHERE u.books_id = the_books AND u.decision_id = ANY (ids)
      AND NOT EXISTS (SELECT FROM wanted w WHERE w.decision_id = u.decision_id))
  INSERT INTO uneven_decisions (books_id, decision_id, from_date, until_date)
  SELECT books_id, decision_id, from_date, until_date FROM wanted
  ON CONFLICT (books_id, decision_id) DO UPDATE SET from_date = excluded.from_date, until_date = excluded.until_date;
$$;
--> statement-breakpoint
CREATE FUNCTION renew_untied(the_books uuid, entry_ids uuid[]) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  WITH wanted AS MATERIALIZED (
    SELECT u.leg_id FROM legs_that_are_untied u WHERE u.books_id = the_books AND u.entry_id = ANY (entry_ids)),
  gone AS (
    DELETE FROM untied_legs u USING legs g
    WHERE u.books_id = the_books AND g.books_id = the_books AND g.id = u.leg_id AND g.entry_id = ANY (entry_ids)
      AND NOT EXISTS (SELECT FROM wanted w WHERE w.leg_id = u.leg_id))
  INSERT INTO untied_legs (books_id, leg_id) SELECT the_books, leg_id FROM wanted
  ON CONFLICT (books_id, leg_id) DO NOTHING;
$$;
--> statement-breakpoint
CREATE FUNCTION legs_came() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM count_legs(books_id, array_agg(entry_id), array_agg(account_id), array_agg(amount), array_agg(own), 1)
  FROM added GROUP BY books_id;
  INSERT INTO untied_legs (books_id, leg_id)
  SELECT g.books_id, g.id FROM added g
  JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id AND NOT e.is_void AND e.kind <> 'opening'
  WHERE EXISTS (SELECT FROM bank_accounts b WHERE b.books_id = g.books_id AND b.account_id = g.account_id);
  RETURN NULL;
END $$;
--> statement-breakpoint
-- No program changes or removes legs; where somebody does, the proof is to show it.
CREATE FUNCTION legs_changed() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  lot record;
BEGIN
  FOR lot IN
    SELECT a.books_id, array_agg(DISTINCT a.entry_id) || array_agg(DISTINCT b.entry_id) AS entry_ids,
      array_agg(a.id) AS ids
    FROM after a JOIN before b ON b.books_id = a.books_id AND b.id = a.id
    WHERE (a.entry_id, a.account_id, a.amount, a.own) <> (b.entry_id, b.account_id, b.amount, b.own)
    GROUP BY a.books_id
  LOOP
    PERFORM count_legs(books_id, array_agg(entry_id), array_agg(account_id), array_agg(amount), array_agg(own), -1)
    FROM before WHERE books_id = lot.books_id AND id = ANY (lot.ids) GROUP BY books_id;
    PERFORM count_legs(books_id, array_agg(entry_id), array_agg(account_id), array_agg(amount), array_agg(own), 1)
    FROM after WHERE books_id = lot.books_id AND id = ANY (lot.ids) GROUP BY books_id;
    PERFORM renew_untied(lot.books_id, lot.entry_ids);
    PERFORM renew_uneven(lot.books_id, array_agg(DISTINCT x.decision_id)) FROM decision_legs x
    WHERE x.books_id = lot.books_id AND x.leg_id = ANY (lot.ids) AND x.is_live HAVING count(*) > 0;
  END LOOP;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION legs_went() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM count_legs(books_id, array_agg(entry_id), array_agg(account_id), array_agg(amount), array_agg(own), -1)
  FROM gone GROUP BY books_id;
  DELETE FROM untied_legs u USING gone g WHERE u.books_id = g.books_id AND u.leg_id = g.id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION entries_changed() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  lot record;
BEGIN
  PERFORM count_moved(b.books_id, array_agg(b.id), array_agg(b.date), array_agg(1), -1)
  FROM before b JOIN after a ON a.books_id = b.books_id AND a.id = b.id
  WHERE b.is_counted AND (a.date, a.is_counted) <> (b.date, b.is_counted) GROUP BY b.books_id;
  PERFORM count_moved(a.books_id, array_agg(a.id), array_agg(a.date), array_agg(1), 1)
  FROM before b JOIN after a ON a.books_id = b.books_id AND a.id = b.id
  WHERE a.is_counted AND (a.date, a.is_counted) <> (b.date, b.is_counted) GROUP BY a.books_id;
  FOR lot IN
    SELECT a.books_id, array_agg(a.id) AS ids
    FROM after a JOIN before b ON b.books_id = a.books_id AND b.id = a.id
    WHERE (a.date, a.is_void) <> (b.date, b.is_void) GROUP BY a.books_id
  LOOP
    PERFORM renew_untied(lot.books_id, lot.ids);
    PERFORM renew_uneven(lot.books_id, array_agg(DISTINCT x.decision_id)) FROM decision_legs x
    WHERE x.books_id = lot.books_id AND x.is_live AND x.leg_id = ANY (ARRAY(
      SELECT g.id FROM legs g WHERE g.books_id = lot.books_id AND g.entry_id = ANY (lot.ids)))
    HAVING count(*) > 0;
  END LOOP;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION turns_came() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM count_moved(books_id, array_agg(entry_id), array_agg(date), array_agg(sign::integer), 1)
  FROM added GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION turns_went() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM count_moved(books_id, array_agg(entry_id), array_agg(date), array_agg(sign::integer), -1)
  FROM gone GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
-- What ties of decisions to legs came into force or went out of it.
CREATE FUNCTION ties_changed(the_books uuid, decided uuid[], of_legs uuid[]) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM renew_uneven(the_books, decided);
  PERFORM renew_untied(the_books, array_agg(DISTINCT g.entry_id)) FROM legs g
  WHERE g.books_id = the_books AND g.id = ANY (of_legs) HAVING count(*) > 0;
END $$;
--> statement-breakpoint
CREATE FUNCTION ties_came() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM renew_uneven(books_id, array_agg(DISTINCT decision_id)) FROM added WHERE is_live GROUP BY books_id;
  DELETE FROM untied_legs u USING added x WHERE u.books_id = x.books_id AND u.leg_id = x.leg_id AND x.is_live;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION ties_turned() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM ties_changed(a.books_id, array_agg(DISTINCT a.decision_id), array_agg(a.leg_id))
  FROM after a
  JOIN before b ON b.books_id = a.books_id AND b.decision_id = a.decision_id AND b.leg_id = a.leg_id
  WHERE a.is_live <> b.is_live GROUP BY a.books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION ties_went() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM ties_changed(books_id, array_agg(DISTINCT decision_id), array_agg(leg_id)) FROM gone GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER legs_come AFTER INSERT ON legs
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION legs_came();--> statement-breakpoint
CREATE TRIGGER legs_change AFTER UPDATE ON legs
  REFERENCING OLD TABLE AS before NEW TABLE AS after FOR EACH STATEMENT EXECUTE FUNCTION legs_changed();--> statement-breakpoint
CREATE TRIGGER legs_go AFTER DELETE ON legs
  REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION legs_went();--> statement-breakpoint
CREATE TRIGGER entries_change AFTER UPDATE ON entries
  REFERENCING OLD TABLE AS before NEW TABLE AS after FOR EACH STATEMENT EXECUTE FUNCTION entries_changed();--> statement-breakpoint
CREATE TRIGGER late_turns_come AFTER INSERT ON late_turns
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION turns_came();--> statement-breakpoint
CREATE TRIGGER late_turns_go AFTER DELETE ON late_turns
  REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION turns_went();--> statement-breakpoint
CREATE TRIGGER ties_come AFTER INSERT ON decision_legs
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION ties_came();--> statement-breakpoint
CREATE TRIGGER ties_change AFTER UPDATE ON decision_legs
  REFERENCING OLD TABLE AS before NEW TABLE AS after FOR EACH STATEMENT EXECUTE FUNCTION ties_turned();--> statement-breakpoint
CREATE TRIGGER ties_go AFTER DELETE ON decision_legs
  REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION ties_went();--> statement-breakpoint
-- What comes with legs is renewed with those, after its lines; and a posted decision always does.
CREATE FUNCTION renew_legless(the_books uuid, ids uuid[]) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT renew_uneven(the_books, array_agg(d.id)) FROM decisions d
  WHERE d.books_id = the_books AND d.id = ANY (ids) AND d.kind = 'paired' AND NOT EXISTS (
    SELECT FROM decision_legs x WHERE x.books_id = d.books_id AND x.decision_id = d.id)
  HAVING count(*) > 0;
$$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION decisions_came() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM count_decided(books_id, array_agg(line_id), array_agg(decision_id), array_agg(1)),
    renew_open_lines(books_id, array_agg(line_id)), renew_legless(books_id, array_agg(DISTINCT decision_id))
  FROM added WHERE is_live GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION decisions_changed() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM count_decided(a.books_id, array_agg(a.line_id), array_agg(a.decision_id),
      array_agg(CASE WHEN a.is_live THEN 1 ELSE -1 END)),
    renew_open_lines(a.books_id, array_agg(a.line_id)),
    renew_uneven(a.books_id, array_agg(DISTINCT a.decision_id))
  FROM after a
  JOIN before b ON b.books_id = a.books_id AND b.decision_id = a.decision_id AND b.line_id = a.line_id
  WHERE a.is_live <> b.is_live GROUP BY a.books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION decisions_went() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM count_decided(books_id, array_agg(line_id), array_agg(decision_id), array_agg(-1)),
    renew_open_lines(books_id, array_agg(line_id)), renew_uneven(books_id, array_agg(DISTINCT decision_id))
  FROM gone WHERE is_live GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
-- Adds decided lines to their days, or takes them off (−1).
CREATE FUNCTION count_lines(
  the_books uuid, ids uuid[], account_ids uuid[], days date[], amounts bigint[], the_way integer) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  INSERT INTO decided_days AS c (books_id, bank_account_id, date, is_out, kind, reason, count, amount)
  SELECT the_books, l.bank_account_id, l.date, l.amount < 0, d.kind, coalesce(d.reason, ''), count(*) * the_way,
    sum(l.amount) * the_way
  FROM unnest(ids, account_ids, days, amounts) AS l (id, bank_account_id, date, amount)
  JOIN decision_lines t ON t.books_id = the_books AND t.line_id = l.id AND t.is_live
  JOIN decisions d ON d.books_id = the_books AND d.id = t.decision_id
  GROUP BY 2, 3, 4, 5, 6
  ON CONFLICT (books_id, bank_account_id, date, is_out, kind, reason)
    DO UPDATE SET count = c.count + excluded.count, amount = c.amount + excluded.amount;
$$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION renew_open_lines(the_books uuid, ids uuid[]) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  WITH wanted AS MATERIALIZED (
    SELECT o.* FROM lines_that_are_open o WHERE o.books_id = the_books AND o.line_id = ANY (ids)),
  gone AS (
    DELETE FROM open_lines o WHERE o.books_id = the_books AND o.line_id = ANY (ids)
      AND NOT EXISTS (SELECT FROM wanted w WHERE w.line_id = o.line_id))
  INSERT INTO open_lines (books_id, line_id, bank_account_id, date, amount, stem, asked, held, is_twice,
    proposed, digest, account_id, payee_id, is_pair, equal_lines)
  SELECT * FROM wanted
  ON CONFLICT (books_id, line_id) DO UPDATE SET bank_account_id = excluded.bank_account_id, date = excluded.date,
    amount = excluded.amount, stem = excluded.stem, asked = excluded.asked,
    held = excluded.held, is_twice = excluded.is_twice, proposed = excluded.proposed, digest = excluded.digest,
    account_id = excluded.account_id, payee_id = excluded.payee_id, is_pair = excluded.is_pair,
    equal_lines = excluded.equal_lines;
$$;
--> statement-breakpoint
-- A line comes and goes with its file. Nothing changes what the bank said; where somebody does, the proof is to show it.
CREATE OR REPLACE FUNCTION lines_changed() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  lot record;
BEGIN
  FOR lot IN
    SELECT a.books_id, array_agg(a.id) AS ids,
      array_agg(a.id) FILTER (WHERE (a.is_here, a.bank_account_id, a.date, a.amount)
        <> (b.is_here, b.bank_account_id, b.date, b.amount)) AS moved
    FROM after a JOIN before b ON b.books_id = a.books_id AND b.id = a.id
    WHERE (a.is_here, a.stem, a.bank_account_id, a.date, a.amount)
        <> (b.is_here, b.stem, b.bank_account_id, b.date, b.amount)
      OR a.asked IS DISTINCT FROM b.asked OR a.held IS DISTINCT FROM b.held OR a.twice_of IS DISTINCT FROM b.twice_of
    GROUP BY a.books_id
  LOOP
    PERFORM renew_open_lines(lot.books_id, lot.ids);
    IF lot.moved IS NOT NULL THEN
      -- What may be a second copy of one of these is one now, or none.
      PERFORM renew_open_lines(lot.books_id, array_agg(l.id)) FROM lines l
      WHERE l.books_id = lot.books_id AND l.twice_of = ANY (lot.moved) HAVING count(*) > 0;
      PERFORM count_lines(books_id, array_agg(id), array_agg(bank_account_id), array_agg(date), array_agg(amount), -1)
      FROM before WHERE books_id = lot.books_id AND id = ANY (lot.moved) AND is_here GROUP BY books_id;
      PERFORM count_lines(books_id, array_agg(id), array_agg(bank_account_id), array_agg(date), array_agg(amount), 1)
      FROM after WHERE books_id = lot.books_id AND id = ANY (lot.moved) AND is_here GROUP BY books_id;
      PERFORM renew_uneven(lot.books_id, array_agg(DISTINCT t.decision_id)) FROM decision_lines t
      WHERE t.books_id = lot.books_id AND t.line_id = ANY (lot.moved) AND t.is_live HAVING count(*) > 0;
    END IF;
  END LOOP;
  RETURN NULL;
END $$;
--> statement-breakpoint
DO $$
DECLARE
  one text;
BEGIN
  FOREACH one IN ARRAY ARRAY['decided_days', 'moved_days', 'uneven_decisions', 'untied_legs'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', one);
    EXECUTE format('CREATE POLICY own_books ON %I
      USING (books_id = nullif(current_setting(''app.books_id'', true), '''')::uuid)', one);
    EXECUTE format('GRANT SELECT ON %I TO zubrell_app', one);
  END LOOP;
END $$;
--> statement-breakpoint
REVOKE EXECUTE ON FUNCTION count_decided(uuid, uuid[], uuid[], integer[]),
  count_moved(uuid, uuid[], date[], integer[], integer),
  count_legs(uuid, uuid[], uuid[], bigint[], bigint[], integer), renew_uneven(uuid, uuid[]), renew_untied(uuid, uuid[]),
  count_lines(uuid, uuid[], uuid[], date[], bigint[], integer), renew_legless(uuid, uuid[]),
  ties_changed(uuid, uuid[], uuid[]) FROM public;--> statement-breakpoint
INSERT INTO decided_days SELECT * FROM days_that_are_decided;--> statement-breakpoint
INSERT INTO moved_days (books_id, account_id, date, count, amount, debits, own) SELECT * FROM days_that_moved;--> statement-breakpoint
INSERT INTO uneven_decisions SELECT * FROM decisions_that_differ;--> statement-breakpoint
INSERT INTO untied_legs SELECT books_id, leg_id FROM legs_that_are_untied;

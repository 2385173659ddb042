CREATE TABLE "decided_counts" (
	"books_id" uuid NOT NULL,
	"bank_account_id" uuid NOT NULL,
	"date" date NOT NULL,
	"is_out" boolean NOT NULL,
	"kind" text NOT NULL,
	"count" integer NOT NULL,
	CONSTRAINT "decided_counts_books_id_bank_account_id_date_is_out_kind_pk" PRIMARY KEY("books_id","bank_account_id","date","is_out","kind")
);
--> statement-breakpoint
CREATE TABLE "open_lines" (
	"books_id" uuid NOT NULL,
	"line_id" uuid NOT NULL,
	"bank_account_id" uuid NOT NULL,
	"date" date NOT NULL,
	"amount" bigint NOT NULL,
	"stem" text NOT NULL,
	"asked" text,
	"held" text,
	"is_twice" boolean NOT NULL,
	"proposed" text,
	"digest" bigint,
	"account_id" uuid,
	"payee_id" text,
	"is_pair" boolean NOT NULL,
	"equal_lines" jsonb,
	"lane" text GENERATED ALWAYS AS (case when asked = 'open' then 'asked'
          when is_twice or asked = 'answered' or held is not null then 'check'
          else coalesce(proposed, 'blank') end) STORED NOT NULL,
	CONSTRAINT "open_lines_books_id_line_id_pk" PRIMARY KEY("books_id","line_id")
);
--> statement-breakpoint
CREATE INDEX "lines_twice" ON "lines" USING btree ("books_id","twice_of") WHERE "lines"."twice_of" is not null;--> statement-breakpoint
-- What open_lines has to hold, in the order of its columns.
CREATE VIEW lines_that_are_open AS
  SELECT l.books_id, l.id AS line_id, l.bank_account_id, l.date, l.amount, l.stem, l.asked, l.held,
    l.twice_of IS NOT NULL AND EXISTS (
      SELECT FROM lines original
      WHERE original.books_id = l.books_id AND original.id = l.twice_of AND original.is_here) AS is_twice,
    p.lane AS proposed, p.digest, p.account_id, p.proposal #>> '{coding,payeeId}' AS payee_id,
    coalesce(p.proposal ->> 'kind' = 'pair', false) AS is_pair,
    jsonb_path_query_first(p.proposal, '$.doubts[*] ? (@.kind == "equalLines")') AS equal_lines
  FROM lines l
  LEFT JOIN proposals p ON p.books_id = l.books_id AND p.line_id = l.id
  WHERE l.is_here AND NOT EXISTS (
    SELECT FROM decision_lines d WHERE d.books_id = l.books_id AND d.line_id = l.id AND d.is_live);
--> statement-breakpoint
CREATE FUNCTION renew_open_lines(the_books uuid, ids uuid[]) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  WITH wanted AS MATERIALIZED (
    SELECT o.* FROM lines_that_are_open o WHERE o.books_id = the_books AND o.line_id = ANY (ids)),
  gone AS (
    DELETE FROM open_lines o WHERE o.books_id = the_books AND o.line_id = ANY (ids)
      AND NOT EXISTS (SELECT FROM wanted w WHERE w.line_id = o.line_id))
  INSERT INTO open_lines (books_id, line_id, bank_account_id, date, amount, stem, asked, held, is_twice,
    proposed, digest, account_id, payee_id, is_pair, equal_lines)
  SELECT * FROM wanted
  ON CONFLICT (books_id, line_id) DO UPDATE SET stem = excluded.stem, asked = excluded.asked,
    held = excluded.held, is_twice = excluded.is_twice, proposed = excluded.proposed, digest = excluded.digest,
    account_id = excluded.account_id, payee_id = excluded.payee_id, is_pair = excluded.is_pair,
    equal_lines = excluded.equal_lines;
$$;
--> statement-breakpoint
-- Lines come in open and without a proposal.
CREATE FUNCTION lines_came() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  INSERT INTO open_lines (books_id, line_id, bank_account_id, date, amount, stem, asked, held, is_twice, is_pair)
  SELECT l.books_id, l.id, l.bank_account_id, l.date, l.amount, l.stem, l.asked, l.held,
    l.twice_of IS NOT NULL AND EXISTS (
      SELECT FROM lines original
      WHERE original.books_id = l.books_id AND original.id = l.twice_of AND original.is_here), false
  FROM added l WHERE l.is_here;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION lines_changed() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  lot record;
BEGIN
  FOR lot IN
    SELECT a.books_id, array_agg(a.id) AS ids,
      array_agg(a.id) FILTER (WHERE a.is_here <> b.is_here) AS moved
    FROM after a JOIN before b ON b.books_id = a.books_id AND b.id = a.id
    WHERE (a.is_here, a.stem) <> (b.is_here, b.stem) OR a.asked IS DISTINCT FROM b.asked
      OR a.held IS DISTINCT FROM b.held OR a.twice_of IS DISTINCT FROM b.twice_of
    GROUP BY a.books_id
  LOOP
    PERFORM renew_open_lines(lot.books_id, lot.ids);
    IF lot.moved IS NOT NULL THEN
      -- What may be a second copy of one of these is one now, or none.
      PERFORM renew_open_lines(lot.books_id, array_agg(l.id)) FROM lines l
      WHERE l.books_id = lot.books_id AND l.twice_of = ANY (lot.moved) HAVING count(*) > 0;
      INSERT INTO decided_counts AS c (books_id, bank_account_id, date, is_out, kind, count)
      SELECT l.books_id, l.bank_account_id, l.date, l.amount < 0, d.kind,
        sum(CASE WHEN l.is_here THEN 1 ELSE -1 END)
      FROM lines l
      JOIN decision_lines t ON t.books_id = l.books_id AND t.line_id = l.id AND t.is_live
      JOIN decisions d ON d.books_id = t.books_id AND d.id = t.decision_id
      WHERE l.books_id = lot.books_id AND l.id = ANY (lot.moved)
      GROUP BY 1, 2, 3, 4, 5
      ON CONFLICT (books_id, bank_account_id, date, is_out, kind) DO UPDATE SET count = c.count + excluded.count;
    END IF;
  END LOOP;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION lines_went() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  DELETE FROM open_lines o USING gone g WHERE o.books_id = g.books_id AND o.line_id = g.id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER open_lines_come AFTER INSERT ON lines
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION lines_came();--> statement-breakpoint
CREATE TRIGGER open_lines_change AFTER UPDATE ON lines
  REFERENCING OLD TABLE AS before NEW TABLE AS after FOR EACH STATEMENT EXECUTE FUNCTION lines_changed();--> statement-breakpoint
CREATE TRIGGER open_lines_go AFTER DELETE ON lines
  REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION lines_went();--> statement-breakpoint
-- Decisions that came into force count one more, those that went out of it one less.
CREATE FUNCTION count_decided(the_books uuid, lines_decided uuid[], decisions_of uuid[], by integer[]) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  INSERT INTO decided_counts AS c (books_id, bank_account_id, date, is_out, kind, count)
  SELECT the_books, l.bank_account_id, l.date, l.amount < 0, d.kind, sum(changed.by)
  FROM unnest(lines_decided, decisions_of, by) AS changed (line_id, decision_id, by)
  JOIN lines l ON l.books_id = the_books AND l.id = changed.line_id AND l.is_here
  JOIN decisions d ON d.books_id = the_books AND d.id = changed.decision_id
  GROUP BY 2, 3, 4, 5
  HAVING sum(changed.by) <> 0
  ON CONFLICT (books_id, bank_account_id, date, is_out, kind) DO UPDATE SET count = c.count + excluded.count;
$$;
--> statement-breakpoint
CREATE FUNCTION decisions_came() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM count_decided(books_id, array_agg(line_id), array_agg(decision_id), array_agg(1)),
    renew_open_lines(books_id, array_agg(line_id))
  FROM added WHERE is_live GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION decisions_changed() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM count_decided(a.books_id, array_agg(a.line_id), array_agg(a.decision_id),
      array_agg(CASE WHEN a.is_live THEN 1 ELSE -1 END)),
    renew_open_lines(a.books_id, array_agg(a.line_id))
  FROM after a
  JOIN before b ON b.books_id = a.books_id AND b.decision_id = a.decision_id AND b.line_id = a.line_id
  WHERE a.is_live <> b.is_live GROUP BY a.books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION decisions_went() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM count_decided(books_id, array_agg(line_id), array_agg(decision_id), array_agg(-1)),
    renew_open_lines(books_id, array_agg(line_id))
  FROM gone WHERE is_live GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER open_lines_come AFTER INSERT ON decision_lines
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION decisions_came();--> statement-breakpoint
CREATE TRIGGER open_lines_change AFTER UPDATE ON decision_lines
  REFERENCING OLD TABLE AS before NEW TABLE AS after FOR EACH STATEMENT EXECUTE FUNCTION decisions_changed();--> statement-breakpoint
CREATE TRIGGER open_lines_go AFTER DELETE ON decision_lines
  REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION decisions_went();--> statement-breakpoint
CREATE FUNCTION proposals_came() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  UPDATE open_lines o SET proposed = p.lane, digest = p.digest, account_id = p.account_id,
    payee_id = p.proposal #>> '{coding,payeeId}', is_pair = coalesce(p.proposal ->> 'kind' = 'pair', false),
    equal_lines = jsonb_path_query_first(p.proposal, '$.doubts[*] ? (@.kind == "equalLines")')
  FROM added p WHERE o.books_id = p.books_id AND o.line_id = p.line_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION proposals_went() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  UPDATE open_lines o SET proposed = NULL, digest = NULL, account_id = NULL, payee_id = NULL, is_pair = false,
    equal_lines = NULL
  FROM gone p WHERE o.books_id = p.books_id AND o.line_id = p.line_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER open_lines_come AFTER INSERT ON proposals
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION proposals_came();--> statement-breakpoint
CREATE TRIGGER open_lines_change AFTER UPDATE ON proposals
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION proposals_came();--> statement-breakpoint
CREATE TRIGGER open_lines_go AFTER DELETE ON proposals
  REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION proposals_went();--> statement-breakpoint
ALTER TABLE open_lines ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY own_books ON open_lines
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
ALTER TABLE decided_counts ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY own_books ON decided_counts
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
GRANT SELECT ON open_lines, decided_counts TO zubrell_app;--> statement-breakpoint
REVOKE EXECUTE ON FUNCTION renew_open_lines(uuid, uuid[]), count_decided(uuid, uuid[], uuid[], integer[]) FROM public;--> statement-breakpoint
INSERT INTO open_lines (books_id, line_id, bank_account_id, date, amount, stem, asked, held, is_twice,
  proposed, digest, account_id, payee_id, is_pair, equal_lines)
SELECT * FROM lines_that_are_open;--> statement-breakpoint
INSERT INTO decided_counts (books_id, bank_account_id, date, is_out, kind, count)
SELECT l.books_id, l.bank_account_id, l.date, l.amount < 0, d.kind, count(*)
FROM lines l
JOIN decision_lines t ON t.books_id = l.books_id AND t.line_id = l.id AND t.is_live
JOIN decisions d ON d.books_id = t.books_id AND d.id = t.decision_id
WHERE l.is_here GROUP BY 1, 2, 3, 4, 5;

-- What the database keeps up itself is planned for as many rows as there are. A function in SQL was planned without
-- knowing the books or how much it was given, and a trigger once for whatever came first: in books that grew, five
-- thousand lines were compared with each other, or looked for among all of their books one by one.
--
-- The statements stay as they are; each is planned when it runs, with what it is given in its place.
DO $$
DECLARE
  one record;
  body text;
BEGIN
  FOR one IN
    SELECT p.proname AS name, p.proargnames AS names, pg_get_function_identity_arguments(p.oid) AS arguments,
      p.prosrc AS body
    FROM pg_proc p JOIN pg_language l ON l.oid = p.prolang AND l.lanname = 'sql'
    WHERE p.pronamespace = 'public'::regnamespace AND p.proname IN ('count_decided', 'count_legs', 'count_lines',
      'count_moved', 'renew_legless', 'renew_open_documents', 'renew_uneven', 'renew_untied')
  LOOP
    body := one.body;
    FOR place IN 1 .. array_length(one.names, 1) LOOP
      body := regexp_replace(body, '\m' || one.names[place] || '\M', '$' || place, 'g');
    END LOOP;
    EXECUTE format(
      'CREATE OR REPLACE FUNCTION %I(%s) RETURNS void
      LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS %L',
      one.name, one.arguments,
      format(E'BEGIN\n  EXECUTE %L\n  USING %s;\nEND', body, array_to_string(one.names, ', ')));
  END LOOP;
END $$;
--> statement-breakpoint
-- What is proposed for a line goes when the line is open no more.
CREATE OR REPLACE FUNCTION renew_open_lines(the_books uuid, ids uuid[]) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  EXECUTE '
    WITH wanted AS MATERIALIZED (
      SELECT o.* FROM lines_that_are_open o WHERE o.books_id = $1 AND o.line_id = ANY ($2)),
    gone AS (
      DELETE FROM open_lines o WHERE o.books_id = $1 AND o.line_id = ANY ($2)
        AND NOT EXISTS (SELECT FROM wanted w WHERE w.line_id = o.line_id)),
    unproposed AS (
      DELETE FROM proposals p WHERE p.books_id = $1 AND p.line_id = ANY ($2)
        AND NOT EXISTS (SELECT FROM wanted w WHERE w.line_id = p.line_id))
    INSERT INTO open_lines (books_id, line_id, bank_account_id, date, amount, stem, asked, held, is_twice,
      proposed, digest, account_id, payee_id, is_pair, equal_lines)
    SELECT * FROM wanted
    ON CONFLICT (books_id, line_id) DO UPDATE SET bank_account_id = excluded.bank_account_id, date = excluded.date,
      amount = excluded.amount, stem = excluded.stem, asked = excluded.asked,
      held = excluded.held, is_twice = excluded.is_twice, proposed = excluded.proposed, digest = excluded.digest,
      account_id = excluded.account_id, payee_id = excluded.payee_id, is_pair = excluded.is_pair,
      equal_lines = excluded.equal_lines'
  USING the_books, ids;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION lines_changed() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  lot record;
BEGIN
  FOR lot IN EXECUTE '
    SELECT a.books_id, array_agg(a.id) AS ids,
      array_agg(a.id) FILTER (WHERE (a.is_here, a.bank_account_id, a.date, a.amount)
        <> (b.is_here, b.bank_account_id, b.date, b.amount)) AS moved
    FROM after a JOIN before b ON b.books_id = a.books_id AND b.id = a.id
    WHERE (a.is_here, a.stem, a.bank_account_id, a.date, a.amount)
        <> (b.is_here, b.stem, b.bank_account_id, b.date, b.amount)
      OR a.asked IS DISTINCT FROM b.asked OR a.held IS DISTINCT FROM b.held OR a.twice_of IS DISTINCT FROM b.twice_of
    GROUP BY a.books_id'
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
CREATE OR REPLACE FUNCTION decisions_changed() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  EXECUTE '
    SELECT count_decided(a.books_id, array_agg(a.line_id), array_agg(a.decision_id),
        array_agg(CASE WHEN a.is_live THEN 1 ELSE -1 END)),
      renew_open_lines(a.books_id, array_agg(a.line_id)),
      renew_uneven(a.books_id, array_agg(DISTINCT a.decision_id))
    FROM after a
    JOIN before b ON b.books_id = a.books_id AND b.decision_id = a.decision_id AND b.line_id = a.line_id
    WHERE a.is_live <> b.is_live GROUP BY a.books_id';
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION ties_turned() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  EXECUTE '
    SELECT ties_changed(a.books_id, array_agg(DISTINCT a.decision_id), array_agg(a.leg_id))
    FROM after a
    JOIN before b ON b.books_id = a.books_id AND b.decision_id = a.decision_id AND b.leg_id = a.leg_id
    WHERE a.is_live <> b.is_live GROUP BY a.books_id';
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION entries_changed() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  lot record;
BEGIN
  EXECUTE '
    SELECT count_moved(b.books_id, array_agg(b.id), array_agg(b.date), array_agg(1), -1)
    FROM before b JOIN after a ON a.books_id = b.books_id AND a.id = b.id
    WHERE b.is_counted AND (a.date, a.is_counted) <> (b.date, b.is_counted) GROUP BY b.books_id';
  EXECUTE '
    SELECT count_moved(a.books_id, array_agg(a.id), array_agg(a.date), array_agg(1), 1)
    FROM before b JOIN after a ON a.books_id = b.books_id AND a.id = b.id
    WHERE a.is_counted AND (a.date, a.is_counted) <> (b.date, b.is_counted) GROUP BY a.books_id';
  FOR lot IN EXECUTE '
    SELECT a.books_id, array_agg(a.id) AS ids
    FROM after a JOIN before b ON b.books_id = a.books_id AND b.id = a.id
    WHERE (a.date, a.is_void) <> (b.date, b.is_void) GROUP BY a.books_id'
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
-- The planner looks anew only at tables of which so many changed rows make another share of the books of app.books_id
-- than it expects, and never waits for whoever looks at one already: what it looked at stays locked against others who
-- want to until the transaction ends.
CREATE OR REPLACE FUNCTION refresh_statistics(tables text[], changed bigint) RETURNS void LANGUAGE plpgsql SECURITY DEFINER
SET search_path = public, pg_temp AS $$
DECLARE
  one text;
BEGIN
  FOR one IN
    SELECT c.relname FROM pg_class c
    LEFT JOIN pg_stats s ON s.schemaname = 'public' AND s.tablename = c.relname AND s.attname = 'books_id'
    LEFT JOIN LATERAL (
      SELECT max(often.share) FILTER (WHERE often.books = current_setting('app.books_id', true)) AS own,
        sum(often.share) AS of_often, count(*) AS often
      FROM unnest(s.most_common_vals::text::text[], s.most_common_freqs) AS often (books, share)) m ON true
    WHERE c.relnamespace = 'public'::regnamespace AND c.relkind = 'r' AND c.relname = ANY (tables)
      AND 5 * changed > c.reltuples * coalesce(m.own, (1 - coalesce(m.of_often, 0)) / greatest(1,
        CASE WHEN s.n_distinct < 0 THEN -s.n_distinct * c.reltuples ELSE s.n_distinct END - m.often))
  LOOP
    EXECUTE format('ANALYZE (SKIP_LOCKED) %I', one);
  END LOOP;
END $$;
--> statement-breakpoint
DELETE FROM proposals p WHERE NOT EXISTS (
  SELECT FROM open_lines o WHERE o.books_id = p.books_id AND o.line_id = p.line_id);

ALTER TABLE "books" ADD COLUMN "uses_other_books" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "memberships" ADD COLUMN "sees_other_books" boolean DEFAULT false NOT NULL;--> statement-breakpoint
-- The books whose habits may be asked in those of app.books_id: both take part, each owner of these owns the
-- others too, and whoever else sees proposals here was allowed to see what comes of it.
CREATE FUNCTION other_books() RETURNS TABLE (id uuid, place bigint, last_step bigint)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT other.id, row_number() OVER (ORDER BY other.id), other.last_step
  FROM books own
  JOIN books other ON other.id <> own.id AND other.uses_other_books
  WHERE own.id = nullif(current_setting('app.books_id', true), '')::uuid
    AND own.uses_other_books
    AND EXISTS (SELECT FROM memberships m WHERE m.books_id = own.id AND m.role = 'owner')
    AND NOT EXISTS (
      SELECT FROM memberships m
      WHERE m.books_id = own.id AND m.role IN ('bookkeeper', 'reviewer') AND NOT m.sees_other_books)
    AND NOT EXISTS (
      SELECT FROM memberships m
      WHERE m.books_id = own.id AND m.role = 'owner' AND NOT EXISTS (
        SELECT FROM memberships t
        WHERE t.books_id = other.id AND t.user_id = m.user_id AND t.role = 'owner'))
$$;
--> statement-breakpoint
-- Tells which they are, and after a space whether anything changed in them.
CREATE FUNCTION other_books_version() RETURNS text
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT coalesce(
    md5(string_agg(o.id::text, ',' ORDER BY o.id)) || ' ' ||
    md5(string_agg(o.last_step::text, ',' ORDER BY o.id)), '')
  FROM other_books() o
$$;
--> statement-breakpoint
-- What they did, by payee and what lines have in common: no line, no amount, no date and no name of theirs.
CREATE FUNCTION habits_of_other_books() RETURNS TABLE (
  book integer, payee text, wording text, is_out boolean,
  account_key text, account_name text, account_purpose text, account_type text, times integer)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT o.place::integer, y.name, l.stem, l.amount < 0, md5(a.id::text), a.name, a.purpose, a.type,
    count(*)::integer
  FROM other_books() o
  JOIN lines l ON l.books_id = o.id AND l.is_here
  JOIN decision_lines dl ON dl.books_id = l.books_id AND dl.line_id = l.id AND dl.is_live
  JOIN decisions d ON d.books_id = dl.books_id AND d.id = dl.decision_id
    AND d.kind = 'posted' AND NOT d.is_once AND jsonb_array_length(d.coding -> 'parts') = 1
  JOIN accounts a ON a.books_id = d.books_id AND a.is_here
    AND a.id = (d.coding -> 'parts' -> 0 ->> 'accountId')::uuid
    AND coalesce(a.role, '') NOT IN ('suspense', 'receivables', 'payables')
  LEFT JOIN payees y ON y.books_id = d.books_id AND y.id = (d.coding ->> 'payeeId')::uuid
  GROUP BY 1, 2, 3, 4, 5, 6, 7, 8
$$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION other_books(), other_books_version(), habits_of_other_books() FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION other_books_version(), habits_of_other_books() TO zubrell_app;

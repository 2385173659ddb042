-- Which decision a line has is read for thousands of lines at once: the index says it without the table.
DROP INDEX decision_lines_live;--> statement-breakpoint
CREATE UNIQUE INDEX decision_lines_live ON decision_lines (books_id, line_id) INCLUDE (decision_id)
  WHERE is_live;--> statement-breakpoint
-- What open lines say stands beside the rest that the Desk counts by, so that a search reads no lines.
ALTER TABLE "open_lines" ADD COLUMN "said" text;--> statement-breakpoint
UPDATE open_lines o SET said = said(l.description, l.reference, l.payee)
  FROM lines l WHERE l.books_id = o.books_id AND l.id = o.line_id;--> statement-breakpoint
ALTER TABLE "open_lines" ALTER COLUMN "said" SET NOT NULL;--> statement-breakpoint
CREATE OR REPLACE VIEW lines_that_are_open AS
  SELECT l.books_id, l.id AS line_id, l.bank_account_id, l.date, l.amount, l.stem, l.asked, l.held,
    l.twice_of IS NOT NULL AND EXISTS (
      SELECT FROM lines original
      WHERE original.books_id = l.books_id AND original.id = l.twice_of AND original.is_here) AS is_twice,
    p.lane AS proposed, p.digest, p.account_id, p.proposal #>> '{coding,payeeId}' AS payee_id,
    coalesce(p.proposal ->> 'kind' = 'pair', false) AS is_pair,
    jsonb_path_query_first(p.proposal, '$.doubts[*] ? (@.kind == "equalLines")') AS equal_lines,
    said(l.description, l.reference, l.payee) AS said
  FROM lines l
  LEFT JOIN proposals p ON p.books_id = l.books_id AND p.line_id = l.id
  WHERE l.is_here AND NOT EXISTS (
    SELECT FROM decision_lines d WHERE d.books_id = l.books_id AND d.line_id = l.id AND d.is_live);
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
      proposed, digest, account_id, payee_id, is_pair, equal_lines, said)
    SELECT * FROM wanted
    ON CONFLICT (books_id, line_id) DO UPDATE SET bank_account_id = excluded.bank_account_id, date = excluded.date,
      amount = excluded.amount, stem = excluded.stem, asked = excluded.asked,
      held = excluded.held, is_twice = excluded.is_twice, proposed = excluded.proposed, digest = excluded.digest,
      account_id = excluded.account_id, payee_id = excluded.payee_id, is_pair = excluded.is_pair,
      equal_lines = excluded.equal_lines, said = excluded.said'
  USING the_books, ids;
END $$;
--> statement-breakpoint
-- Lines come in open and without a proposal.
CREATE OR REPLACE FUNCTION lines_came() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  INSERT INTO open_lines (books_id, line_id, bank_account_id, date, amount, stem, asked, held, is_twice, is_pair, said)
  SELECT l.books_id, l.id, l.bank_account_id, l.date, l.amount, l.stem, l.asked, l.held,
    l.twice_of IS NOT NULL AND EXISTS (
      SELECT FROM lines original
      WHERE original.books_id = l.books_id AND original.id = l.twice_of AND original.is_here), false,
    said(l.description, l.reference, l.payee)
  FROM added l WHERE l.is_here;
  RETURN NULL;
END $$;

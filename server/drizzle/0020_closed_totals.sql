CREATE TABLE "closed_totals" (
	"books_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"month" date NOT NULL,
	"account_id" uuid NOT NULL,
	"is_tax" boolean NOT NULL,
	"tax_code_id" uuid,
	"tax_side" text,
	"amount" bigint NOT NULL,
	"own" bigint NOT NULL,
	"taxable" bigint NOT NULL,
	CONSTRAINT "closed_totals_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
ALTER TABLE "books" ADD COLUMN "summed_to" date;--> statement-breakpoint
ALTER TABLE "tax_returns" ADD COLUMN "counted" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "closed_totals" ADD CONSTRAINT "closed_totals_books_id_account_id_accounts_books_id_id_fk" FOREIGN KEY ("books_id","account_id") REFERENCES "public"."accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "closed_totals_month" ON "closed_totals" USING btree ("books_id","month");--> statement-breakpoint
ALTER TABLE closed_totals ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY own_books ON closed_totals
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
GRANT SELECT, INSERT, DELETE ON closed_totals TO zubrell_app;--> statement-breakpoint
UPDATE tax_returns r SET counted = (
  SELECT coalesce(sum(p.sign * g.amount), 0)::bigint FROM tax_return_parts p
  JOIN legs g ON g.books_id = p.books_id AND g.id = p.leg_id AND g.role = 'tax'
  WHERE p.books_id = r.books_id AND p.return_id = r.id);--> statement-breakpoint
-- What moved in the months of books that are wholly closed and not summed yet.
CREATE FUNCTION sum_closed_months(the_books uuid) RETURNS void LANGUAGE plpgsql AS $$
DECLARE
  closed date;
  open_from date;
  summed date;
BEGIN
  SELECT lock_date INTO closed FROM books WHERE id = the_books;
  open_from := CASE WHEN closed IS NULL THEN NULL ELSE date_trunc('month', closed + 1)::date END;
  SELECT summed_to INTO summed FROM books WHERE id = the_books;
  UPDATE books SET summed_to = open_from WHERE id = the_books;
  DELETE FROM closed_totals WHERE books_id = the_books AND (open_from IS NULL OR month >= open_from);
  IF open_from IS NULL THEN
    RETURN;
  END IF;
  INSERT INTO closed_totals (books_id, month, account_id, is_tax, tax_code_id, tax_side, amount, own, taxable)
  SELECT the_books, date_trunc('month', m.date)::date, g.account_id, g.role = 'tax', g.tax_code_id, g.tax_side,
    sum(m.sign * g.amount), sum(m.sign * g.own), coalesce(sum(m.sign * g.taxable), 0)
  FROM (
    SELECT e.id, e.date, 1 AS sign FROM entries e
    WHERE e.books_id = the_books AND e.is_counted
    UNION ALL
    SELECT t.entry_id, t.date, t.sign FROM late_turns t WHERE t.books_id = the_books) m
  JOIN legs g ON g.books_id = the_books AND g.entry_id = m.id
  WHERE m.date < open_from AND (summed IS NULL OR m.date >= summed)
  GROUP BY 2, 3, 4, 5, 6;
END $$;
--> statement-breakpoint
CREATE FUNCTION keep_closed_totals() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM sum_closed_months(NEW.id);
  RETURN NULL;
END $$;
--> statement-breakpoint
-- At the end of the transaction: what counts on which day stands only then.
CREATE CONSTRAINT TRIGGER books_closed_totals AFTER UPDATE ON books
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW
  WHEN (OLD.lock_date IS DISTINCT FROM NEW.lock_date) EXECUTE FUNCTION keep_closed_totals();--> statement-breakpoint
SELECT sum_closed_months(id) FROM books WHERE lock_date IS NOT NULL;

CREATE TABLE "exchange_rates" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"currency" text NOT NULL,
	"date" date NOT NULL,
	"rate" numeric(21, 12) NOT NULL,
	"is_here" boolean DEFAULT true NOT NULL,
	CONSTRAINT "exchange_rates_books_id_id_pk" PRIMARY KEY("books_id","id"),
	CONSTRAINT "exchange_rates_above_zero" CHECK ("exchange_rates"."rate" > 0)
);
--> statement-breakpoint
DROP INDEX "legs_bank_amount";--> statement-breakpoint
ALTER TABLE "bank_accounts" ADD COLUMN "currency" text;--> statement-breakpoint
ALTER TABLE "allocations" ADD COLUMN "worth" bigint;--> statement-breakpoint
ALTER TABLE "documents" ADD COLUMN "exchange" jsonb;--> statement-breakpoint
ALTER TABLE "documents" ADD COLUMN "worth" bigint;--> statement-breakpoint
ALTER TABLE "entries" ADD COLUMN "exchange" jsonb;--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "original" bigint;--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "own" bigint GENERATED ALWAYS AS (coalesce(original, amount)) STORED NOT NULL;--> statement-breakpoint
ALTER TABLE "exchange_rates" ADD CONSTRAINT "exchange_rates_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "exchange_rates_day" ON "exchange_rates" USING btree ("books_id","currency","date") WHERE "exchange_rates"."is_here";--> statement-breakpoint
CREATE INDEX "legs_bank_amount" ON "legs" USING btree ("books_id","own") WHERE "legs"."role" = 'bank';--> statement-breakpoint
ALTER TABLE documents ADD CONSTRAINT documents_worth CHECK ((exchange IS NULL) = (worth IS NULL));--> statement-breakpoint
ALTER TABLE exchange_rates ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY own_books ON exchange_rates
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE ON exchange_rates TO zubrell_app;--> statement-breakpoint
GRANT UPDATE (exchange, worth) ON documents TO zubrell_app;--> statement-breakpoint
-- Lines and the bank legs they are paired with come to the same in the currency of the bank account.
CREATE OR REPLACE FUNCTION check_pairing() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  bank numeric;
  books numeric;
BEGIN
  IF NOT EXISTS (
    SELECT FROM decisions WHERE books_id = NEW.books_id AND id = NEW.decision_id AND kind = 'paired'
  ) THEN
    RETURN NULL;
  END IF;
  SELECT coalesce(sum(l.amount), 0) INTO bank
  FROM decision_lines x JOIN lines l ON l.books_id = x.books_id AND l.id = x.line_id
  WHERE x.books_id = NEW.books_id AND x.decision_id = NEW.decision_id AND x.is_live;
  SELECT coalesce(sum(g.own), 0) INTO books
  FROM decision_legs x
  JOIN legs g ON g.books_id = x.books_id AND g.id = x.leg_id AND g.role = 'bank'
  WHERE x.books_id = NEW.books_id AND x.decision_id = NEW.decision_id AND x.is_live;
  IF bank <> books OR EXISTS (
    SELECT FROM decision_legs x
    JOIN legs g ON g.books_id = x.books_id AND g.id = x.leg_id
    JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id
    WHERE x.books_id = NEW.books_id AND x.decision_id = NEW.decision_id AND x.is_live AND e.is_void
  ) THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'PAIR_UNBALANCED',
      DETAIL = json_build_object('decision', NEW.decision_id, 'bank', bank, 'books', books)::text;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
-- With what each leg is in the currency of its account.
CREATE OR REPLACE VIEW movements WITH (security_invoker = true) AS
  SELECT g.books_id, g.id AS leg_id, g.entry_id, coalesce(a.merged_into, g.account_id) AS account_id,
    g.position, g.amount, e.date, e.bank_date, e.step, 0::smallint AS turned, g.role, g.tax_code_id,
    g.tax_side, g.taxable, g.cost_centre_id, g.job_id, e.payee_id, g.own
  FROM legs g
  JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id
  JOIN accounts a ON a.books_id = g.books_id AND a.id = g.account_id
  WHERE e.is_counted
  UNION ALL
  SELECT g.books_id, g.id, g.entry_id, coalesce(a.merged_into, g.account_id), g.position,
    t.sign * g.amount, t.date, coalesce(e.bank_date, e.date), t.step, t.sign, g.role, g.tax_code_id,
    g.tax_side, t.sign * g.taxable, g.cost_centre_id, g.job_id, e.payee_id, t.sign * g.own
  FROM legs g
  JOIN late_turns t ON t.books_id = g.books_id AND t.entry_id = g.entry_id
  JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id
  JOIN accounts a ON a.books_id = g.books_id AND a.id = g.account_id;

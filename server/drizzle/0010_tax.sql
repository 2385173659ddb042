CREATE TABLE "tax_return_parts" (
	"books_id" uuid NOT NULL,
	"return_id" uuid NOT NULL,
	"leg_id" uuid NOT NULL,
	"sign" smallint NOT NULL,
	CONSTRAINT "tax_return_parts_books_id_return_id_leg_id_pk" PRIMARY KEY("books_id","return_id","leg_id"),
	CONSTRAINT "tax_return_parts_sign" CHECK ("tax_return_parts"."sign" in (1, -1))
);
--> statement-breakpoint
CREATE TABLE "tax_returns" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"kind" text NOT NULL,
	"from_date" date NOT NULL,
	"to_date" date NOT NULL,
	"figures" jsonb,
	"note" text,
	"entry_id" uuid,
	"filed_by" uuid NOT NULL,
	"filed_at" timestamp with time zone NOT NULL,
	"step" bigint NOT NULL,
	"is_here" boolean DEFAULT true NOT NULL,
	CONSTRAINT "tax_returns_books_id_id_pk" PRIMARY KEY("books_id","id"),
	CONSTRAINT "tax_returns_dates" CHECK ("tax_returns"."from_date" <= "tax_returns"."to_date")
);
--> statement-breakpoint
ALTER TABLE "tax_codes" DROP CONSTRAINT "tax_codes_name";--> statement-breakpoint
ALTER TABLE "accounts" ADD COLUMN "tax" text DEFAULT 'byType' NOT NULL;--> statement-breakpoint
ALTER TABLE "tax_codes" ADD COLUMN "use" text DEFAULT 'both' NOT NULL;--> statement-breakpoint
ALTER TABLE "tax_codes" ADD COLUMN "boxes" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "tax_codes" ADD COLUMN "is_here" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "tax_side" text;--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "taxable" bigint;--> statement-breakpoint
ALTER TABLE "tax_return_parts" ADD CONSTRAINT "tax_return_parts_books_id_return_id_tax_returns_books_id_id_fk" FOREIGN KEY ("books_id","return_id") REFERENCES "public"."tax_returns"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tax_return_parts" ADD CONSTRAINT "tax_return_parts_books_id_leg_id_legs_books_id_id_fk" FOREIGN KEY ("books_id","leg_id") REFERENCES "public"."legs"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tax_returns" ADD CONSTRAINT "tax_returns_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tax_returns" ADD CONSTRAINT "tax_returns_books_id_entry_id_entries_books_id_id_fk" FOREIGN KEY ("books_id","entry_id") REFERENCES "public"."entries"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "tax_return_parts_leg" ON "tax_return_parts" USING btree ("books_id","leg_id");--> statement-breakpoint
CREATE INDEX "tax_returns_period" ON "tax_returns" USING btree ("books_id","to_date");--> statement-breakpoint
CREATE UNIQUE INDEX "tax_codes_name" ON "tax_codes" USING btree ("books_id","name") WHERE "tax_codes"."is_here";--> statement-breakpoint
CREATE INDEX "legs_taxed" ON "legs" USING btree ("books_id") WHERE "legs"."tax_side" is not null;--> statement-breakpoint
UPDATE legs g SET tax_side = CASE
    WHEN g.role = 'tax' THEN CASE WHEN g.account_id = t.input_account_id THEN 'input' ELSE 'output' END
    WHEN a.type = 'income' THEN 'output' ELSE 'input' END,
  taxable = CASE WHEN g.role = 'base' THEN g.amount END
FROM tax_codes t, accounts a
WHERE t.books_id = g.books_id AND t.id = g.tax_code_id AND a.books_id = g.books_id AND a.id = g.account_id
  AND t.kind <> 'outside' AND g.role IN ('base', 'tax');--> statement-breakpoint
UPDATE tax_codes SET boxes = CASE WHEN kind = 'outside'
  THEN '{"outputNet": null, "outputTax": null, "inputNet": null, "inputTax": null}'::jsonb
  ELSE jsonb_build_object(
    'outputNet', CASE WHEN kind = 'exempt' THEN 'C Exempt sales' ELSE 'A Sales without tax' END,
    'outputTax', CASE WHEN kind = 'reverseCharge' THEN 'E Tax owed on reverse charge' ELSE 'B Tax on sales' END,
    'inputNet', CASE WHEN kind = 'reverseCharge' THEN 'D Purchases under reverse charge' ELSE 'F Purchases without tax' END,
    'inputTax', 'G Input tax') END;--> statement-breakpoint
UPDATE accounts SET tax = 'never' WHERE code = '6100' AND NOT EXISTS (
  SELECT FROM legs g WHERE g.books_id = accounts.books_id AND g.account_id = accounts.id AND g.tax_side IS NOT NULL);--> statement-breakpoint
-- Tax that was said to be reported up to a day stays so: what is dated up to then isn't reported from here.
INSERT INTO tax_returns (books_id, id, kind, from_date, to_date, filed_by, filed_at, step, figures)
SELECT k.id, gen_random_uuid(), 'elsewhere', k.tax_reported_to, k.tax_reported_to, m.user_id, now(), k.last_step,
  jsonb_build_object('rows', (
    SELECT coalesce(jsonb_agg(jsonb_build_object('taxCodeId', r.tax_code_id, 'side', r.tax_side, 'net', r.net,
      'tax', r.tax, 'count', r.count, 'late', jsonb_build_object('net', 0, 'tax', 0))), '[]')
    FROM (
      SELECT g.tax_code_id, g.tax_side, count(*) AS count,
        coalesce(sum(CASE WHEN g.tax_side = 'output' THEN -1 ELSE 1 END * v.amount) FILTER (WHERE g.role = 'base'), 0) AS net,
        coalesce(sum(CASE WHEN g.tax_side = 'output' THEN -1 ELSE 1 END * v.amount) FILTER (WHERE g.role = 'tax'), 0) AS tax
      FROM movements v JOIN legs g ON g.books_id = v.books_id AND g.id = v.leg_id AND g.tax_side IS NOT NULL
      WHERE v.books_id = k.id AND v.date <= k.tax_reported_to GROUP BY 1, 2) r), 'agreement', jsonb_build_object('balance', 0, 'earlier', 0, 'others', 0,
    'accounts', '[]'::jsonb, 'own', (
      SELECT coalesce(sum(v.amount), 0) FROM movements v
      JOIN legs g ON g.books_id = v.books_id AND g.id = v.leg_id AND g.role = 'tax'
      WHERE v.books_id = k.id AND v.date <= k.tax_reported_to)))
FROM books k
CROSS JOIN LATERAL (
  SELECT user_id FROM memberships WHERE books_id = k.id AND role = 'owner' ORDER BY user_id LIMIT 1) m
WHERE k.tax_reported_to IS NOT NULL;--> statement-breakpoint
INSERT INTO tax_return_parts (books_id, return_id, leg_id, sign)
SELECT r.books_id, r.id, v.leg_id, 1 FROM tax_returns r
JOIN movements v ON v.books_id = r.books_id AND v.date <= r.to_date
JOIN legs g ON g.books_id = v.books_id AND g.id = v.leg_id AND g.tax_side IS NOT NULL
GROUP BY 1, 2, 3 HAVING sum(CASE WHEN v.turned = 0 THEN 1 ELSE v.turned END) = 1;--> statement-breakpoint
ALTER TABLE "books" DROP COLUMN "tax_reported_to";--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_taxable" CHECK (("legs"."taxable" is not null) = ("legs"."tax_side" is not null and "legs"."role" = 'base'));--> statement-breakpoint
ALTER TABLE tax_returns ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE tax_return_parts ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY own_books ON tax_returns
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
CREATE POLICY own_books ON tax_return_parts
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE ON tax_returns TO zubrell_app;--> statement-breakpoint
GRANT SELECT, INSERT ON tax_return_parts TO zubrell_app;--> statement-breakpoint
GRANT DELETE ON tax_rates TO zubrell_app;

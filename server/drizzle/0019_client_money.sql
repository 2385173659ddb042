CREATE TABLE "client_shares" (
	"books_id" uuid NOT NULL,
	"leg_id" uuid NOT NULL,
	"client_id" uuid NOT NULL,
	"amount" bigint NOT NULL,
	CONSTRAINT "client_shares_books_id_leg_id_client_id_pk" PRIMARY KEY("books_id","leg_id","client_id")
);
--> statement-breakpoint
ALTER TABLE "attachments" DROP CONSTRAINT "attachments_of_one";--> statement-breakpoint
ALTER TABLE "payees" ADD COLUMN "account_id" uuid;--> statement-breakpoint
ALTER TABLE "payees" ADD COLUMN "capital_account_id" uuid;--> statement-breakpoint
ALTER TABLE "attachments" ADD COLUMN "entry_id" uuid;--> statement-breakpoint
ALTER TABLE "client_shares" ADD CONSTRAINT "client_shares_books_id_leg_id_legs_books_id_id_fk" FOREIGN KEY ("books_id","leg_id") REFERENCES "public"."legs"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "client_shares" ADD CONSTRAINT "client_shares_books_id_client_id_payees_books_id_id_fk" FOREIGN KEY ("books_id","client_id") REFERENCES "public"."payees"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "client_shares_client" ON "client_shares" USING btree ("books_id","client_id");--> statement-breakpoint
ALTER TABLE "payees" ADD CONSTRAINT "payees_books_id_account_id_accounts_books_id_id_fk" FOREIGN KEY ("books_id","account_id") REFERENCES "public"."accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "payees" ADD CONSTRAINT "payees_books_id_capital_account_id_accounts_books_id_id_fk" FOREIGN KEY ("books_id","capital_account_id") REFERENCES "public"."accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attachments" ADD CONSTRAINT "attachments_books_id_entry_id_entries_books_id_id_fk" FOREIGN KEY ("books_id","entry_id") REFERENCES "public"."entries"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "attachments_entry" ON "attachments" USING btree ("books_id","entry_id");--> statement-breakpoint
ALTER TABLE "attachments" ADD CONSTRAINT "attachments_of_one" CHECK (num_nonnulls("attachments"."line_id", "attachments"."document_id", "attachments"."entry_id") = 1);--> statement-breakpoint
ALTER TABLE client_shares ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY own_books ON client_shares
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
GRANT SELECT, INSERT ON client_shares TO zubrell_app;--> statement-breakpoint
-- Whose money moves on bank accounts that hold clients' money, as it counts.
CREATE VIEW client_movements WITH (security_invoker = true) AS
  SELECT m.books_id, m.leg_id, m.entry_id, m.account_id, m.date, m.bank_date, m.step, m.turned, m.payee_id,
    coalesce(p.merged_into, p.id) AS client_id,
    CASE WHEN m.turned = 0 THEN s.amount ELSE m.turned * s.amount END AS amount
  FROM client_shares s
  JOIN movements m ON m.books_id = s.books_id AND m.leg_id = s.leg_id
  JOIN payees p ON p.books_id = s.books_id AND p.id = s.client_id;--> statement-breakpoint
GRANT SELECT ON client_movements TO zubrell_app;--> statement-breakpoint
-- Clients' money: what a step posts says whose it is, to the cent, and nobody's is below zero at the end of any day.
-- What an opening balance leaves unsaid is nobody's yet.
CREATE FUNCTION check_client_money() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  wrong record;
BEGIN
  IF NOT EXISTS (SELECT FROM bank_accounts WHERE books_id = NEW.books_id AND kind = 'clientMoney') THEN
    RETURN NULL;
  END IF;
  SELECT b.name INTO wrong
  FROM entries e
  JOIN legs g ON g.books_id = e.books_id AND g.entry_id = e.id
  JOIN bank_accounts b ON b.books_id = g.books_id AND b.account_id = g.account_id AND b.kind = 'clientMoney'
  CROSS JOIN LATERAL (
    SELECT coalesce(sum(s.amount), 0) AS total FROM client_shares s
    WHERE s.books_id = g.books_id AND s.leg_id = g.id) shares
  WHERE e.books_id = NEW.books_id AND e.step = NEW.no AND shares.total <> g.own
    AND (e.kind <> 'opening' OR shares.total > g.own)
  LIMIT 1;
  IF FOUND THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'CLIENT_MISSING',
      DETAIL = json_build_object('account', wrong.name)::text;
  END IF;
  SELECT p.name AS client, a.code || ' ' || a.name AS account, d.date INTO wrong
  FROM (
    SELECT account_id, client_id, date,
      sum(sum(amount)) OVER (PARTITION BY account_id, client_id ORDER BY date) AS balance
    FROM client_movements WHERE books_id = NEW.books_id
    GROUP BY account_id, client_id, date) d
  JOIN payees p ON p.books_id = NEW.books_id AND p.id = d.client_id
  JOIN accounts a ON a.books_id = NEW.books_id AND a.id = d.account_id
  WHERE d.balance < 0
  ORDER BY d.date LIMIT 1;
  IF FOUND THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'CLIENT_BELOW_ZERO',
      DETAIL = json_build_object('client', wrong.client, 'account', wrong.account,
        'date', to_char(wrong.date, 'FMDD FMMonth YYYY'))::text;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER steps_client_money AFTER INSERT ON steps
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_client_money();

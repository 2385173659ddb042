-- A leg keeps the account it was posted to, and is shown in the one that this was merged into.
ALTER TABLE "legs" ADD COLUMN "shown_account_id" uuid;--> statement-breakpoint
DROP TRIGGER legs_balanced ON legs;--> statement-breakpoint
DROP TRIGGER legs_period ON legs;--> statement-breakpoint
CREATE CONSTRAINT TRIGGER legs_balanced AFTER INSERT OR UPDATE OF entry_id, amount, account_id ON legs
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_entry_balance();
--> statement-breakpoint
CREATE TRIGGER legs_period BEFORE INSERT OR UPDATE OF entry_id, amount, account_id ON legs
  FOR EACH ROW EXECUTE FUNCTION check_leg_period();
--> statement-breakpoint
UPDATE legs g SET shown_account_id = coalesce(a.merged_into, a.id)
FROM accounts a WHERE a.books_id = g.books_id AND a.id = g.account_id;--> statement-breakpoint
ALTER TABLE "legs" ALTER COLUMN "shown_account_id" SET NOT NULL;--> statement-breakpoint
CREATE INDEX "legs_shown" ON "legs" USING btree ("books_id","shown_account_id");--> statement-breakpoint
CREATE FUNCTION show_leg() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  NEW.shown_account_id := coalesce(
    (SELECT merged_into FROM accounts WHERE books_id = NEW.books_id AND id = NEW.account_id),
    NEW.account_id);
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER legs_shown BEFORE INSERT ON legs FOR EACH ROW EXECUTE FUNCTION show_leg();
--> statement-breakpoint
GRANT UPDATE (shown_account_id) ON legs TO zubrell_app;--> statement-breakpoint
CREATE OR REPLACE VIEW movements WITH (security_invoker = true) AS
  SELECT g.books_id, g.id AS leg_id, g.entry_id, g.shown_account_id AS account_id,
    g.position, g.amount, e.date, e.bank_date, e.step, 0::smallint AS turned, g.role, g.tax_code_id,
    g.tax_side, g.taxable, g.cost_centre_id, g.job_id, e.payee_id, g.own
  FROM legs g
  JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id
  WHERE e.is_counted
  UNION ALL
  SELECT g.books_id, g.id, g.entry_id, g.shown_account_id, g.position,
    t.sign * g.amount, t.date, coalesce(e.bank_date, e.date), t.step, t.sign, g.role, g.tax_code_id,
    g.tax_side, t.sign * g.taxable, g.cost_centre_id, g.job_id, e.payee_id, t.sign * g.own
  FROM legs g
  JOIN late_turns t ON t.books_id = g.books_id AND t.entry_id = g.entry_id
  JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id;

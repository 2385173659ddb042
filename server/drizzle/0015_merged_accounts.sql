ALTER TABLE "accounts" ADD COLUMN "merged_into" uuid;--> statement-breakpoint
ALTER TABLE "accounts" ADD CONSTRAINT "accounts_books_id_merged_into_accounts_books_id_id_fk" FOREIGN KEY ("books_id","merged_into") REFERENCES "public"."accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
-- What was posted to an account that was merged counts in the other, at every date.
CREATE OR REPLACE VIEW movements WITH (security_invoker = true) AS
  SELECT g.books_id, g.id AS leg_id, g.entry_id, coalesce(a.merged_into, g.account_id) AS account_id,
    g.position, g.amount, e.date, e.bank_date, e.step, 0::smallint AS turned, g.role, g.tax_code_id,
    g.tax_side, g.taxable, g.cost_centre_id, g.job_id, e.payee_id
  FROM legs g
  JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id
  JOIN accounts a ON a.books_id = g.books_id AND a.id = g.account_id
  WHERE e.is_counted
  UNION ALL
  SELECT g.books_id, g.id, g.entry_id, coalesce(a.merged_into, g.account_id), g.position,
    t.sign * g.amount, t.date, coalesce(e.bank_date, e.date), t.step, t.sign, g.role, g.tax_code_id,
    g.tax_side, t.sign * g.taxable, g.cost_centre_id, g.job_id, e.payee_id
  FROM legs g
  JOIN late_turns t ON t.books_id = g.books_id AND t.entry_id = g.entry_id
  JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id
  JOIN accounts a ON a.books_id = g.books_id AND a.id = g.account_id;

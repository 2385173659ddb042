-- With what reports group by, so that none of them joins legs and entries once more.
CREATE OR REPLACE VIEW movements WITH (security_invoker = true) AS
  SELECT g.books_id, g.id AS leg_id, g.entry_id, g.account_id, g.position, g.amount, e.date,
    e.bank_date, e.step, 0::smallint AS turned, g.role, g.tax_code_id, g.tax_side, g.taxable,
    g.cost_centre_id, g.job_id, e.payee_id
  FROM legs g JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id
  WHERE e.is_counted
  UNION ALL
  SELECT g.books_id, g.id, g.entry_id, g.account_id, g.position, t.sign * g.amount, t.date,
    coalesce(e.bank_date, e.date), t.step, t.sign, g.role, g.tax_code_id, g.tax_side, t.sign * g.taxable,
    g.cost_centre_id, g.job_id, e.payee_id
  FROM legs g
  JOIN late_turns t ON t.books_id = g.books_id AND t.entry_id = g.entry_id
  JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id;

-- Costs that invoices in force charge to customers, by the leg of the cost.
CREATE VIEW invoiced_costs WITH (security_invoker = true) AS
  SELECT d.books_id, (line ->> 'rechargedLegId')::uuid AS leg_id, d.id AS document_id, d.number
  FROM documents d
  JOIN entries e ON e.books_id = d.books_id AND e.id = d.entry_id AND NOT e.is_void
  CROSS JOIN LATERAL jsonb_array_elements(d.lines) line
  WHERE d.kind = 'invoice' AND d.side = 'receivables' AND line ->> 'rechargedLegId' IS NOT NULL;--> statement-breakpoint
GRANT SELECT ON invoiced_costs TO zubrell_app;--> statement-breakpoint
-- A cost stays in force as long as an invoice charges it, and comes back onto one invoice only.
CREATE FUNCTION check_recharges() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  the_number text;
BEGIN
  IF (SELECT is_void FROM entries WHERE books_id = NEW.books_id AND id = NEW.id) THEN
    SELECT i.number INTO the_number FROM legs g
    JOIN invoiced_costs i ON i.books_id = g.books_id AND i.leg_id = g.id
    WHERE g.books_id = NEW.books_id AND g.entry_id = NEW.id AND g.is_recharged LIMIT 1;
    IF FOUND THEN
      RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'RECHARGE_INVOICED',
        DETAIL = json_build_object('number', the_number)::text;
    END IF;
  ELSIF EXISTS (
    SELECT FROM documents d
    JOIN invoiced_costs i ON i.books_id = d.books_id AND i.document_id = d.id
    JOIN legs g ON g.books_id = i.books_id AND g.id = i.leg_id
    JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id
    WHERE d.books_id = NEW.books_id AND d.entry_id = NEW.id AND (e.is_void OR EXISTS (
      SELECT FROM invoiced_costs o
      WHERE o.books_id = i.books_id AND o.leg_id = i.leg_id AND o.document_id <> d.id))) THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'RECHARGE_TAKEN', DETAIL = '{}';
  END IF;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE CONSTRAINT TRIGGER entries_recharged AFTER UPDATE OF is_void ON entries
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_recharges();

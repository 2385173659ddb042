CREATE TABLE "open_documents" (
	"books_id" uuid NOT NULL,
	"document_id" uuid NOT NULL,
	"amount" bigint NOT NULL,
	"worth" bigint NOT NULL,
	CONSTRAINT "open_documents_books_id_document_id_pk" PRIMARY KEY("books_id","document_id")
);
--> statement-breakpoint
DROP INDEX "lines_stem";--> statement-breakpoint
CREATE INDEX "lines_stem" ON "lines" USING btree ("books_id","stem","date");--> statement-breakpoint
CREATE VIEW documents_that_are_open AS
  SELECT d.books_id, d.id AS document_id, (d.amount - coalesce(s.amount, 0))::bigint AS amount,
    (coalesce(d.worth, d.amount) - coalesce(s.worth, 0))::bigint AS worth
  FROM documents d
  LEFT JOIN LATERAL (
    SELECT sum(a.amount) AS amount, sum(coalesce(a.worth, a.amount)) AS worth FROM allocations a
    WHERE a.books_id = d.books_id AND a.document_id = d.id AND a.is_live) s ON true
  WHERE d.amount <> coalesce(s.amount, 0) OR coalesce(d.worth, d.amount) <> coalesce(s.worth, 0);
--> statement-breakpoint
CREATE FUNCTION renew_open_documents(the_books uuid, ids uuid[]) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  WITH wanted AS MATERIALIZED (
    SELECT o.* FROM documents_that_are_open o WHERE o.books_id = the_books AND o.document_id = ANY (ids)),
  gone AS (
    DELETE FROM open_documents o WHERE o.books_id = the_books AND o.document_id = ANY (ids)
      AND NOT EXISTS (SELECT FROM wanted w WHERE w.document_id = o.document_id))
  INSERT INTO open_documents (books_id, document_id, amount, worth)
  SELECT books_id, document_id, amount, worth FROM wanted
  ON CONFLICT (books_id, document_id) DO UPDATE SET amount = excluded.amount, worth = excluded.worth;
$$;
--> statement-breakpoint
REVOKE EXECUTE ON FUNCTION renew_open_documents(uuid, uuid[]) FROM public;--> statement-breakpoint
CREATE FUNCTION documents_came() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM renew_open_documents(books_id, array_agg(DISTINCT id)) FROM added GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION documents_went() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM renew_open_documents(books_id, array_agg(DISTINCT id)) FROM gone GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION allocations_came() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM renew_open_documents(books_id, array_agg(DISTINCT document_id)) FROM added GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION allocations_went() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM renew_open_documents(books_id, array_agg(DISTINCT document_id)) FROM gone GROUP BY books_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER open_documents_come AFTER INSERT ON documents
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION documents_came();--> statement-breakpoint
CREATE TRIGGER open_documents_change AFTER UPDATE ON documents
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION documents_came();--> statement-breakpoint
CREATE TRIGGER open_documents_go AFTER DELETE ON documents
  REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION documents_went();--> statement-breakpoint
CREATE TRIGGER open_allocations_come AFTER INSERT ON allocations
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION allocations_came();--> statement-breakpoint
CREATE TRIGGER open_allocations_change AFTER UPDATE ON allocations
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION allocations_came();--> statement-breakpoint
CREATE TRIGGER open_allocations_go AFTER DELETE ON allocations
  REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION allocations_went();--> statement-breakpoint
ALTER TABLE open_documents ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY own_books ON open_documents
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
GRANT SELECT ON open_documents TO zubrell_app;--> statement-breakpoint
INSERT INTO open_documents SELECT * FROM documents_that_are_open;

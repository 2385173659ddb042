CREATE TABLE "allocations" (
	"books_id" uuid NOT NULL,
	"decision_id" uuid NOT NULL,
	"document_id" uuid NOT NULL,
	"amount" bigint NOT NULL,
	"is_live" boolean DEFAULT true NOT NULL,
	CONSTRAINT "allocations_books_id_decision_id_document_id_pk" PRIMARY KEY("books_id","decision_id","document_id")
);
--> statement-breakpoint
CREATE TABLE "documents" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"kind" text NOT NULL,
	"side" text NOT NULL,
	"number" text,
	"payee_id" uuid NOT NULL,
	"date" date NOT NULL,
	"due_date" date,
	"amount" bigint NOT NULL,
	"lines" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"note" text,
	"entry_id" uuid NOT NULL,
	"step" bigint NOT NULL,
	"last_step" bigint NOT NULL,
	CONSTRAINT "documents_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
ALTER TABLE "decisions" ADD COLUMN "difference" jsonb;--> statement-breakpoint
ALTER TABLE "entries" ADD COLUMN "number" text;--> statement-breakpoint
ALTER TABLE "entries" ADD COLUMN "content" jsonb;--> statement-breakpoint
ALTER TABLE "entries" ADD COLUMN "replaces" uuid;--> statement-breakpoint
ALTER TABLE "allocations" ADD CONSTRAINT "allocations_books_id_decision_id_decisions_books_id_id_fk" FOREIGN KEY ("books_id","decision_id") REFERENCES "public"."decisions"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "allocations" ADD CONSTRAINT "allocations_books_id_document_id_documents_books_id_id_fk" FOREIGN KEY ("books_id","document_id") REFERENCES "public"."documents"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "documents" ADD CONSTRAINT "documents_books_id_entry_id_entries_books_id_id_fk" FOREIGN KEY ("books_id","entry_id") REFERENCES "public"."entries"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "documents" ADD CONSTRAINT "documents_books_id_payee_id_payees_books_id_id_fk" FOREIGN KEY ("books_id","payee_id") REFERENCES "public"."payees"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "allocations_document" ON "allocations" USING btree ("books_id","document_id");--> statement-breakpoint
CREATE INDEX "documents_entry" ON "documents" USING btree ("books_id","entry_id");--> statement-breakpoint
CREATE INDEX "documents_payee" ON "documents" USING btree ("books_id","payee_id");--> statement-breakpoint
DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['documents', 'allocations'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format(
      'CREATE POLICY own_books ON %I
         USING (books_id = nullif(current_setting(''app.books_id'', true), '''')::uuid)
         WITH CHECK (books_id = nullif(current_setting(''app.books_id'', true), '''')::uuid)',
      name);
  END LOOP;
END $$;
--> statement-breakpoint
GRANT SELECT, INSERT ON documents, allocations TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (kind, side, number, payee_id, date, due_date, amount, lines, note, entry_id, last_step)
  ON documents TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (is_live) ON allocations TO zubrell_app;
--> statement-breakpoint
-- Books made before have their accounts for this by the codes they were made with.
UPDATE accounts SET role = 'receivables' WHERE code = '1200' AND role IS NULL AND type = 'asset';
--> statement-breakpoint
UPDATE accounts SET role = 'payables' WHERE code = '2000' AND role IS NULL AND type = 'liability';
--> statement-breakpoint

-- A document is settled by no more than it comes to, and not while it is void.
CREATE FUNCTION check_allocation() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  the_document uuid;
  due bigint;
  settled numeric;
  voided boolean;
BEGIN
  IF TG_TABLE_NAME = 'documents' THEN the_document := NEW.id; ELSE the_document := NEW.document_id; END IF;
  SELECT d.amount, e.is_void, (
      SELECT coalesce(sum(a.amount), 0) FROM allocations a
      WHERE a.books_id = d.books_id AND a.document_id = d.id AND a.is_live)
    INTO due, voided, settled
  FROM documents d JOIN entries e ON e.books_id = d.books_id AND e.id = d.entry_id
  WHERE d.books_id = NEW.books_id AND d.id = the_document;
  IF settled <> 0 AND (voided OR sign(settled) <> sign(due) OR abs(settled) > abs(due)) THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'DOCUMENT_OVERPAID',
      DETAIL = json_build_object('document', the_document)::text;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER allocations_within AFTER INSERT OR UPDATE ON allocations
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_allocation();
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER documents_within AFTER UPDATE ON documents
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_allocation();
--> statement-breakpoint

-- What is tied to a line stays in force, and what a document is settled by too.
CREATE FUNCTION check_void() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF (SELECT is_void FROM entries WHERE books_id = NEW.books_id AND id = NEW.id) AND (
    EXISTS (
      SELECT FROM legs g JOIN decision_legs x ON x.books_id = g.books_id AND x.leg_id = g.id
      WHERE g.books_id = NEW.books_id AND g.entry_id = NEW.id AND x.is_live)
    OR EXISTS (
      SELECT FROM documents d
      JOIN allocations a ON a.books_id = d.books_id AND a.document_id = d.id AND a.is_live
      WHERE d.books_id = NEW.books_id AND d.entry_id = NEW.id)) THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'ENTRY_PAIRED',
      DETAIL = json_build_object('entry', NEW.id)::text;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER entries_void AFTER UPDATE ON entries
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW WHEN (NEW.is_void) EXECUTE FUNCTION check_void();
--> statement-breakpoint

-- What is paired comes to the same on both sides: lines on one, bank legs on the other.
CREATE FUNCTION check_pairing() RETURNS trigger LANGUAGE plpgsql AS $$
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
  SELECT coalesce(sum(g.amount), 0) INTO books
  FROM decision_legs x JOIN legs g ON g.books_id = x.books_id AND g.id = x.leg_id
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
CREATE CONSTRAINT TRIGGER decision_lines_paired AFTER INSERT OR UPDATE ON decision_lines
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_pairing();
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER decision_legs_paired AFTER INSERT OR UPDATE ON decision_legs
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_pairing();

CREATE TABLE "step_needs" (
	"books_id" uuid NOT NULL,
	"step_no" bigint NOT NULL,
	"thing" text NOT NULL,
	"thing_id" uuid NOT NULL,
	CONSTRAINT "step_needs_books_id_step_no_thing_thing_id_pk" PRIMARY KEY("books_id","step_no","thing","thing_id")
);
--> statement-breakpoint
ALTER TABLE "accounts" DROP CONSTRAINT "accounts_code";--> statement-breakpoint
ALTER TABLE "bank_accounts" DROP CONSTRAINT "bank_accounts_account";--> statement-breakpoint
ALTER TABLE "bank_accounts" DROP CONSTRAINT "bank_accounts_number";--> statement-breakpoint
ALTER TABLE "cost_objects" DROP CONSTRAINT "cost_objects_name";--> statement-breakpoint
ALTER TABLE "payees" DROP CONSTRAINT "payees_name";--> statement-breakpoint
ALTER TABLE "accounts" ADD COLUMN "is_here" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "bank_accounts" ADD COLUMN "is_here" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "cost_objects" ADD COLUMN "name_key" text;--> statement-breakpoint
UPDATE cost_objects SET name_key = lower(btrim(name));--> statement-breakpoint
ALTER TABLE "cost_objects" ALTER COLUMN "name_key" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "cost_objects" ADD COLUMN "is_here" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "payees" ADD COLUMN "name_key" text;--> statement-breakpoint
UPDATE payees SET name_key = lower(btrim(name));--> statement-breakpoint
ALTER TABLE "payees" ALTER COLUMN "name_key" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "payees" ADD COLUMN "is_here" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "decisions" ADD COLUMN "copy_of" uuid;--> statement-breakpoint
ALTER TABLE "documents" ADD COLUMN "number_key" text;--> statement-breakpoint
UPDATE documents SET number_key = lower(btrim(number));--> statement-breakpoint
ALTER TABLE "lines" ADD COLUMN "is_own" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "lines" ADD COLUMN "moved_from" uuid;--> statement-breakpoint
-- What is here without a kept batch is here by itself.
UPDATE lines l SET is_own = true WHERE is_here AND NOT EXISTS (
  SELECT FROM sightings g JOIN batches b ON b.books_id = g.books_id AND b.id = g.batch_id AND b.status = 'kept'
  WHERE g.books_id = l.books_id AND g.line_id = l.id);--> statement-breakpoint
ALTER TABLE "step_needs" ADD CONSTRAINT "step_needs_books_id_step_no_steps_books_id_no_fk" FOREIGN KEY ("books_id","step_no") REFERENCES "public"."steps"("books_id","no") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "step_needs_thing" ON "step_needs" USING btree ("books_id","thing_id");--> statement-breakpoint
ALTER TABLE "decisions" ADD CONSTRAINT "decisions_books_id_copy_of_lines_books_id_id_fk" FOREIGN KEY ("books_id","copy_of") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "accounts_code" ON "accounts" USING btree ("books_id","code") WHERE "accounts"."is_here";--> statement-breakpoint
CREATE UNIQUE INDEX "accounts_role" ON "accounts" USING btree ("books_id","role") WHERE "accounts"."is_here" and "accounts"."role" is not null;--> statement-breakpoint
CREATE UNIQUE INDEX "bank_accounts_account" ON "bank_accounts" USING btree ("books_id","account_id") WHERE "bank_accounts"."is_here";--> statement-breakpoint
CREATE UNIQUE INDEX "bank_accounts_number" ON "bank_accounts" USING btree ("books_id","number") WHERE "bank_accounts"."is_here";--> statement-breakpoint
CREATE UNIQUE INDEX "cost_objects_name" ON "cost_objects" USING btree ("books_id","kind","name_key") WHERE "cost_objects"."is_here";--> statement-breakpoint
CREATE UNIQUE INDEX "payees_name" ON "payees" USING btree ("books_id","name_key") WHERE "payees"."is_here";--> statement-breakpoint
CREATE INDEX "decisions_copy" ON "decisions" USING btree ("books_id","copy_of") WHERE "decisions"."copy_of" is not null;--> statement-breakpoint
CREATE INDEX "decisions_step" ON "decisions" USING btree ("books_id","step");--> statement-breakpoint
CREATE INDEX "entries_step" ON "entries" USING btree ("books_id","step");--> statement-breakpoint
-- What steps were tied to, they need.
INSERT INTO step_needs (books_id, step_no, thing, thing_id)
SELECT DISTINCT i.books_id, i.step_no, CASE
    WHEN i.thing = 'asked' THEN 'lineHere'
    WHEN EXISTS (SELECT FROM documents d WHERE d.books_id = i.books_id AND d.id = i.thing_id) THEN 'document'
    ELSE 'entry' END, i.thing_id
FROM step_items i WHERE i.thing IN ('tied', 'asked');
--> statement-breakpoint
DELETE FROM step_items WHERE thing IN ('tied', 'asked');
--> statement-breakpoint
ALTER TABLE step_needs ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_books ON step_needs
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);
--> statement-breakpoint
GRANT SELECT, INSERT ON step_needs TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (is_own) ON lines TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (number_key) ON documents TO zubrell_app;

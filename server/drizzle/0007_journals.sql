CREATE TABLE "journal_plans" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"name" text NOT NULL,
	"payee_id" uuid,
	"note" text,
	"legs" jsonb NOT NULL,
	"rhythm" text NOT NULL,
	"start_date" date NOT NULL,
	"end_date" date,
	"is_reversing" boolean NOT NULL,
	"skipped" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"is_here" boolean DEFAULT true NOT NULL,
	CONSTRAINT "journal_plans_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
ALTER TABLE "entries" ADD COLUMN "reverses" uuid;--> statement-breakpoint
ALTER TABLE "entries" ADD COLUMN "plan_id" uuid;--> statement-breakpoint
ALTER TABLE "entries" ADD COLUMN "plan_date" date;--> statement-breakpoint
ALTER TABLE "journal_plans" ADD CONSTRAINT "journal_plans_books_id_payee_id_payees_books_id_id_fk" FOREIGN KEY ("books_id","payee_id") REFERENCES "public"."payees"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "entries" ADD CONSTRAINT "entries_reverses" FOREIGN KEY ("books_id","reverses") REFERENCES "public"."entries"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "entries" ADD CONSTRAINT "entries_books_id_plan_id_journal_plans_books_id_id_fk" FOREIGN KEY ("books_id","plan_id") REFERENCES "public"."journal_plans"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "entries_one_reversal" ON "entries" USING btree ("books_id","reverses") WHERE not "entries"."is_void" and "entries"."reverses" is not null;--> statement-breakpoint
CREATE UNIQUE INDEX "entries_one_of_plan" ON "entries" USING btree ("books_id","plan_id","plan_date") WHERE not "entries"."is_void" and "entries"."plan_id" is not null;--> statement-breakpoint
ALTER TABLE "entries" ADD CONSTRAINT "entries_plan" CHECK (("entries"."plan_id" is null) = ("entries"."plan_date" is null));--> statement-breakpoint
ALTER TABLE journal_plans ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY own_books ON journal_plans
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE ON journal_plans TO zubrell_app;

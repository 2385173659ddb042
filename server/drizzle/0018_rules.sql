CREATE TABLE "habit_marks" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"kind" text NOT NULL,
	"payee_id" uuid,
	"stems" text[] NOT NULL,
	"is_live" boolean DEFAULT true NOT NULL,
	"step" bigint NOT NULL,
	CONSTRAINT "habit_marks_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "rules" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"name" text NOT NULL,
	"rank" double precision NOT NULL,
	"is_on" boolean NOT NULL,
	"is_here" boolean DEFAULT true NOT NULL,
	"body" jsonb NOT NULL,
	"since_step" bigint NOT NULL,
	"stopped" text,
	"last_step" bigint NOT NULL,
	CONSTRAINT "rules_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
ALTER TABLE "decisions" ADD COLUMN "rule_id" uuid;--> statement-breakpoint
ALTER TABLE "decisions" ADD COLUMN "is_once" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "proposals" ADD COLUMN "rule_id" uuid;--> statement-breakpoint
ALTER TABLE "habit_marks" ADD CONSTRAINT "habit_marks_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "habit_marks" ADD CONSTRAINT "habit_marks_books_id_payee_id_payees_books_id_id_fk" FOREIGN KEY ("books_id","payee_id") REFERENCES "public"."payees"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rules" ADD CONSTRAINT "rules_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "habit_marks_payee" ON "habit_marks" USING btree ("books_id","payee_id");--> statement-breakpoint
CREATE INDEX "decisions_rule" ON "decisions" USING btree ("books_id","rule_id") WHERE "decisions"."rule_id" is not null;--> statement-breakpoint
DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['rules', 'habit_marks'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format(
      'CREATE POLICY own_books ON %I
         USING (books_id = nullif(current_setting(''app.books_id'', true), '''')::uuid)
         WITH CHECK (books_id = nullif(current_setting(''app.books_id'', true), '''')::uuid)',
      name);
  END LOOP;
END $$;
--> statement-breakpoint
GRANT SELECT, INSERT ON rules, habit_marks TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (name, rank, is_on, is_here, body, since_step, stopped, last_step) ON rules TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (is_live) ON habit_marks TO zubrell_app;

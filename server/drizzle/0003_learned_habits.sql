ALTER TABLE "lines" RENAME COLUMN "stem_step" TO "relearn_step";--> statement-breakpoint
CREATE TABLE "learned_habits" (
	"books_id" uuid NOT NULL,
	"step" bigint NOT NULL,
	"version" integer NOT NULL,
	"state" "bytea" NOT NULL,
	"rebuilt" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "learned_habits_books_id_pk" PRIMARY KEY("books_id")
);
--> statement-breakpoint
ALTER TABLE "learned_habits" ADD CONSTRAINT "learned_habits_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "lines_held" ON "lines" USING btree ("books_id","bank_account_id") WHERE "lines"."held" is not null;--> statement-breakpoint
CREATE INDEX "lines_changed" ON "lines" USING btree ("books_id",greatest("last_step", "relearn_step"));--> statement-breakpoint
-- It comes compressed.
ALTER TABLE "learned_habits" ALTER COLUMN "state" SET STORAGE EXTERNAL;--> statement-breakpoint
ALTER TABLE "learned_habits" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY own_books ON "learned_habits"
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON "learned_habits" TO zubrell_app;

CREATE TABLE "aliases" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"stem" text NOT NULL,
	"word" text,
	"target" text NOT NULL,
	"is_live" boolean DEFAULT true NOT NULL,
	"step" bigint NOT NULL,
	CONSTRAINT "aliases_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
ALTER TABLE "lines" ADD COLUMN "own_stem" text;--> statement-breakpoint
UPDATE "lines" SET "own_stem" = "stem";--> statement-breakpoint
ALTER TABLE "lines" ALTER COLUMN "own_stem" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "aliases" ADD CONSTRAINT "aliases_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "aliases_stem" ON "aliases" USING btree ("books_id","stem");--> statement-breakpoint
CREATE INDEX "lines_own_stem" ON "lines" USING btree ("books_id","own_stem");--> statement-breakpoint
ALTER TABLE aliases ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_books ON aliases
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);
--> statement-breakpoint
GRANT SELECT, INSERT ON aliases TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (is_live) ON aliases TO zubrell_app;

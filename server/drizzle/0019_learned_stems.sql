CREATE TABLE "learned_stems" (
	"books_id" uuid NOT NULL,
	"stem" text NOT NULL,
	"target" text NOT NULL,
	CONSTRAINT "learned_stems_books_id_stem_pk" PRIMARY KEY("books_id","stem")
);
--> statement-breakpoint
ALTER TABLE "learned_stems" ADD CONSTRAINT "learned_stems_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE learned_stems ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_books ON learned_stems
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);
--> statement-breakpoint
GRANT SELECT, INSERT ON learned_stems TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (target) ON learned_stems TO zubrell_app;

CREATE TABLE "noise_words" (
	"books_id" uuid NOT NULL,
	"word" text NOT NULL,
	CONSTRAINT "noise_words_books_id_word_pk" PRIMARY KEY("books_id","word")
);
--> statement-breakpoint
ALTER TABLE "noise_words" ADD CONSTRAINT "noise_words_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE noise_words ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_books ON noise_words
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);
--> statement-breakpoint
GRANT SELECT, INSERT ON noise_words TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (own_stem) ON lines TO zubrell_app;

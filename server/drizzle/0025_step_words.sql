CREATE TABLE "step_words" (
	"books_id" uuid NOT NULL,
	"step_no" bigint NOT NULL,
	"key" text NOT NULL,
	"values" jsonb NOT NULL,
	CONSTRAINT "step_words_books_id_step_no_pk" PRIMARY KEY("books_id","step_no")
);
--> statement-breakpoint
ALTER TABLE "step_words" ADD CONSTRAINT "step_words_books_id_step_no_steps_books_id_no_fk" FOREIGN KEY ("books_id","step_no") REFERENCES "public"."steps"("books_id","no") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE step_words ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY own_books ON step_words
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
GRANT SELECT, INSERT ON step_words TO zubrell_app;

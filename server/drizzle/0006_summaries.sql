CREATE TABLE "books_summaries" (
	"books_id" uuid PRIMARY KEY NOT NULL,
	"step" bigint NOT NULL,
	"summary" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "books_summaries" ADD CONSTRAINT "books_summaries_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE books_summaries ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
-- Whoever works with books sees their summary in the list before any are chosen.
CREATE POLICY own_books ON books_summaries
  USING (
    books_id = nullif(current_setting('app.books_id', true), '')::uuid
    OR EXISTS (
      SELECT FROM memberships m WHERE m.books_id = books_summaries.books_id
        AND m.user_id = nullif(current_setting('app.user_id', true), '')::uuid))
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE ON books_summaries TO zubrell_app;

CREATE TABLE "watched_files" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"file_name" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"state" text NOT NULL,
	"batch_ids" uuid[] NOT NULL,
	"refusal" jsonb,
	CONSTRAINT "watched_files_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "watched_folders" (
	"books_id" uuid NOT NULL,
	"user_id" uuid NOT NULL,
	"since" timestamp with time zone NOT NULL,
	CONSTRAINT "watched_folders_books_id_pk" PRIMARY KEY("books_id")
);
--> statement-breakpoint
ALTER TABLE "watched_folders" ADD CONSTRAINT "watched_folders_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "watched_files_at" ON "watched_files" USING btree ("books_id","at");--> statement-breakpoint
CREATE INDEX "watched_files_reading" ON "watched_files" USING btree ("books_id") WHERE "watched_files"."state" = 'reading';--> statement-breakpoint
DO $$
DECLARE
  own constant text := 'nullif(current_setting(''app.books_id'', true), '''')::uuid';
  one text;
BEGIN
  FOREACH one IN ARRAY ARRAY['watched_files', 'watched_folders'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', one);
    EXECUTE format(
      'CREATE POLICY own_books ON %1$I USING (books_id = %2$s) WITH CHECK (books_id = %2$s)', one, own);
  END LOOP;
END $$;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE ON watched_files TO zubrell_app;--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON watched_folders TO zubrell_app;--> statement-breakpoint
-- Which books' folders are watched, over all books, and in whose name: of people who may import there still.
CREATE FUNCTION watched_books() RETURNS TABLE (books_id uuid, user_id uuid)
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT w.books_id, w.user_id FROM watched_folders w
  JOIN memberships m ON m.books_id = w.books_id AND m.user_id = w.user_id AND m.role IN ('owner', 'bookkeeper')
  ORDER BY w.since
$$;
--> statement-breakpoint
REVOKE EXECUTE ON FUNCTION watched_books() FROM public;--> statement-breakpoint
GRANT EXECUTE ON FUNCTION watched_books() TO zubrell_app;

CREATE TABLE "closings" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"month" text NOT NULL,
	"state" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"prepared_by" uuid,
	"prepared_at" timestamp with time zone,
	"reviewed_by" uuid,
	"reviewed_at" timestamp with time zone,
	"closed_by" uuid,
	"closed_at" timestamp with time zone,
	"is_here" boolean DEFAULT true NOT NULL,
	CONSTRAINT "closings_books_id_id_pk" PRIMARY KEY("books_id","id"),
	CONSTRAINT "closings_month" UNIQUE("books_id","month")
);
--> statement-breakpoint
CREATE TABLE "line_reviews" (
	"books_id" uuid NOT NULL,
	"line_id" uuid NOT NULL,
	"user_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "line_reviews_books_id_line_id_pk" PRIMARY KEY("books_id","line_id")
);
--> statement-breakpoint
ALTER TABLE "books" ADD COLUMN "ages" jsonb DEFAULT '{"suspense":14,"transit":7,"outstanding":60}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "books" ADD COLUMN "receipt_from" bigint DEFAULT 15000;--> statement-breakpoint
ALTER TABLE "books" ADD COLUMN "is_archived" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "closings" ADD CONSTRAINT "closings_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "line_reviews" ADD CONSTRAINT "line_reviews_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
DO $$
DECLARE
  own constant text := 'nullif(current_setting(''app.books_id'', true), '''')::uuid';
  one text;
BEGIN
  FOREACH one IN ARRAY ARRAY['closings', 'line_reviews'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', one);
    EXECUTE format(
      'CREATE POLICY own_books ON %1$I USING (books_id = %2$s) WITH CHECK (books_id = %2$s)', one, own);
  END LOOP;
END $$;--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON closings, line_reviews TO zubrell_app;

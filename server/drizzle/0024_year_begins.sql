ALTER TABLE "books" ADD COLUMN "year_begins" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE books ADD CONSTRAINT books_year_begins CHECK (year_begins BETWEEN 1 AND 12);

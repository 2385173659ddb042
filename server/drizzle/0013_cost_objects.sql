CREATE TABLE "cost_objects" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"is_on" boolean DEFAULT true NOT NULL,
	CONSTRAINT "cost_objects_books_id_id_pk" PRIMARY KEY("books_id","id"),
	CONSTRAINT "cost_objects_name" UNIQUE("books_id","kind","name")
);
--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "cost_centre_id" uuid;--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "job_id" uuid;--> statement-breakpoint
ALTER TABLE "legs" ADD COLUMN "is_recharged" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "cost_objects" ADD CONSTRAINT "cost_objects_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_books_id_cost_centre_id_cost_objects_books_id_id_fk" FOREIGN KEY ("books_id","cost_centre_id") REFERENCES "public"."cost_objects"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_books_id_job_id_cost_objects_books_id_id_fk" FOREIGN KEY ("books_id","job_id") REFERENCES "public"."cost_objects"("books_id","id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE cost_objects ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_books ON cost_objects
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON cost_objects TO zubrell_app;

CREATE TABLE "step_presses" (
	"books_id" uuid NOT NULL,
	"step_no" bigint NOT NULL,
	"presses" integer NOT NULL,
	CONSTRAINT "step_presses_books_id_step_no_pk" PRIMARY KEY("books_id","step_no")
);
--> statement-breakpoint
ALTER TABLE "memberships" ADD COLUMN "seen_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "memberships" ADD COLUMN "seen_step" bigint;--> statement-breakpoint
ALTER TABLE "memberships" ADD COLUMN "left_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "memberships" ADD COLUMN "left_step" bigint;--> statement-breakpoint
ALTER TABLE "step_presses" ADD CONSTRAINT "step_presses_books_id_step_no_steps_books_id_no_fk" FOREIGN KEY ("books_id","step_no") REFERENCES "public"."steps"("books_id","no") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE step_presses ADD CONSTRAINT step_presses_some CHECK (presses >= 0);--> statement-breakpoint
ALTER TABLE step_presses ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY own_books ON step_presses
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);--> statement-breakpoint
GRANT SELECT, INSERT ON step_presses TO zubrell_app;

ALTER TABLE "lines" ADD COLUMN "stem_step" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "rules" ADD COLUMN "stopped_step" bigint;--> statement-breakpoint
-- It has to prove itself anew from the newest step on.
UPDATE rules r SET stopped_step = (SELECT last_step FROM books b WHERE b.id = r.books_id)
  WHERE stopped IS NOT NULL;--> statement-breakpoint
ALTER TABLE "rules" DROP COLUMN "stopped";--> statement-breakpoint
GRANT UPDATE (stem_step) ON lines TO zubrell_app;--> statement-breakpoint
GRANT UPDATE (stopped_step) ON rules TO zubrell_app;

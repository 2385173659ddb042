ALTER TABLE "lines" ADD COLUMN "twice_of" uuid;--> statement-breakpoint
GRANT UPDATE (twice_of) ON lines TO zubrell_app;

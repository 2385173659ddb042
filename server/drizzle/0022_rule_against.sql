ALTER TABLE "rules" ADD COLUMN "against" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
GRANT UPDATE (against) ON rules TO zubrell_app;

ALTER TABLE "bank_accounts" ADD COLUMN "has_changed_ids" boolean DEFAULT false NOT NULL;
--> statement-breakpoint
GRANT UPDATE (has_changed_ids) ON bank_accounts TO zubrell_app;

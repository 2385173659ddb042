ALTER TABLE "decisions" ADD COLUMN "odds" real;--> statement-breakpoint
ALTER TABLE "decisions" ADD COLUMN "is_account_kept" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "proposals" ADD COLUMN "odds" real;--> statement-breakpoint
ALTER TABLE "proposals" ADD COLUMN "sureness" real;
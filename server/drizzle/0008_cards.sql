ALTER TABLE "bank_accounts" ADD COLUMN "holder_names" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "lines" ADD COLUMN "cardholder" text;
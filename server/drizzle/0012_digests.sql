ALTER TABLE "proposals" ADD COLUMN "digest" text;--> statement-breakpoint
ALTER TABLE "proposals" ADD COLUMN "account_id" uuid;--> statement-breakpoint
UPDATE "proposals" SET "digest" = md5("proposal"::text), "account_id" = ("proposal" #>> '{coding,parts,0,accountId}')::uuid;--> statement-breakpoint
ALTER TABLE "proposals" ALTER COLUMN "digest" SET NOT NULL;

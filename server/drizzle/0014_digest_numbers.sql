ALTER TABLE "proposals" ALTER COLUMN "digest" SET DATA TYPE bigint USING hashtextextended("proposal"::text, 0);--> statement-breakpoint
CREATE INDEX "proposals_digest" ON "proposals" USING btree ("books_id","digest");

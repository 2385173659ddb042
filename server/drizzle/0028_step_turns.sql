DROP INDEX "steps_undoes";--> statement-breakpoint
DROP INDEX "steps_redoes";--> statement-breakpoint
ALTER TABLE "steps" ADD COLUMN "turns" bigint GENERATED ALWAYS AS (coalesce(undoes, redoes)) STORED;--> statement-breakpoint
CREATE INDEX "steps_turns" ON "steps" USING btree ("books_id","turns","no");
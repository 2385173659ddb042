CREATE INDEX "entries_by_hand" ON "entries" USING btree ("books_id") WHERE "entries"."content" is not null;--> statement-breakpoint
CREATE INDEX "legs_bank_amount" ON "legs" USING btree ("books_id","amount") WHERE "legs"."role" = 'bank';--> statement-breakpoint
CREATE INDEX "lines_size" ON "lines" USING btree ("books_id",abs("amount"));
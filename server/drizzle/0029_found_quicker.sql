CREATE INDEX "decisions_payee" ON "decisions" USING btree ("books_id",("coding" ->> 'payeeId'));--> statement-breakpoint
CREATE INDEX "lines_date" ON "lines" USING btree ("books_id","date","id");
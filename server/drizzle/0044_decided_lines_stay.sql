-- Deciding a line leaves its row as it is: by what step it was, the tie to the decision tells.
ALTER TABLE "decision_lines" ADD COLUMN "last_step" bigint;--> statement-breakpoint
ALTER TABLE decision_lines DISABLE TRIGGER USER;--> statement-breakpoint
UPDATE decision_lines t SET last_step = d.step FROM decisions d WHERE d.books_id = t.books_id AND d.id = t.decision_id;--> statement-breakpoint
ALTER TABLE decision_lines ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "decision_lines" ALTER COLUMN "last_step" SET NOT NULL;--> statement-breakpoint
CREATE INDEX "decision_lines_changed" ON "decision_lines" USING btree ("books_id","last_step");--> statement-breakpoint
GRANT UPDATE (last_step) ON decision_lines TO zubrell_app;

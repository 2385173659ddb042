ALTER TABLE "payees" ADD COLUMN "is_on" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "payees" ADD COLUMN "merged_into" uuid;--> statement-breakpoint
ALTER TABLE "payees" ADD CONSTRAINT "payees_books_id_merged_into_payees_books_id_id_fk" FOREIGN KEY ("books_id","merged_into") REFERENCES "public"."payees"("books_id","id") ON DELETE no action ON UPDATE no action;
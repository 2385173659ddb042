ALTER TABLE "attachments" ALTER COLUMN "line_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "books" ADD COLUMN "tax_number" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "books" ADD COLUMN "country" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "payees" ADD COLUMN "tax_number" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "payees" ADD COLUMN "country" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "attachments" ADD COLUMN "document_id" uuid;--> statement-breakpoint
ALTER TABLE "attachments" ADD CONSTRAINT "attachments_books_id_document_id_documents_books_id_id_fk" FOREIGN KEY ("books_id","document_id") REFERENCES "public"."documents"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "attachments_document" ON "attachments" USING btree ("books_id","document_id");--> statement-breakpoint
ALTER TABLE "attachments" ADD CONSTRAINT "attachments_of_one" CHECK (("attachments"."line_id" is null) <> ("attachments"."document_id" is null));
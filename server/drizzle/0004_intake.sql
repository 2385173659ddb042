CREATE TABLE "announced_lines" (
	"books_id" uuid NOT NULL,
	"feed_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"date" date NOT NULL,
	"amount" bigint NOT NULL,
	"description" text NOT NULL,
	CONSTRAINT "announced_lines_books_id_feed_id_position_pk" PRIMARY KEY("books_id","feed_id","position")
);
--> statement-breakpoint
CREATE TABLE "consents" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"connector" text NOT NULL,
	"bank_name" text NOT NULL,
	"token" text,
	"state" text NOT NULL,
	"expires" date,
	"created_by" uuid NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "consents_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "feeds" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"consent_id" uuid NOT NULL,
	"remote_id" text NOT NULL,
	"remote_name" text NOT NULL,
	"remote_number" text,
	"bank_account_id" uuid,
	"is_daily" boolean NOT NULL,
	"look_back_days" integer,
	"is_fetching" boolean DEFAULT false NOT NULL,
	"last_at" timestamp with time zone,
	"last_good_at" timestamp with time zone,
	"last_from" date,
	"last_to" date,
	"last_result" jsonb,
	"next_at" timestamp with time zone,
	"failures" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "feeds_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "day_balances" (
	"books_id" uuid NOT NULL,
	"batch_id" uuid NOT NULL,
	"date" date NOT NULL,
	"amount" bigint NOT NULL,
	CONSTRAINT "day_balances_books_id_batch_id_date_pk" PRIMARY KEY("books_id","batch_id","date")
);
--> statement-breakpoint
CREATE TABLE "layouts" (
	"books_id" uuid NOT NULL,
	"bank_account_id" uuid NOT NULL,
	"shape" text NOT NULL,
	"choices" jsonb NOT NULL,
	"times" integer NOT NULL,
	CONSTRAINT "layouts_books_id_bank_account_id_shape_pk" PRIMARY KEY("books_id","bank_account_id","shape")
);
--> statement-breakpoint
ALTER TABLE "batches" ALTER COLUMN "upload_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "batches" ADD COLUMN "feed_id" uuid;--> statement-breakpoint
ALTER TABLE "batches" ADD COLUMN "moved_from" uuid;--> statement-breakpoint
ALTER TABLE "batches" ADD COLUMN "layout" jsonb;--> statement-breakpoint
ALTER TABLE "batches" ADD COLUMN "opening" bigint;--> statement-breakpoint
ALTER TABLE "lines" ADD COLUMN "counterparty" text;--> statement-breakpoint
ALTER TABLE "lines" ADD COLUMN "category" text;--> statement-breakpoint
ALTER TABLE "lines" ADD COLUMN "original" text;--> statement-breakpoint
ALTER TABLE "lines" ADD COLUMN "prepared" jsonb;--> statement-breakpoint
ALTER TABLE "lines" ADD COLUMN "plain" text;--> statement-breakpoint
UPDATE "lines" SET "plain" = trim(regexp_replace(upper("description"), '[^[:alnum:]]+', ' ', 'g'));--> statement-breakpoint
ALTER TABLE "lines" ALTER COLUMN "plain" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "announced_lines" ADD CONSTRAINT "announced_lines_books_id_feed_id_feeds_books_id_id_fk" FOREIGN KEY ("books_id","feed_id") REFERENCES "public"."feeds"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "consents" ADD CONSTRAINT "consents_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "feeds" ADD CONSTRAINT "feeds_books_id_consent_id_consents_books_id_id_fk" FOREIGN KEY ("books_id","consent_id") REFERENCES "public"."consents"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "feeds" ADD CONSTRAINT "feeds_books_id_bank_account_id_bank_accounts_books_id_id_fk" FOREIGN KEY ("books_id","bank_account_id") REFERENCES "public"."bank_accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "day_balances" ADD CONSTRAINT "day_balances_books_id_batch_id_batches_books_id_id_fk" FOREIGN KEY ("books_id","batch_id") REFERENCES "public"."batches"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "layouts" ADD CONSTRAINT "layouts_books_id_bank_account_id_bank_accounts_books_id_id_fk" FOREIGN KEY ("books_id","bank_account_id") REFERENCES "public"."bank_accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "feeds_account" ON "feeds" USING btree ("books_id","bank_account_id");
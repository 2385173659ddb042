CREATE TABLE "audit_heads" (
	"books_id" uuid,
	"chain" text NOT NULL,
	"no" bigint NOT NULL,
	"hash" "bytea" NOT NULL,
	CONSTRAINT "audit_heads_chain" UNIQUE NULLS NOT DISTINCT("books_id","chain")
);
--> statement-breakpoint
CREATE TABLE "audit_records" (
	"books_id" uuid,
	"no" bigint NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"user_id" uuid,
	"kind" text NOT NULL,
	"subject_id" uuid,
	"details" jsonb NOT NULL,
	"personal" jsonb,
	"salt" "bytea",
	"personal_hash" "bytea" NOT NULL,
	"hash" "bytea" NOT NULL,
	CONSTRAINT "audit_records_no" UNIQUE NULLS NOT DISTINCT("books_id","no")
);
--> statement-breakpoint
CREATE TABLE "first_proposals" (
	"books_id" uuid NOT NULL,
	"line_id" uuid NOT NULL,
	"digest" bigint NOT NULL,
	"lane" text NOT NULL,
	"sureness" real,
	"at" timestamp with time zone NOT NULL,
	"step" bigint NOT NULL,
	CONSTRAINT "first_proposals_books_id_line_id_pk" PRIMARY KEY("books_id","line_id")
);
--> statement-breakpoint
CREATE TABLE "fixed_day" (
	"day" date NOT NULL
);
--> statement-breakpoint
CREATE TABLE "mandates" (
	"books_id" uuid NOT NULL,
	"user_id" uuid NOT NULL,
	CONSTRAINT "mandates_books_id_user_id_pk" PRIMARY KEY("books_id","user_id")
);
--> statement-breakpoint
CREATE TABLE "proposal_texts" (
	"books_id" uuid NOT NULL,
	"digest" bigint NOT NULL,
	"proposal" jsonb NOT NULL,
	CONSTRAINT "proposal_texts_books_id_digest_pk" PRIMARY KEY("books_id","digest")
);
--> statement-breakpoint
CREATE TABLE "recovery_codes" (
	"code_hash" text PRIMARY KEY NOT NULL,
	"user_id" uuid NOT NULL
);
--> statement-breakpoint
CREATE TABLE "reset_links" (
	"secret_hash" text PRIMARY KEY NOT NULL,
	"user_id" uuid NOT NULL,
	"ends_second_factor" boolean NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "second_factors" (
	"user_id" uuid PRIMARY KEY NOT NULL,
	"secret" text NOT NULL,
	"is_on" boolean DEFAULT false NOT NULL,
	"last_period" bigint DEFAULT 0 NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "users" ADD COLUMN "erased_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "steps" ADD COLUMN "hash" "bytea";--> statement-breakpoint
ALTER TABLE "first_proposals" ADD CONSTRAINT "first_proposals_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "first_proposals" ADD CONSTRAINT "first_proposals_books_id_digest_proposal_texts_books_id_digest_fk" FOREIGN KEY ("books_id","digest") REFERENCES "public"."proposal_texts"("books_id","digest") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mandates" ADD CONSTRAINT "mandates_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mandates" ADD CONSTRAINT "mandates_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "proposal_texts" ADD CONSTRAINT "proposal_texts_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recovery_codes" ADD CONSTRAINT "recovery_codes_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reset_links" ADD CONSTRAINT "reset_links_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "second_factors" ADD CONSTRAINT "second_factors_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "audit_records_user" ON "audit_records" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "audit_records_subject" ON "audit_records" USING btree ("subject_id");
CREATE TABLE "accounts" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"type" text NOT NULL,
	"parent_id" uuid,
	"role" text,
	"is_on" boolean DEFAULT true NOT NULL,
	CONSTRAINT "accounts_books_id_id_pk" PRIMARY KEY("books_id","id"),
	CONSTRAINT "accounts_code" UNIQUE("books_id","code")
);
--> statement-breakpoint
CREATE TABLE "bank_accounts" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"bank" text,
	"number" text,
	"account_id" uuid NOT NULL,
	"closed_to" date,
	CONSTRAINT "bank_accounts_books_id_id_pk" PRIMARY KEY("books_id","id"),
	CONSTRAINT "bank_accounts_account" UNIQUE("books_id","account_id"),
	CONSTRAINT "bank_accounts_number" UNIQUE("books_id","number")
);
--> statement-breakpoint
CREATE TABLE "books" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"currency" text NOT NULL,
	"lock_date" date,
	"last_step" bigint DEFAULT 0 NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "payees" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	CONSTRAINT "payees_books_id_id_pk" PRIMARY KEY("books_id","id"),
	CONSTRAINT "payees_name" UNIQUE("books_id","name")
);
--> statement-breakpoint
CREATE TABLE "tax_codes" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"input_account_id" uuid,
	"output_account_id" uuid,
	"recoverable" integer DEFAULT 10000 NOT NULL,
	"position" integer NOT NULL,
	"is_on" boolean DEFAULT true NOT NULL,
	CONSTRAINT "tax_codes_books_id_id_pk" PRIMARY KEY("books_id","id"),
	CONSTRAINT "tax_codes_name" UNIQUE("books_id","name")
);
--> statement-breakpoint
CREATE TABLE "tax_rates" (
	"books_id" uuid NOT NULL,
	"tax_code_id" uuid NOT NULL,
	"from_date" date NOT NULL,
	"rate" integer NOT NULL,
	CONSTRAINT "tax_rates_books_id_tax_code_id_from_date_pk" PRIMARY KEY("books_id","tax_code_id","from_date")
);
--> statement-breakpoint
CREATE TABLE "decision_legs" (
	"books_id" uuid NOT NULL,
	"decision_id" uuid NOT NULL,
	"leg_id" uuid NOT NULL,
	"is_live" boolean DEFAULT true NOT NULL,
	CONSTRAINT "decision_legs_books_id_decision_id_leg_id_pk" PRIMARY KEY("books_id","decision_id","leg_id")
);
--> statement-breakpoint
CREATE TABLE "decision_lines" (
	"books_id" uuid NOT NULL,
	"decision_id" uuid NOT NULL,
	"line_id" uuid NOT NULL,
	"is_live" boolean DEFAULT true NOT NULL,
	CONSTRAINT "decision_lines_books_id_decision_id_line_id_pk" PRIMARY KEY("books_id","decision_id","line_id")
);
--> statement-breakpoint
CREATE TABLE "decisions" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"kind" text NOT NULL,
	"reason" text,
	"coding" jsonb,
	"proposed_by" text,
	"is_kept" boolean DEFAULT false NOT NULL,
	"step" bigint NOT NULL,
	CONSTRAINT "decisions_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "entries" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"date" date NOT NULL,
	"kind" text NOT NULL,
	"payee_id" uuid,
	"opening_of" uuid,
	"note" text,
	"is_void" boolean DEFAULT false NOT NULL,
	"step" bigint NOT NULL,
	CONSTRAINT "entries_books_id_id_pk" PRIMARY KEY("books_id","id"),
	CONSTRAINT "entries_opening" CHECK (("entries"."kind" = 'opening') = ("entries"."opening_of" is not null))
);
--> statement-breakpoint
CREATE TABLE "legs" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"entry_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"account_id" uuid NOT NULL,
	"amount" bigint NOT NULL,
	"tax_code_id" uuid,
	"role" text NOT NULL,
	CONSTRAINT "legs_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "batches" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"bank_account_id" uuid NOT NULL,
	"file_name" text NOT NULL,
	"upload_id" uuid NOT NULL,
	"statement_index" integer NOT NULL,
	"status" text NOT NULL,
	"format" text,
	"refusal" jsonb,
	"problems" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"from_date" date,
	"to_date" date,
	"closing" bigint,
	"closing_date" date,
	"line_count" integer DEFAULT 0 NOT NULL,
	"new_count" integer DEFAULT 0 NOT NULL,
	"created_by" uuid NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "batches_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "drafts" (
	"books_id" uuid NOT NULL,
	"line_id" uuid NOT NULL,
	"coding" jsonb,
	"version" integer NOT NULL,
	"updated_by" uuid NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	CONSTRAINT "drafts_books_id_line_id_pk" PRIMARY KEY("books_id","line_id")
);
--> statement-breakpoint
CREATE TABLE "lines" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"bank_account_id" uuid NOT NULL,
	"date" date NOT NULL,
	"value_date" date,
	"amount" bigint NOT NULL,
	"description" text NOT NULL,
	"reference" text,
	"payee" text,
	"bank_id" text,
	"type" text,
	"cheque_number" text,
	"balance" bigint,
	"position" integer NOT NULL,
	"stem" text NOT NULL,
	"is_here" boolean DEFAULT true NOT NULL,
	"last_step" bigint NOT NULL,
	CONSTRAINT "lines_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "proposals" (
	"books_id" uuid NOT NULL,
	"line_id" uuid NOT NULL,
	"lane" text NOT NULL,
	"proposal" jsonb NOT NULL,
	CONSTRAINT "proposals_books_id_line_id_pk" PRIMARY KEY("books_id","line_id")
);
--> statement-breakpoint
CREATE TABLE "sightings" (
	"books_id" uuid NOT NULL,
	"batch_id" uuid NOT NULL,
	"line_id" uuid NOT NULL,
	"place" integer NOT NULL,
	CONSTRAINT "sightings_books_id_batch_id_line_id_pk" PRIMARY KEY("books_id","batch_id","line_id")
);
--> statement-breakpoint
CREATE TABLE "upload_pieces" (
	"books_id" uuid NOT NULL,
	"upload_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	CONSTRAINT "upload_pieces_books_id_upload_id_position_pk" PRIMARY KEY("books_id","upload_id","position")
);
--> statement-breakpoint
CREATE TABLE "uploads" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"file_name" text NOT NULL,
	"size" bigint NOT NULL,
	"sha256" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "uploads_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "memberships" (
	"books_id" uuid NOT NULL,
	"user_id" uuid NOT NULL,
	"role" text NOT NULL,
	CONSTRAINT "memberships_books_id_user_id_pk" PRIMARY KEY("books_id","user_id")
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"id_hash" text PRIMARY KEY NOT NULL,
	"user_id" uuid NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "users" (
	"id" uuid PRIMARY KEY NOT NULL,
	"email" text NOT NULL,
	"name" text NOT NULL,
	"password_hash" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "users_email_unique" UNIQUE("email")
);
--> statement-breakpoint
CREATE TABLE "idempotency_keys" (
	"books_id" uuid NOT NULL,
	"key" text NOT NULL,
	"body_hash" text NOT NULL,
	"answer" jsonb NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "idempotency_keys_books_id_key_pk" PRIMARY KEY("books_id","key")
);
--> statement-breakpoint
CREATE TABLE "step_items" (
	"books_id" uuid NOT NULL,
	"step_no" bigint NOT NULL,
	"position" integer NOT NULL,
	"thing" text NOT NULL,
	"thing_id" uuid NOT NULL,
	"before" jsonb,
	"after" jsonb,
	CONSTRAINT "step_items_books_id_step_no_position_pk" PRIMARY KEY("books_id","step_no","position")
);
--> statement-breakpoint
CREATE TABLE "steps" (
	"books_id" uuid NOT NULL,
	"no" bigint NOT NULL,
	"user_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"kind" text NOT NULL,
	"words" text NOT NULL,
	"undoes" bigint,
	"redoes" bigint,
	CONSTRAINT "steps_books_id_no_pk" PRIMARY KEY("books_id","no")
);
--> statement-breakpoint
ALTER TABLE "accounts" ADD CONSTRAINT "accounts_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "accounts" ADD CONSTRAINT "accounts_books_id_parent_id_accounts_books_id_id_fk" FOREIGN KEY ("books_id","parent_id") REFERENCES "public"."accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_accounts" ADD CONSTRAINT "bank_accounts_books_id_account_id_accounts_books_id_id_fk" FOREIGN KEY ("books_id","account_id") REFERENCES "public"."accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "payees" ADD CONSTRAINT "payees_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tax_codes" ADD CONSTRAINT "tax_codes_books_id_input_account_id_accounts_books_id_id_fk" FOREIGN KEY ("books_id","input_account_id") REFERENCES "public"."accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tax_codes" ADD CONSTRAINT "tax_codes_books_id_output_account_id_accounts_books_id_id_fk" FOREIGN KEY ("books_id","output_account_id") REFERENCES "public"."accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tax_rates" ADD CONSTRAINT "tax_rates_books_id_tax_code_id_tax_codes_books_id_id_fk" FOREIGN KEY ("books_id","tax_code_id") REFERENCES "public"."tax_codes"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "decision_legs" ADD CONSTRAINT "decision_legs_books_id_decision_id_decisions_books_id_id_fk" FOREIGN KEY ("books_id","decision_id") REFERENCES "public"."decisions"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "decision_legs" ADD CONSTRAINT "decision_legs_books_id_leg_id_legs_books_id_id_fk" FOREIGN KEY ("books_id","leg_id") REFERENCES "public"."legs"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "decision_lines" ADD CONSTRAINT "decision_lines_books_id_decision_id_decisions_books_id_id_fk" FOREIGN KEY ("books_id","decision_id") REFERENCES "public"."decisions"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "decision_lines" ADD CONSTRAINT "decision_lines_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "entries" ADD CONSTRAINT "entries_books_id_opening_of_bank_accounts_books_id_id_fk" FOREIGN KEY ("books_id","opening_of") REFERENCES "public"."bank_accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "entries" ADD CONSTRAINT "entries_books_id_payee_id_payees_books_id_id_fk" FOREIGN KEY ("books_id","payee_id") REFERENCES "public"."payees"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_books_id_entry_id_entries_books_id_id_fk" FOREIGN KEY ("books_id","entry_id") REFERENCES "public"."entries"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_books_id_account_id_accounts_books_id_id_fk" FOREIGN KEY ("books_id","account_id") REFERENCES "public"."accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_books_id_tax_code_id_tax_codes_books_id_id_fk" FOREIGN KEY ("books_id","tax_code_id") REFERENCES "public"."tax_codes"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "batches" ADD CONSTRAINT "batches_books_id_bank_account_id_bank_accounts_books_id_id_fk" FOREIGN KEY ("books_id","bank_account_id") REFERENCES "public"."bank_accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "drafts" ADD CONSTRAINT "drafts_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lines" ADD CONSTRAINT "lines_books_id_bank_account_id_bank_accounts_books_id_id_fk" FOREIGN KEY ("books_id","bank_account_id") REFERENCES "public"."bank_accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "proposals" ADD CONSTRAINT "proposals_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sightings" ADD CONSTRAINT "sightings_books_id_batch_id_batches_books_id_id_fk" FOREIGN KEY ("books_id","batch_id") REFERENCES "public"."batches"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sightings" ADD CONSTRAINT "sightings_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "upload_pieces" ADD CONSTRAINT "upload_pieces_books_id_upload_id_uploads_books_id_id_fk" FOREIGN KEY ("books_id","upload_id") REFERENCES "public"."uploads"("books_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "uploads" ADD CONSTRAINT "uploads_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "memberships" ADD CONSTRAINT "memberships_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_items" ADD CONSTRAINT "step_items_books_id_step_no_steps_books_id_no_fk" FOREIGN KEY ("books_id","step_no") REFERENCES "public"."steps"("books_id","no") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "steps" ADD CONSTRAINT "steps_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "decision_legs_live" ON "decision_legs" USING btree ("books_id","leg_id") WHERE "decision_legs"."is_live";--> statement-breakpoint
CREATE UNIQUE INDEX "decision_lines_live" ON "decision_lines" USING btree ("books_id","line_id") WHERE "decision_lines"."is_live";--> statement-breakpoint
CREATE INDEX "entries_date" ON "entries" USING btree ("books_id","date");--> statement-breakpoint
CREATE UNIQUE INDEX "entries_one_opening" ON "entries" USING btree ("books_id","opening_of") WHERE not "entries"."is_void";--> statement-breakpoint
CREATE INDEX "legs_entry" ON "legs" USING btree ("books_id","entry_id");--> statement-breakpoint
CREATE INDEX "legs_account" ON "legs" USING btree ("books_id","account_id");--> statement-breakpoint
CREATE INDEX "batches_account" ON "batches" USING btree ("books_id","bank_account_id","closing_date");--> statement-breakpoint
CREATE INDEX "lines_account_date" ON "lines" USING btree ("books_id","bank_account_id","date");--> statement-breakpoint
CREATE INDEX "lines_stem" ON "lines" USING btree ("books_id","stem");--> statement-breakpoint
CREATE INDEX "sightings_line" ON "sightings" USING btree ("books_id","line_id");--> statement-breakpoint
CREATE INDEX "memberships_user" ON "memberships" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "sessions_user" ON "sessions" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "step_items_thing" ON "step_items" USING btree ("books_id","thing_id");--> statement-breakpoint
CREATE INDEX "steps_undoes" ON "steps" USING btree ("books_id","undoes");--> statement-breakpoint
CREATE INDEX "steps_redoes" ON "steps" USING btree ("books_id","redoes");
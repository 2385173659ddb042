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
CREATE TABLE "accounts" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"type" text NOT NULL,
	"parent_id" uuid,
	"role" text,
	"purpose" text DEFAULT '' NOT NULL,
	"is_on" boolean DEFAULT true NOT NULL,
	"is_here" boolean DEFAULT true NOT NULL,
	CONSTRAINT "accounts_books_id_id_pk" PRIMARY KEY("books_id","id")
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
	"is_here" boolean DEFAULT true NOT NULL,
	CONSTRAINT "bank_accounts_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "books" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"currency" text NOT NULL,
	"lock_date" date,
	"asset_threshold" bigint DEFAULT 80000,
	"demands" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"accounts_made_by" text DEFAULT 'bookkeeper' NOT NULL,
	"uses_other_books" boolean DEFAULT false NOT NULL,
	"last_step" bigint DEFAULT 0 NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "cost_objects" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"name_key" text NOT NULL,
	"is_on" boolean DEFAULT true NOT NULL,
	"is_here" boolean DEFAULT true NOT NULL,
	CONSTRAINT "cost_objects_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "payees" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"name" text NOT NULL,
	"name_key" text NOT NULL,
	"kind" text NOT NULL,
	"is_on" boolean DEFAULT true NOT NULL,
	"merged_into" uuid,
	"is_here" boolean DEFAULT true NOT NULL,
	CONSTRAINT "payees_books_id_id_pk" PRIMARY KEY("books_id","id")
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
CREATE TABLE "crashed_jobs" (
	"job_id" bigint PRIMARY KEY NOT NULL,
	"times" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "allocations" (
	"books_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"decision_id" uuid NOT NULL,
	"document_id" uuid NOT NULL,
	"amount" bigint NOT NULL,
	"is_live" boolean DEFAULT true NOT NULL,
	CONSTRAINT "allocations_books_id_decision_id_document_id_pk" PRIMARY KEY("books_id","decision_id","document_id")
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
	"rule_id" uuid,
	"is_kept" boolean DEFAULT false NOT NULL,
	"odds" real,
	"is_account_kept" boolean DEFAULT false NOT NULL,
	"way" text,
	"difference" jsonb,
	"is_once" boolean DEFAULT false NOT NULL,
	"copy_of" uuid,
	"step" bigint NOT NULL,
	CONSTRAINT "decisions_books_id_id_pk" PRIMARY KEY("books_id","id"),
	CONSTRAINT "decisions_copy_named" CHECK ("decisions"."reason" is distinct from 'secondCopy' or "decisions"."copy_of" is not null)
);
--> statement-breakpoint
CREATE TABLE "documents" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"kind" text NOT NULL,
	"side" text NOT NULL,
	"number" text,
	"number_key" text,
	"payee_id" uuid NOT NULL,
	"date" date NOT NULL,
	"due_date" date,
	"amount" bigint NOT NULL,
	"lines" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"note" text,
	"entry_id" uuid NOT NULL,
	"step" bigint NOT NULL,
	"last_step" bigint NOT NULL,
	CONSTRAINT "documents_books_id_id_pk" PRIMARY KEY("books_id","id")
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
	"number" text,
	"content" jsonb,
	"replaces" uuid,
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
	"cost_centre_id" uuid,
	"job_id" uuid,
	"is_recharged" boolean DEFAULT false NOT NULL,
	CONSTRAINT "legs_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "aliases" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"stem" text NOT NULL,
	"word" text,
	"target" text NOT NULL,
	"is_live" boolean DEFAULT true NOT NULL,
	"step" bigint NOT NULL,
	CONSTRAINT "aliases_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "batches" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"bank_account_id" uuid NOT NULL,
	"file_name" text NOT NULL,
	"upload_id" uuid,
	"statement_index" integer NOT NULL,
	"feed_id" uuid,
	"moved_from" uuid,
	"status" text NOT NULL,
	"format" text,
	"refusal" jsonb,
	"problems" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"layout" jsonb,
	"from_date" date,
	"to_date" date,
	"opening" bigint,
	"closing" bigint,
	"closing_date" date,
	"line_count" integer DEFAULT 0 NOT NULL,
	"new_count" integer DEFAULT 0 NOT NULL,
	"created_by" uuid NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "batches_books_id_id_pk" PRIMARY KEY("books_id","id")
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
CREATE TABLE "dismissals" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"nudge" text NOT NULL,
	"payee_id" uuid,
	"stem" text,
	"is_live" boolean DEFAULT true NOT NULL,
	"step" bigint NOT NULL,
	CONSTRAINT "dismissals_books_id_id_pk" PRIMARY KEY("books_id","id"),
	CONSTRAINT "dismissals_of_one" CHECK (("dismissals"."payee_id" is null) <> ("dismissals"."stem" is null))
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
CREATE TABLE "layouts" (
	"books_id" uuid NOT NULL,
	"bank_account_id" uuid NOT NULL,
	"shape" text NOT NULL,
	"choices" jsonb NOT NULL,
	"times" integer NOT NULL,
	CONSTRAINT "layouts_books_id_bank_account_id_shape_pk" PRIMARY KEY("books_id","bank_account_id","shape")
);
--> statement-breakpoint
CREATE TABLE "learned_stems" (
	"books_id" uuid NOT NULL,
	"stem" text NOT NULL,
	"target" text NOT NULL,
	CONSTRAINT "learned_stems_books_id_stem_pk" PRIMARY KEY("books_id","stem")
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
	"counterparty" text,
	"category" text,
	"original" text,
	"prepared" jsonb,
	"balance" bigint,
	"position" integer NOT NULL,
	"stem" text NOT NULL,
	"own_stem" text NOT NULL,
	"plain" text NOT NULL,
	"is_here" boolean DEFAULT true NOT NULL,
	"is_own" boolean DEFAULT false NOT NULL,
	"moved_from" uuid,
	"twice_of" uuid,
	"asked" text,
	"held" text,
	"last_step" bigint NOT NULL,
	"stem_step" bigint DEFAULT 0 NOT NULL,
	CONSTRAINT "lines_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "noise_words" (
	"books_id" uuid NOT NULL,
	"word" text NOT NULL,
	CONSTRAINT "noise_words_books_id_word_pk" PRIMARY KEY("books_id","word")
);
--> statement-breakpoint
CREATE TABLE "proposals" (
	"books_id" uuid NOT NULL,
	"line_id" uuid NOT NULL,
	"lane" text NOT NULL,
	"proposal" jsonb NOT NULL,
	"digest" bigint NOT NULL,
	"account_id" uuid,
	"rule_id" uuid,
	"odds" real,
	"sureness" real,
	CONSTRAINT "proposals_books_id_line_id_pk" PRIMARY KEY("books_id","line_id")
);
--> statement-breakpoint
CREATE TABLE "sightings" (
	"books_id" uuid NOT NULL,
	"batch_id" uuid NOT NULL,
	"line_id" uuid NOT NULL,
	"place" integer NOT NULL,
	"is_fold" boolean DEFAULT false NOT NULL,
	"own" jsonb,
	"apart_line_id" uuid,
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
CREATE TABLE "invitations" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"secret_hash" text NOT NULL,
	"name" text NOT NULL,
	"role" text NOT NULL,
	"invited_by" uuid NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	CONSTRAINT "invitations_books_id_id_pk" PRIMARY KEY("books_id","id"),
	CONSTRAINT "invitations_secret_hash_unique" UNIQUE("secret_hash")
);
--> statement-breakpoint
CREATE TABLE "memberships" (
	"books_id" uuid NOT NULL,
	"user_id" uuid NOT NULL,
	"role" text NOT NULL,
	"preferences" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"sees_other_books" boolean DEFAULT false NOT NULL,
	CONSTRAINT "memberships_books_id_user_id_pk" PRIMARY KEY("books_id","user_id")
);
--> statement-breakpoint
CREATE TABLE "passkey_challenges" (
	"challenge" text PRIMARY KEY NOT NULL,
	"user_id" uuid,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "passkeys" (
	"id" text PRIMARY KEY NOT NULL,
	"user_id" uuid NOT NULL,
	"name" text NOT NULL,
	"public_key" text NOT NULL,
	"counter" bigint NOT NULL,
	"transports" text[] NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"last_used_at" timestamp with time zone
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
CREATE TABLE "sessions" (
	"id_hash" text PRIMARY KEY NOT NULL,
	"user_id" uuid NOT NULL,
	"id" uuid DEFAULT gen_random_uuid() NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"last_seen_at" timestamp with time zone DEFAULT now() NOT NULL,
	"address" text DEFAULT '' NOT NULL,
	"browser" text DEFAULT '' NOT NULL,
	CONSTRAINT "sessions_id_unique" UNIQUE("id")
);
--> statement-breakpoint
CREATE TABLE "set_up_codes" (
	"code_hash" text PRIMARY KEY NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sign_in_attempts" (
	"key" text PRIMARY KEY NOT NULL,
	"count" integer NOT NULL,
	"last_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "users" (
	"id" uuid PRIMARY KEY NOT NULL,
	"email" text NOT NULL,
	"name" text NOT NULL,
	"password_hash" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"erased_at" timestamp with time zone,
	CONSTRAINT "users_email_unique" UNIQUE("email")
);
--> statement-breakpoint
CREATE TABLE "answers" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"question_id" uuid NOT NULL,
	"words" text NOT NULL,
	"written_by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "answers_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "attachments" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"line_id" uuid NOT NULL,
	"file_name" text NOT NULL,
	"type" text NOT NULL,
	"size" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	"added_by" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "attachments_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "question_lines" (
	"books_id" uuid NOT NULL,
	"question_id" uuid NOT NULL,
	"line_id" uuid NOT NULL,
	CONSTRAINT "question_lines_books_id_question_id_line_id_pk" PRIMARY KEY("books_id","question_id","line_id")
);
--> statement-breakpoint
CREATE TABLE "questions" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"asked_of" text NOT NULL,
	"asked_user_id" uuid,
	"words" text NOT NULL,
	"asked_by" uuid NOT NULL,
	"asked_at" timestamp with time zone NOT NULL,
	"state" text NOT NULL,
	"step" bigint NOT NULL,
	CONSTRAINT "questions_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "habit_marks" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"kind" text NOT NULL,
	"payee_id" uuid,
	"stems" text[] NOT NULL,
	"is_live" boolean DEFAULT true NOT NULL,
	"step" bigint NOT NULL,
	CONSTRAINT "habit_marks_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
CREATE TABLE "rules" (
	"books_id" uuid NOT NULL,
	"id" uuid NOT NULL,
	"name" text NOT NULL,
	"rank" double precision NOT NULL,
	"is_on" boolean NOT NULL,
	"is_here" boolean DEFAULT true NOT NULL,
	"body" jsonb NOT NULL,
	"since_step" bigint NOT NULL,
	"stopped_step" bigint,
	"last_step" bigint NOT NULL,
	CONSTRAINT "rules_books_id_id_pk" PRIMARY KEY("books_id","id")
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
CREATE TABLE "step_needs" (
	"books_id" uuid NOT NULL,
	"step_no" bigint NOT NULL,
	"thing" text NOT NULL,
	"thing_id" uuid NOT NULL,
	CONSTRAINT "step_needs_books_id_step_no_thing_thing_id_pk" PRIMARY KEY("books_id","step_no","thing","thing_id")
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
	"turns" bigint GENERATED ALWAYS AS (coalesce(undoes, redoes)) STORED,
	"hash" "bytea",
	CONSTRAINT "steps_books_id_no_pk" PRIMARY KEY("books_id","no")
);
--> statement-breakpoint
ALTER TABLE "first_proposals" ADD CONSTRAINT "first_proposals_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "first_proposals" ADD CONSTRAINT "first_proposals_books_id_digest_proposal_texts_books_id_digest_fk" FOREIGN KEY ("books_id","digest") REFERENCES "public"."proposal_texts"("books_id","digest") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mandates" ADD CONSTRAINT "mandates_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mandates" ADD CONSTRAINT "mandates_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "proposal_texts" ADD CONSTRAINT "proposal_texts_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "accounts" ADD CONSTRAINT "accounts_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "accounts" ADD CONSTRAINT "accounts_books_id_parent_id_accounts_books_id_id_fk" FOREIGN KEY ("books_id","parent_id") REFERENCES "public"."accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bank_accounts" ADD CONSTRAINT "bank_accounts_books_id_account_id_accounts_books_id_id_fk" FOREIGN KEY ("books_id","account_id") REFERENCES "public"."accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cost_objects" ADD CONSTRAINT "cost_objects_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "payees" ADD CONSTRAINT "payees_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "payees" ADD CONSTRAINT "payees_books_id_merged_into_payees_books_id_id_fk" FOREIGN KEY ("books_id","merged_into") REFERENCES "public"."payees"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tax_codes" ADD CONSTRAINT "tax_codes_books_id_input_account_id_accounts_books_id_id_fk" FOREIGN KEY ("books_id","input_account_id") REFERENCES "public"."accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tax_codes" ADD CONSTRAINT "tax_codes_books_id_output_account_id_accounts_books_id_id_fk" FOREIGN KEY ("books_id","output_account_id") REFERENCES "public"."accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tax_rates" ADD CONSTRAINT "tax_rates_books_id_tax_code_id_tax_codes_books_id_id_fk" FOREIGN KEY ("books_id","tax_code_id") REFERENCES "public"."tax_codes"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "announced_lines" ADD CONSTRAINT "announced_lines_books_id_feed_id_feeds_books_id_id_fk" FOREIGN KEY ("books_id","feed_id") REFERENCES "public"."feeds"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "consents" ADD CONSTRAINT "consents_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "feeds" ADD CONSTRAINT "feeds_books_id_consent_id_consents_books_id_id_fk" FOREIGN KEY ("books_id","consent_id") REFERENCES "public"."consents"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "feeds" ADD CONSTRAINT "feeds_books_id_bank_account_id_bank_accounts_books_id_id_fk" FOREIGN KEY ("books_id","bank_account_id") REFERENCES "public"."bank_accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "allocations" ADD CONSTRAINT "allocations_books_id_decision_id_decisions_books_id_id_fk" FOREIGN KEY ("books_id","decision_id") REFERENCES "public"."decisions"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "allocations" ADD CONSTRAINT "allocations_books_id_document_id_documents_books_id_id_fk" FOREIGN KEY ("books_id","document_id") REFERENCES "public"."documents"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "decision_legs" ADD CONSTRAINT "decision_legs_books_id_decision_id_decisions_books_id_id_fk" FOREIGN KEY ("books_id","decision_id") REFERENCES "public"."decisions"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "decision_legs" ADD CONSTRAINT "decision_legs_books_id_leg_id_legs_books_id_id_fk" FOREIGN KEY ("books_id","leg_id") REFERENCES "public"."legs"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "decision_lines" ADD CONSTRAINT "decision_lines_books_id_decision_id_decisions_books_id_id_fk" FOREIGN KEY ("books_id","decision_id") REFERENCES "public"."decisions"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "decision_lines" ADD CONSTRAINT "decision_lines_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "decisions" ADD CONSTRAINT "decisions_books_id_copy_of_lines_books_id_id_fk" FOREIGN KEY ("books_id","copy_of") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "documents" ADD CONSTRAINT "documents_books_id_entry_id_entries_books_id_id_fk" FOREIGN KEY ("books_id","entry_id") REFERENCES "public"."entries"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "documents" ADD CONSTRAINT "documents_books_id_payee_id_payees_books_id_id_fk" FOREIGN KEY ("books_id","payee_id") REFERENCES "public"."payees"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "entries" ADD CONSTRAINT "entries_books_id_opening_of_bank_accounts_books_id_id_fk" FOREIGN KEY ("books_id","opening_of") REFERENCES "public"."bank_accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "entries" ADD CONSTRAINT "entries_books_id_payee_id_payees_books_id_id_fk" FOREIGN KEY ("books_id","payee_id") REFERENCES "public"."payees"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_books_id_entry_id_entries_books_id_id_fk" FOREIGN KEY ("books_id","entry_id") REFERENCES "public"."entries"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_books_id_account_id_accounts_books_id_id_fk" FOREIGN KEY ("books_id","account_id") REFERENCES "public"."accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_books_id_tax_code_id_tax_codes_books_id_id_fk" FOREIGN KEY ("books_id","tax_code_id") REFERENCES "public"."tax_codes"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_books_id_cost_centre_id_cost_objects_books_id_id_fk" FOREIGN KEY ("books_id","cost_centre_id") REFERENCES "public"."cost_objects"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "legs" ADD CONSTRAINT "legs_books_id_job_id_cost_objects_books_id_id_fk" FOREIGN KEY ("books_id","job_id") REFERENCES "public"."cost_objects"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "aliases" ADD CONSTRAINT "aliases_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "batches" ADD CONSTRAINT "batches_books_id_bank_account_id_bank_accounts_books_id_id_fk" FOREIGN KEY ("books_id","bank_account_id") REFERENCES "public"."bank_accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "day_balances" ADD CONSTRAINT "day_balances_books_id_batch_id_batches_books_id_id_fk" FOREIGN KEY ("books_id","batch_id") REFERENCES "public"."batches"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "dismissals" ADD CONSTRAINT "dismissals_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "dismissals" ADD CONSTRAINT "dismissals_books_id_payee_id_payees_books_id_id_fk" FOREIGN KEY ("books_id","payee_id") REFERENCES "public"."payees"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "drafts" ADD CONSTRAINT "drafts_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "layouts" ADD CONSTRAINT "layouts_books_id_bank_account_id_bank_accounts_books_id_id_fk" FOREIGN KEY ("books_id","bank_account_id") REFERENCES "public"."bank_accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "learned_stems" ADD CONSTRAINT "learned_stems_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lines" ADD CONSTRAINT "lines_books_id_bank_account_id_bank_accounts_books_id_id_fk" FOREIGN KEY ("books_id","bank_account_id") REFERENCES "public"."bank_accounts"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "noise_words" ADD CONSTRAINT "noise_words_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "proposals" ADD CONSTRAINT "proposals_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sightings" ADD CONSTRAINT "sightings_books_id_batch_id_batches_books_id_id_fk" FOREIGN KEY ("books_id","batch_id") REFERENCES "public"."batches"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sightings" ADD CONSTRAINT "sightings_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "upload_pieces" ADD CONSTRAINT "upload_pieces_books_id_upload_id_uploads_books_id_id_fk" FOREIGN KEY ("books_id","upload_id") REFERENCES "public"."uploads"("books_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "uploads" ADD CONSTRAINT "uploads_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invitations" ADD CONSTRAINT "invitations_invited_by_users_id_fk" FOREIGN KEY ("invited_by") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "memberships" ADD CONSTRAINT "memberships_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passkey_challenges" ADD CONSTRAINT "passkey_challenges_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passkeys" ADD CONSTRAINT "passkeys_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recovery_codes" ADD CONSTRAINT "recovery_codes_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reset_links" ADD CONSTRAINT "reset_links_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "second_factors" ADD CONSTRAINT "second_factors_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answers" ADD CONSTRAINT "answers_books_id_question_id_questions_books_id_id_fk" FOREIGN KEY ("books_id","question_id") REFERENCES "public"."questions"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attachments" ADD CONSTRAINT "attachments_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "question_lines" ADD CONSTRAINT "question_lines_books_id_question_id_questions_books_id_id_fk" FOREIGN KEY ("books_id","question_id") REFERENCES "public"."questions"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "question_lines" ADD CONSTRAINT "question_lines_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "habit_marks" ADD CONSTRAINT "habit_marks_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "habit_marks" ADD CONSTRAINT "habit_marks_books_id_payee_id_payees_books_id_id_fk" FOREIGN KEY ("books_id","payee_id") REFERENCES "public"."payees"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rules" ADD CONSTRAINT "rules_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_items" ADD CONSTRAINT "step_items_books_id_step_no_steps_books_id_no_fk" FOREIGN KEY ("books_id","step_no") REFERENCES "public"."steps"("books_id","no") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_needs" ADD CONSTRAINT "step_needs_books_id_step_no_steps_books_id_no_fk" FOREIGN KEY ("books_id","step_no") REFERENCES "public"."steps"("books_id","no") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "steps" ADD CONSTRAINT "steps_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "audit_records_user" ON "audit_records" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "audit_records_subject" ON "audit_records" USING btree ("subject_id");--> statement-breakpoint
CREATE UNIQUE INDEX "accounts_code" ON "accounts" USING btree ("books_id","code") WHERE "accounts"."is_here";--> statement-breakpoint
CREATE UNIQUE INDEX "accounts_role" ON "accounts" USING btree ("books_id","role") WHERE "accounts"."is_here" and "accounts"."role" is not null;--> statement-breakpoint
CREATE UNIQUE INDEX "bank_accounts_account" ON "bank_accounts" USING btree ("books_id","account_id") WHERE "bank_accounts"."is_here";--> statement-breakpoint
CREATE UNIQUE INDEX "bank_accounts_number" ON "bank_accounts" USING btree ("books_id","number") WHERE "bank_accounts"."is_here";--> statement-breakpoint
CREATE UNIQUE INDEX "cost_objects_name" ON "cost_objects" USING btree ("books_id","kind","name_key") WHERE "cost_objects"."is_here";--> statement-breakpoint
CREATE UNIQUE INDEX "payees_name" ON "payees" USING btree ("books_id","name_key") WHERE "payees"."is_here";--> statement-breakpoint
CREATE INDEX "feeds_account" ON "feeds" USING btree ("books_id","bank_account_id");--> statement-breakpoint
CREATE INDEX "allocations_document" ON "allocations" USING btree ("books_id","document_id");--> statement-breakpoint
CREATE UNIQUE INDEX "decision_legs_live" ON "decision_legs" USING btree ("books_id","leg_id") WHERE "decision_legs"."is_live";--> statement-breakpoint
CREATE UNIQUE INDEX "decision_lines_live" ON "decision_lines" USING btree ("books_id","line_id") WHERE "decision_lines"."is_live";--> statement-breakpoint
CREATE INDEX "decisions_rule" ON "decisions" USING btree ("books_id","rule_id") WHERE "decisions"."rule_id" is not null;--> statement-breakpoint
CREATE INDEX "decisions_copy" ON "decisions" USING btree ("books_id","copy_of") WHERE "decisions"."copy_of" is not null;--> statement-breakpoint
CREATE INDEX "decisions_step" ON "decisions" USING btree ("books_id","step");--> statement-breakpoint
CREATE INDEX "documents_entry" ON "documents" USING btree ("books_id","entry_id");--> statement-breakpoint
CREATE INDEX "documents_payee" ON "documents" USING btree ("books_id","payee_id");--> statement-breakpoint
CREATE INDEX "entries_date" ON "entries" USING btree ("books_id","date");--> statement-breakpoint
CREATE INDEX "entries_step" ON "entries" USING btree ("books_id","step");--> statement-breakpoint
CREATE INDEX "entries_by_hand" ON "entries" USING btree ("books_id") WHERE "entries"."content" is not null;--> statement-breakpoint
CREATE UNIQUE INDEX "entries_one_opening" ON "entries" USING btree ("books_id","opening_of") WHERE not "entries"."is_void";--> statement-breakpoint
CREATE INDEX "legs_entry" ON "legs" USING btree ("books_id","entry_id");--> statement-breakpoint
CREATE INDEX "legs_account" ON "legs" USING btree ("books_id","account_id");--> statement-breakpoint
CREATE INDEX "legs_bank_amount" ON "legs" USING btree ("books_id","amount") WHERE "legs"."role" = 'bank';--> statement-breakpoint
CREATE INDEX "aliases_stem" ON "aliases" USING btree ("books_id","stem");--> statement-breakpoint
CREATE INDEX "batches_account" ON "batches" USING btree ("books_id","bank_account_id","closing_date");--> statement-breakpoint
CREATE INDEX "lines_account_date" ON "lines" USING btree ("books_id","bank_account_id","date");--> statement-breakpoint
CREATE INDEX "lines_stem" ON "lines" USING btree ("books_id","stem");--> statement-breakpoint
CREATE INDEX "lines_size" ON "lines" USING btree ("books_id",abs("amount"));--> statement-breakpoint
CREATE INDEX "proposals_digest" ON "proposals" USING btree ("books_id","digest");--> statement-breakpoint
CREATE INDEX "sightings_line" ON "sightings" USING btree ("books_id","line_id");--> statement-breakpoint
CREATE INDEX "memberships_user" ON "memberships" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "passkeys_user" ON "passkeys" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "sessions_user" ON "sessions" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "answers_question" ON "answers" USING btree ("books_id","question_id");--> statement-breakpoint
CREATE INDEX "attachments_line" ON "attachments" USING btree ("books_id","line_id");--> statement-breakpoint
CREATE INDEX "question_lines_line" ON "question_lines" USING btree ("books_id","line_id");--> statement-breakpoint
CREATE INDEX "habit_marks_payee" ON "habit_marks" USING btree ("books_id","payee_id");--> statement-breakpoint
CREATE INDEX "step_items_thing" ON "step_items" USING btree ("books_id","thing_id");--> statement-breakpoint
CREATE INDEX "step_needs_thing" ON "step_needs" USING btree ("books_id","thing_id");--> statement-breakpoint
CREATE INDEX "steps_turns" ON "steps" USING btree ("books_id","turns","no");
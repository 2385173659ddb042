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
ALTER TABLE "accounts" ADD COLUMN "purpose" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "books" ADD COLUMN "asset_threshold" bigint DEFAULT 80000;--> statement-breakpoint
ALTER TABLE "books" ADD COLUMN "demands" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "books" ADD COLUMN "accounts_made_by" text DEFAULT 'bookkeeper' NOT NULL;--> statement-breakpoint
ALTER TABLE "memberships" ADD COLUMN "preferences" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "questions" ADD COLUMN "asked_user_id" uuid;--> statement-breakpoint
ALTER TABLE "dismissals" ADD CONSTRAINT "dismissals_books_id_books_id_fk" FOREIGN KEY ("books_id") REFERENCES "public"."books"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "dismissals" ADD CONSTRAINT "dismissals_books_id_payee_id_payees_books_id_id_fk" FOREIGN KEY ("books_id","payee_id") REFERENCES "public"."payees"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invitations" ADD CONSTRAINT "invitations_invited_by_users_id_fk" FOREIGN KEY ("invited_by") REFERENCES "public"."users"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE dismissals ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_books ON dismissals
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid)
  WITH CHECK (books_id = nullif(current_setting('app.books_id', true), '')::uuid);
--> statement-breakpoint
GRANT SELECT, INSERT ON dismissals TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (is_live) ON dismissals TO zubrell_app;
--> statement-breakpoint
GRANT SELECT, INSERT, DELETE ON invitations TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (asked_user_id) ON questions TO zubrell_app;
--> statement-breakpoint
UPDATE accounts SET role = starter.role
FROM (VALUES
  ('1090', 'Between own accounts', 'transfers'), ('1500', 'Equipment', 'fixedAssets'),
  ('2200', 'Tax', 'taxOwed'), ('2300', 'Wages and social charges owed', 'wagesOwed'),
  ('2400', 'Loans', 'loans')
) AS starter (code, name, role)
WHERE accounts.code = starter.code AND accounts.name = starter.name AND accounts.role IS NULL;

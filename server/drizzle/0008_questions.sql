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
	"words" text NOT NULL,
	"asked_by" uuid NOT NULL,
	"asked_at" timestamp with time zone NOT NULL,
	"state" text NOT NULL,
	"step" bigint NOT NULL,
	CONSTRAINT "questions_books_id_id_pk" PRIMARY KEY("books_id","id")
);
--> statement-breakpoint
ALTER TABLE "lines" ADD COLUMN "asked" text;--> statement-breakpoint
ALTER TABLE "answers" ADD CONSTRAINT "answers_books_id_question_id_questions_books_id_id_fk" FOREIGN KEY ("books_id","question_id") REFERENCES "public"."questions"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attachments" ADD CONSTRAINT "attachments_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "question_lines" ADD CONSTRAINT "question_lines_books_id_question_id_questions_books_id_id_fk" FOREIGN KEY ("books_id","question_id") REFERENCES "public"."questions"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "question_lines" ADD CONSTRAINT "question_lines_books_id_line_id_lines_books_id_id_fk" FOREIGN KEY ("books_id","line_id") REFERENCES "public"."lines"("books_id","id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "answers_question" ON "answers" USING btree ("books_id","question_id");--> statement-breakpoint
CREATE INDEX "attachments_line" ON "attachments" USING btree ("books_id","line_id");--> statement-breakpoint
CREATE INDEX "question_lines_line" ON "question_lines" USING btree ("books_id","line_id");
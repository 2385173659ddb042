CREATE TABLE "crashed_jobs" (
	"job_id" bigint PRIMARY KEY NOT NULL,
	"times" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON crashed_jobs TO zubrell_app;

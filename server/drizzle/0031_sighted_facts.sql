ALTER TABLE "sightings" ADD COLUMN "is_fold" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "sightings" ADD COLUMN "own" jsonb;--> statement-breakpoint
ALTER TABLE "sightings" ADD COLUMN "apart_line_id" uuid;--> statement-breakpoint
UPDATE sightings g SET is_fold = true
FROM batches b
WHERE b.books_id = g.books_id AND b.id = g.batch_id AND EXISTS (
  SELECT FROM sightings o
  JOIN batches t ON t.books_id = o.books_id AND t.id = o.batch_id
  WHERE o.books_id = g.books_id AND o.line_id = g.line_id AND o.batch_id <> g.batch_id
    AND t.created_at < b.created_at);
--> statement-breakpoint
-- What a batch said is never changed, only what was made of it.
GRANT UPDATE (apart_line_id) ON sightings TO zubrell_app;

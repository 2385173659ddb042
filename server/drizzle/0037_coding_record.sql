-- How much of each month was decided as proposed, and how many presses it took, is kept by day and by step: the record is
-- read without reading decisions.
CREATE TEMPORARY TABLE counted_presses ON COMMIT DROP AS
  SELECT p.books_id, p.step_no, date_trunc('month', l.date)::date AS month,
    p.presses::double precision * count(*) FILTER (WHERE d.kind IN ('posted', 'paired'))
      / sum(count(*)) OVER (PARTITION BY p.books_id, p.step_no) AS presses
  FROM step_presses p
  JOIN decisions d ON d.books_id = p.books_id AND d.step = p.step_no
  JOIN decision_lines t ON t.books_id = d.books_id AND t.decision_id = d.id
  JOIN lines l ON l.books_id = t.books_id AND l.id = t.line_id
  GROUP BY p.books_id, p.step_no, 3;
--> statement-breakpoint
DELETE FROM step_presses;--> statement-breakpoint
ALTER TABLE "step_presses" DROP CONSTRAINT "step_presses_books_id_step_no_pk";--> statement-breakpoint
ALTER TABLE "step_presses" ALTER COLUMN "presses" SET DATA TYPE double precision;--> statement-breakpoint
ALTER TABLE "step_presses" ADD COLUMN "month" date NOT NULL;--> statement-breakpoint
ALTER TABLE "step_presses" ADD CONSTRAINT "step_presses_books_id_step_no_month_pk" PRIMARY KEY("books_id","step_no","month");--> statement-breakpoint
INSERT INTO step_presses (books_id, step_no, month, presses)
  SELECT books_id, step_no, month, presses FROM counted_presses WHERE presses > 0;--> statement-breakpoint
DELETE FROM decided_days;--> statement-breakpoint
ALTER TABLE "decided_days" DROP CONSTRAINT "decided_days_books_id_bank_account_id_date_is_out_kind_reason_pk";--> statement-breakpoint
ALTER TABLE "decided_days" ADD COLUMN "source" text NOT NULL;--> statement-breakpoint
ALTER TABLE "decided_days" ADD COLUMN "looked" integer NOT NULL;--> statement-breakpoint
ALTER TABLE "decided_days" ADD COLUMN "kept" integer NOT NULL;--> statement-breakpoint
ALTER TABLE "decided_days" ADD COLUMN "unseen" integer NOT NULL;--> statement-breakpoint
ALTER TABLE "decided_days" ADD CONSTRAINT "decided_days_pk" PRIMARY KEY("books_id","bank_account_id","date","is_out","kind","reason","source");--> statement-breakpoint
CREATE INDEX "documents_exchanged" ON "documents" USING btree ("books_id") WHERE "documents"."exchange" is not null;--> statement-breakpoint
CREATE INDEX "decisions_looked" ON "decisions" USING btree ("books_id","step") WHERE "decisions"."odds" is not null and "decisions"."way" in ('line', 'stack');--> statement-breakpoint
-- What a decision is in the record: what proposed it, whether somebody looked at it, and whether that was left.
CREATE VIEW decisions_as_recorded AS
  SELECT books_id, id, kind, coalesce(reason, '') AS reason, coalesce(proposed_by, 'hand') AS source, is_looked::integer AS looked,
    (is_looked AND (is_account_kept OR kind = 'paired' AND is_kept))::integer AS kept,
    (coalesce(way, '') IN ('sweep', 'rule'))::integer AS unseen
  FROM (SELECT *, coalesce(way, '') IN ('line', 'stack') AS is_looked FROM decisions) d;
--> statement-breakpoint
DROP VIEW days_that_are_decided;--> statement-breakpoint
CREATE VIEW days_that_are_decided AS
  SELECT l.books_id, l.bank_account_id, l.date, l.amount < 0 AS is_out, d.kind, d.reason, d.source,
    count(*)::integer AS count, sum(l.amount)::bigint AS amount, sum(d.looked)::integer AS looked,
    sum(d.kept)::integer AS kept, sum(d.unseen)::integer AS unseen
  FROM lines l
  JOIN decision_lines t ON t.books_id = l.books_id AND t.line_id = l.id AND t.is_live
  JOIN decisions_as_recorded d ON d.books_id = t.books_id AND d.id = t.decision_id
  WHERE l.is_here GROUP BY 1, 2, 3, 4, 5, 6, 7;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION count_decided(the_books uuid, lines_decided uuid[], decisions_of uuid[], signs integer[]) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  EXECUTE '
    INSERT INTO decided_days AS c (books_id, bank_account_id, date, is_out, kind, reason, source, count, amount, looked,
      kept, unseen)
    SELECT $1, l.bank_account_id, l.date, l.amount < 0, d.kind, d.reason, d.source, sum(changed.sign),
      sum(changed.sign * l.amount), sum(changed.sign * d.looked), sum(changed.sign * d.kept), sum(changed.sign * d.unseen)
    FROM unnest($2, $3, $4) AS changed (line_id, decision_id, sign)
    JOIN lines l ON l.books_id = $1 AND l.id = changed.line_id AND l.is_here
    JOIN decisions_as_recorded d ON d.books_id = $1 AND d.id = changed.decision_id
    GROUP BY 2, 3, 4, 5, 6, 7
    ON CONFLICT (books_id, bank_account_id, date, is_out, kind, reason, source)
      DO UPDATE SET count = c.count + excluded.count, amount = c.amount + excluded.amount,
        looked = c.looked + excluded.looked, kept = c.kept + excluded.kept, unseen = c.unseen + excluded.unseen'
  USING the_books, lines_decided, decisions_of, signs;
END $$;
--> statement-breakpoint
CREATE OR REPLACE FUNCTION count_lines(
  the_books uuid, ids uuid[], account_ids uuid[], days date[], amounts bigint[], the_way integer) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  EXECUTE '
    INSERT INTO decided_days AS c (books_id, bank_account_id, date, is_out, kind, reason, source, count, amount, looked,
      kept, unseen)
    SELECT $1, l.bank_account_id, l.date, l.amount < 0, d.kind, d.reason, d.source, count(*) * $6, sum(l.amount) * $6,
      sum(d.looked) * $6, sum(d.kept) * $6, sum(d.unseen) * $6
    FROM unnest($2, $3, $4, $5) AS l (id, bank_account_id, date, amount)
    JOIN decision_lines t ON t.books_id = $1 AND t.line_id = l.id AND t.is_live
    JOIN decisions_as_recorded d ON d.books_id = $1 AND d.id = t.decision_id
    GROUP BY 2, 3, 4, 5, 6, 7
    ON CONFLICT (books_id, bank_account_id, date, is_out, kind, reason, source)
      DO UPDATE SET count = c.count + excluded.count, amount = c.amount + excluded.amount,
        looked = c.looked + excluded.looked, kept = c.kept + excluded.kept, unseen = c.unseen + excluded.unseen'
  USING the_books, ids, account_ids, days, amounts, the_way;
END $$;
--> statement-breakpoint
INSERT INTO decided_days (books_id, bank_account_id, date, is_out, kind, reason, source, count, amount, looked, kept, unseen)
  SELECT books_id, bank_account_id, date, is_out, kind, reason, source, count, amount, looked, kept, unseen
  FROM days_that_are_decided;

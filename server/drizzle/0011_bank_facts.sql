ALTER TABLE "entries" ADD COLUMN "reference" text;--> statement-breakpoint
ALTER TABLE "entries" ADD COLUMN "method" text;--> statement-breakpoint
UPDATE entries e SET reference = l.reference, method = l.type,
  number = CASE WHEN e.kind IN ('line', 'settlement') THEN l.cheque_number ELSE e.number END
FROM legs g
JOIN decision_legs x ON x.books_id = g.books_id AND x.leg_id = g.id AND x.is_live
JOIN decision_lines d ON d.books_id = x.books_id AND d.decision_id = x.decision_id AND d.is_live
JOIN lines l ON l.books_id = d.books_id AND l.id = d.line_id
WHERE g.books_id = e.books_id AND g.entry_id = e.id AND e.kind IN ('line', 'settlement');

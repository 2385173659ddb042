-- What a payment entered by hand settles is tied to its control legs: only bank legs come to the same as lines.
CREATE OR REPLACE FUNCTION check_pairing() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  bank numeric;
  books numeric;
BEGIN
  IF NOT EXISTS (
    SELECT FROM decisions WHERE books_id = NEW.books_id AND id = NEW.decision_id AND kind = 'paired'
  ) THEN
    RETURN NULL;
  END IF;
  SELECT coalesce(sum(l.amount), 0) INTO bank
  FROM decision_lines x JOIN lines l ON l.books_id = x.books_id AND l.id = x.line_id
  WHERE x.books_id = NEW.books_id AND x.decision_id = NEW.decision_id AND x.is_live;
  SELECT coalesce(sum(g.amount), 0) INTO books
  FROM decision_legs x
  JOIN legs g ON g.books_id = x.books_id AND g.id = x.leg_id AND g.role = 'bank'
  WHERE x.books_id = NEW.books_id AND x.decision_id = NEW.decision_id AND x.is_live;
  IF bank <> books OR EXISTS (
    SELECT FROM decision_legs x
    JOIN legs g ON g.books_id = x.books_id AND g.id = x.leg_id
    JOIN entries e ON e.books_id = g.books_id AND e.id = g.entry_id
    WHERE x.books_id = NEW.books_id AND x.decision_id = NEW.decision_id AND x.is_live AND e.is_void
  ) THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'PAIR_UNBALANCED',
      DETAIL = json_build_object('decision', NEW.decision_id, 'bank', bank, 'books', books)::text;
  END IF;
  RETURN NULL;
END $$;

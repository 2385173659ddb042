-- What Drizzle can't say: the functions by which the database keeps its own rules, and the triggers that call them.
-- The ledger: every entry has two legs or more and they add up to zero when the transaction ends.
CREATE FUNCTION check_entry_balance() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  the_entry uuid;
  total numeric;
  leg_count integer;
BEGIN
  IF TG_TABLE_NAME = 'entries' THEN
    the_entry := NEW.id;
  ELSE
    the_entry := NEW.entry_id;
  END IF;
  SELECT coalesce(sum(amount), 0), count(*) INTO total, leg_count
  FROM legs WHERE books_id = NEW.books_id AND entry_id = the_entry;
  IF total <> 0 OR leg_count < 2 THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'ENTRY_UNBALANCED',
      DETAIL = json_build_object('entry', the_entry, 'total', total, 'legs', leg_count)::text;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
-- Nothing changes in a closed period: the books' lock date, and a bank account's closed statements.
CREATE FUNCTION raise_if_closed(the_date date, closed date) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
  IF closed IS NOT NULL AND the_date <= closed THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'PERIOD_CLOSED',
      DETAIL = json_build_object('date', the_date, 'closed', closed)::text;
  END IF;
END $$;
--> statement-breakpoint
CREATE FUNCTION check_entry_period() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM raise_if_closed(NEW.date, (SELECT lock_date FROM books WHERE id = NEW.books_id));
  IF TG_OP = 'UPDATE' THEN
    PERFORM raise_if_closed(NEW.date, max(b.closed_to))
    FROM legs l JOIN bank_accounts b ON b.books_id = l.books_id AND b.account_id = l.account_id
    WHERE l.books_id = NEW.books_id AND l.entry_id = NEW.id;
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE FUNCTION check_leg_period() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM raise_if_closed(e.date, b.closed_to)
  FROM entries e JOIN bank_accounts b ON b.books_id = e.books_id AND b.account_id = NEW.account_id
  WHERE e.books_id = NEW.books_id AND e.id = NEW.entry_id;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE FUNCTION check_decision_period() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  the_line record;
BEGIN
  SELECT date, bank_account_id INTO the_line
  FROM lines WHERE books_id = NEW.books_id AND id = NEW.line_id;
  PERFORM raise_if_closed(the_line.date, greatest(
    (SELECT closed_to FROM bank_accounts
     WHERE books_id = NEW.books_id AND id = the_line.bank_account_id),
    (SELECT lock_date FROM books WHERE id = NEW.books_id)));
  RETURN NEW;
END $$;
--> statement-breakpoint
-- After a bulk change the planner knows nothing of the new rows, and takes plans made for nearly empty
-- tables. Only the owner may analyze, so the program does it through this function.
CREATE FUNCTION refresh_statistics() RETURNS void LANGUAGE plpgsql SECURITY DEFINER
SET search_path = public, pg_temp AS $$
BEGIN
  ANALYZE lines, sightings, proposals, decisions, decision_lines, entries, legs, decision_legs;
END $$;
--> statement-breakpoint
-- Which feeds are due, over all books: the scheduler knows no books before it asks.
CREATE FUNCTION due_feeds(now timestamptz) RETURNS TABLE (books_id uuid, feed_id uuid)
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT books_id, id FROM feeds
  WHERE next_at <= now AND NOT is_fetching AND bank_account_id IS NOT NULL
  ORDER BY next_at
$$;
--> statement-breakpoint
-- A document is settled by no more than it comes to, and not while it is void.
CREATE FUNCTION check_allocation() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  the_document uuid;
  due bigint;
  settled numeric;
  voided boolean;
BEGIN
  IF TG_TABLE_NAME = 'documents' THEN the_document := NEW.id; ELSE the_document := NEW.document_id; END IF;
  SELECT d.amount, e.is_void, (
      SELECT coalesce(sum(a.amount), 0) FROM allocations a
      WHERE a.books_id = d.books_id AND a.document_id = d.id AND a.is_live)
    INTO due, voided, settled
  FROM documents d JOIN entries e ON e.books_id = d.books_id AND e.id = d.entry_id
  WHERE d.books_id = NEW.books_id AND d.id = the_document;
  IF settled <> 0 AND (voided OR sign(settled) <> sign(due) OR abs(settled) > abs(due)) THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'DOCUMENT_OVERPAID',
      DETAIL = json_build_object('document', the_document)::text;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
-- What is tied to a line stays in force, and what a document is settled by too.
CREATE FUNCTION check_void() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF (SELECT is_void FROM entries WHERE books_id = NEW.books_id AND id = NEW.id) AND (
    EXISTS (
      SELECT FROM legs g JOIN decision_legs x ON x.books_id = g.books_id AND x.leg_id = g.id
      WHERE g.books_id = NEW.books_id AND g.entry_id = NEW.id AND x.is_live)
    OR EXISTS (
      SELECT FROM documents d
      JOIN allocations a ON a.books_id = d.books_id AND a.document_id = d.id AND a.is_live
      WHERE d.books_id = NEW.books_id AND d.entry_id = NEW.id)) THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'ENTRY_PAIRED',
      DETAIL = json_build_object('entry', NEW.id)::text;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION check_kept_out() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  total numeric;
BEGIN
  IF NOT EXISTS (
    SELECT FROM decisions
    WHERE books_id = NEW.books_id AND id = NEW.decision_id AND reason = 'bankError'
  ) THEN
    RETURN NULL;
  END IF;
  SELECT coalesce(sum(l.amount), 0) INTO total
  FROM decision_lines x JOIN lines l ON l.books_id = x.books_id AND l.id = x.line_id
  WHERE x.books_id = NEW.books_id AND x.decision_id = NEW.decision_id AND x.is_live;
  IF total <> 0 THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'EXCLUDE_NOT_ZERO',
      DETAIL = json_build_object('total', total)::text;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
-- What a payment entered by hand settles is tied to its control legs: only bank legs come to the same as lines.
CREATE FUNCTION check_pairing() RETURNS trigger LANGUAGE plpgsql AS $$
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
--> statement-breakpoint
-- A text without differences of case, width or ligature, as the core's foldCase makes it (Unicode, section 3.13).
CREATE FUNCTION folded(value text) RETURNS text LANGUAGE sql IMMUTABLE PARALLEL SAFE STRICT
RETURN normalize(
  replace(
    replace(
      lower(upper(lower(normalize(value, NFKC) COLLATE "und-x-icu"))),
      U&'\03C2', U&'\03C3'),
    U&'i\0307', 'i'),
  NFC);
--> statement-breakpoint
-- The books whose habits may be asked in those of app.books_id: both take part, each owner of these owns the
-- others too, and whoever else sees proposals here was allowed to see what comes of it.
CREATE FUNCTION other_books() RETURNS TABLE (id uuid, place bigint, last_step bigint)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT other.id, row_number() OVER (ORDER BY other.id), other.last_step
  FROM books own
  JOIN books other ON other.id <> own.id AND other.uses_other_books
  WHERE own.id = nullif(current_setting('app.books_id', true), '')::uuid
    AND own.uses_other_books
    AND EXISTS (SELECT FROM memberships m WHERE m.books_id = own.id AND m.role = 'owner')
    AND NOT EXISTS (
      SELECT FROM memberships m
      WHERE m.books_id = own.id AND m.role IN ('bookkeeper', 'reviewer') AND NOT m.sees_other_books)
    AND NOT EXISTS (
      SELECT FROM memberships m
      WHERE m.books_id = own.id AND m.role = 'owner' AND NOT EXISTS (
        SELECT FROM memberships t
        WHERE t.books_id = other.id AND t.user_id = m.user_id AND t.role = 'owner'))
$$;
--> statement-breakpoint
-- Tells which they are, and after a space whether anything changed in them.
CREATE FUNCTION other_books_version() RETURNS text
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT coalesce(
    md5(string_agg(o.id::text, ',' ORDER BY o.id)) || ' ' ||
    md5(string_agg(o.last_step::text, ',' ORDER BY o.id)), '')
  FROM other_books() o
$$;
--> statement-breakpoint
-- What they did, by payee and what lines have in common: no line, no amount, no date and no name of theirs.
CREATE FUNCTION habits_of_other_books() RETURNS TABLE (
  book integer, payee text, wording text, is_out boolean,
  account_key text, account_name text, account_purpose text, account_type text, times integer)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT o.place::integer, y.name, l.stem, l.amount < 0, md5(a.id::text), a.name, a.purpose, a.type,
    count(*)::integer
  FROM other_books() o
  JOIN lines l ON l.books_id = o.id AND l.is_here
  JOIN decision_lines dl ON dl.books_id = l.books_id AND dl.line_id = l.id AND dl.is_live
  JOIN decisions d ON d.books_id = dl.books_id AND d.id = dl.decision_id
    AND d.kind = 'posted' AND NOT d.is_once AND jsonb_array_length(d.coding -> 'parts') = 1
  JOIN accounts a ON a.books_id = d.books_id AND a.is_here
    AND a.id = (d.coding -> 'parts' -> 0 ->> 'accountId')::uuid
    AND coalesce(a.role, '') NOT IN ('suspense', 'receivables', 'payables')
  LEFT JOIN payees y ON y.books_id = d.books_id AND y.id = (d.coding ->> 'payeeId')::uuid
  GROUP BY 1, 2, 3, 4, 5, 6, 7, 8
$$;
--> statement-breakpoint
-- What waits for a job, over all books: the sweeper knows no books before it asks.
CREATE FUNCTION waiting_work() RETURNS TABLE (task text, books_id uuid, id uuid)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT 'keepBatch', books_id, id FROM batches WHERE status = 'reading'
  UNION ALL
  SELECT 'fetchFeed', books_id, id FROM feeds WHERE is_fetching
$$;
--> statement-breakpoint
-- The tokens of all consents, as they are kept: a server seals them anew when its key changes.
CREATE FUNCTION consent_tokens() RETURNS TABLE (books_id uuid, id uuid, token text)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT books_id, id, token FROM consents WHERE token IS NOT NULL
$$;
--> statement-breakpoint
-- The time: of the machine, or of the fixed day that the tables' owner has set.
CREATE FUNCTION zubrell_now() RETURNS timestamptz
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT coalesce(
    (SELECT day + (clock_timestamp() AT TIME ZONE 'UTC')::time FROM fixed_day LIMIT 1) AT TIME ZONE 'UTC',
    clock_timestamp())
$$;
--> statement-breakpoint
-- Whose session it is, by the secret in its cookie.
CREATE FUNCTION user_of_session(session text) RETURNS uuid
LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  found uuid;
BEGIN
  SELECT user_id INTO found FROM sessions
  WHERE id_hash = encode(sha256(convert_to(session, 'UTF8')), 'hex');
  IF found IS NULL THEN
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'SIGN_IN_NEEDED', DETAIL = '{}';
  END IF;
  RETURN found;
END $$;
--> statement-breakpoint
-- What the person of this session asks for in these books may be done later in their name.
CREATE FUNCTION give_mandate(session text, the_books uuid) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  INSERT INTO mandates (books_id, user_id) VALUES (the_books, user_of_session(session))
  ON CONFLICT DO NOTHING
$$;
--> statement-breakpoint
-- Writes the head of a step. Without a session it is a job's, in the name of somebody who has asked for such work.
CREATE FUNCTION record_step(
  session text, mandator uuid, the_books uuid, the_no bigint, the_kind text, the_words text,
  the_undoes bigint, the_redoes bigint) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  person uuid;
BEGIN
  IF session IS NOT NULL THEN
    person := user_of_session(session);
  ELSIF the_kind IN ('keepBatch', 'rulePost')
    AND EXISTS (SELECT FROM mandates WHERE books_id = the_books AND user_id = mandator) THEN
    person := mandator;
  ELSE
    RAISE EXCEPTION USING ERRCODE = 'ZB001', MESSAGE = 'SIGN_IN_NEEDED', DETAIL = '{}';
  END IF;
  INSERT INTO steps (books_id, no, user_id, at, kind, words, undoes, redoes)
  VALUES (the_books, the_no, person, zubrell_now(), the_kind, the_words, the_undoes, the_redoes);
END $$;
--> statement-breakpoint
-- The end of a chain, locked until the transaction ends.
CREATE FUNCTION chain_head(the_books uuid, the_chain text) RETURNS audit_heads
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  head audit_heads;
BEGIN
  INSERT INTO audit_heads (books_id, chain, no, hash) VALUES (the_books, the_chain, 0, '')
  ON CONFLICT DO NOTHING;
  SELECT * INTO head FROM audit_heads
  WHERE books_id IS NOT DISTINCT FROM the_books AND chain = the_chain FOR UPDATE;
  RETURN head;
END $$;
--> statement-breakpoint
-- Hashes a step with all that it touched and needs onto the chain of its books.
CREATE FUNCTION seal_step(the_books uuid, the_no bigint) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  head audit_heads := chain_head(the_books, 'steps');
  items bytea;
  needs bytea;
  sealed bytea;
BEGIN
  SELECT coalesce(string_agg(sha256(convert_to(json_build_array(
    position, thing, thing_id, before, after)::text, 'UTF8')), ''::bytea ORDER BY position), '')
  INTO items FROM step_items WHERE books_id = the_books AND step_no = the_no;
  SELECT coalesce(string_agg(sha256(convert_to(json_build_array(
    thing, thing_id)::text, 'UTF8')), ''::bytea ORDER BY thing COLLATE "C", thing_id), '')
  INTO needs FROM step_needs WHERE books_id = the_books AND step_no = the_no;
  SELECT sha256(head.hash || convert_to(json_build_array(
    books_id, no, user_id, to_char(at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US'),
    kind, words, undoes, redoes)::text, 'UTF8') || sha256(items) || sha256(needs))
  INTO sealed FROM steps WHERE books_id = the_books AND no = the_no;
  UPDATE steps SET hash = sealed WHERE books_id = the_books AND no = the_no;
  UPDATE audit_heads SET no = the_no, hash = sealed
  WHERE books_id = the_books AND chain = 'steps';
END $$;
--> statement-breakpoint
CREATE FUNCTION seal_new_step() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM seal_step(NEW.books_id, NEW.no);
  RETURN NULL;
END $$;
--> statement-breakpoint
-- A step that is sealed touched what it touched.
CREATE FUNCTION refuse_sealed() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  IF EXISTS (
    SELECT FROM (SELECT DISTINCT books_id, step_no FROM added) a
    JOIN steps s ON s.books_id = a.books_id AND s.no = a.step_no WHERE s.hash IS NOT NULL
  ) THEN
    RAISE EXCEPTION 'a step that is sealed takes no more';
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
-- Appends to a chain of records.
CREATE FUNCTION append_record(
  the_books uuid, the_user uuid, the_kind text, the_subject uuid, the_details jsonb, the_personal jsonb)
RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  head audit_heads := chain_head(the_books, 'records');
  the_no bigint := head.no + 1;
  the_at timestamptz := zubrell_now();
  the_salt bytea := decode(replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', ''), 'hex');
  hidden bytea := sha256(the_salt || convert_to(the_personal::text, 'UTF8'));
  sealed bytea := sha256(head.hash || convert_to(json_build_array(
    the_books, the_no, to_char(the_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US'),
    the_user, the_kind, the_subject, the_details)::text, 'UTF8') || hidden);
BEGIN
  INSERT INTO audit_records (
    books_id, no, at, user_id, kind, subject_id, details, personal, salt, personal_hash, hash)
  VALUES (the_books, the_no, the_at, the_user, the_kind, the_subject, the_details, the_personal,
    the_salt, hidden, sealed);
  UPDATE audit_heads SET no = the_no, hash = sealed
  WHERE books_id IS NOT DISTINCT FROM the_books AND chain = 'records';
END $$;
--> statement-breakpoint
-- Puts on record what the person of a session did, or what nobody known did; with the books only where they are there.
CREATE FUNCTION record_access(
  session text, the_books uuid, the_kind text, the_subject uuid, the_details jsonb, the_personal jsonb)
RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM append_record((SELECT id FROM books WHERE id = the_books), CASE WHEN session IS NULL THEN NULL ELSE user_of_session(session) END,
    the_kind, the_subject, the_details, the_personal);
END $$;
--> statement-breakpoint
-- No session is opened without being on record.
CREATE FUNCTION record_session() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM append_record(NULL, NEW.user_id, 'signedIn', NULL, '{}',
    jsonb_build_object('address', NEW.address, 'browser', NEW.browser));
  RETURN NULL;
END $$;
--> statement-breakpoint
-- What is personal in records and questions of somebody who is erased goes; that they are there, and in order, can still be proved.
CREATE FUNCTION erase_personal(the_user uuid) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  IF NOT EXISTS (SELECT FROM users WHERE id = the_user AND erased_at IS NOT NULL) THEN
    RAISE EXCEPTION 'only who is erased is forgotten';
  END IF;
  UPDATE audit_records r SET personal = NULL, salt = NULL
  WHERE user_id = the_user OR subject_id = the_user OR EXISTS (
    SELECT FROM audit_records j
    WHERE j.books_id = r.books_id AND j.kind = 'joined' AND j.subject_id = the_user
      AND j.details ->> 'invitation' = r.details ->> 'invitation');
  UPDATE questions SET asked_of = (SELECT name FROM users WHERE id = the_user)
  WHERE asked_user_id = the_user;
END $$;
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER entries_balanced AFTER INSERT ON entries
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_entry_balance();
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER legs_balanced AFTER INSERT OR UPDATE ON legs
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_entry_balance();
--> statement-breakpoint
CREATE TRIGGER entries_period BEFORE INSERT OR UPDATE ON entries
  FOR EACH ROW EXECUTE FUNCTION check_entry_period();
--> statement-breakpoint
CREATE TRIGGER legs_period BEFORE INSERT OR UPDATE ON legs
  FOR EACH ROW EXECUTE FUNCTION check_leg_period();
--> statement-breakpoint
CREATE TRIGGER decision_lines_period BEFORE INSERT OR UPDATE ON decision_lines
  FOR EACH ROW EXECUTE FUNCTION check_decision_period();
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER allocations_within AFTER INSERT OR UPDATE ON allocations
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_allocation();
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER documents_within AFTER UPDATE ON documents
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_allocation();
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER entries_void AFTER UPDATE ON entries
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW WHEN (NEW.is_void) EXECUTE FUNCTION check_void();
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER decision_lines_paired AFTER INSERT OR UPDATE ON decision_lines
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_pairing();
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER decision_legs_paired AFTER INSERT OR UPDATE ON decision_legs
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_pairing();
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER decision_lines_kept_out AFTER INSERT OR UPDATE ON decision_lines
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION check_kept_out();
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER steps_sealed AFTER INSERT ON steps
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION seal_new_step();
--> statement-breakpoint
CREATE TRIGGER step_items_sealed AFTER INSERT ON step_items
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION refuse_sealed();
--> statement-breakpoint
CREATE TRIGGER step_needs_sealed AFTER INSERT ON step_needs
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION refuse_sealed();
--> statement-breakpoint
CREATE TRIGGER sessions_recorded AFTER INSERT ON sessions
  FOR EACH ROW EXECUTE FUNCTION record_session();

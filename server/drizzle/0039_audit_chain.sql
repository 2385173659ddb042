-- Steps and records are written by functions that take the person from the session and the time from the database:
-- the running program can't write them in anybody else's name, nor change or remove one. Each holds the hash of the
-- one before, so that a changed or missing row is found.

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
-- Steps that are there already are sealed as they are found.
DO $$
DECLARE
  step record;
BEGIN
  FOR step IN SELECT books_id, no FROM steps ORDER BY books_id, no LOOP
    PERFORM seal_step(step.books_id, step.no);
  END LOOP;
END $$;
--> statement-breakpoint
CREATE FUNCTION seal_new_step() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM seal_step(NEW.books_id, NEW.no);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER steps_sealed AFTER INSERT ON steps
  DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION seal_new_step();
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
CREATE TRIGGER step_items_sealed AFTER INSERT ON step_items
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION refuse_sealed();
--> statement-breakpoint
CREATE TRIGGER step_needs_sealed AFTER INSERT ON step_needs
  REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION refuse_sealed();
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
CREATE TRIGGER sessions_recorded AFTER INSERT ON sessions
  FOR EACH ROW EXECUTE FUNCTION record_session();
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
ALTER TABLE audit_records ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
-- Records of the books, and what their members did outside of any books.
CREATE POLICY own_books ON audit_records FOR SELECT USING (
  books_id = nullif(current_setting('app.books_id', true), '')::uuid
  OR (books_id IS NULL AND EXISTS (
    SELECT FROM memberships m
    WHERE m.books_id = nullif(current_setting('app.books_id', true), '')::uuid
      AND m.user_id IN (audit_records.user_id, audit_records.subject_id))));
--> statement-breakpoint
ALTER TABLE audit_heads ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_books ON audit_heads FOR SELECT
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid);
--> statement-breakpoint
DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['proposal_texts', 'first_proposals', 'mandates'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format(
      'CREATE POLICY own_books ON %I
         USING (books_id = nullif(current_setting(''app.books_id'', true), '''')::uuid)
         WITH CHECK (books_id = nullif(current_setting(''app.books_id'', true), '''')::uuid)',
      name);
  END LOOP;
END $$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION zubrell_now(), user_of_session(text), give_mandate(text, uuid),
  record_step(text, uuid, uuid, bigint, text, text, bigint, bigint), chain_head(uuid, text),
  seal_step(uuid, bigint), append_record(uuid, uuid, text, uuid, jsonb, jsonb),
  record_access(text, uuid, text, uuid, jsonb, jsonb), erase_personal(uuid) FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION zubrell_now(), give_mandate(text, uuid),
  record_step(text, uuid, uuid, bigint, text, text, bigint, bigint),
  record_access(text, uuid, text, uuid, jsonb, jsonb), erase_personal(uuid) TO zubrell_app;
--> statement-breakpoint
REVOKE INSERT ON steps FROM zubrell_app;
--> statement-breakpoint
GRANT SELECT ON audit_records, audit_heads, mandates, fixed_day TO zubrell_app;
--> statement-breakpoint
GRANT SELECT, INSERT ON proposal_texts, first_proposals TO zubrell_app;
--> statement-breakpoint
GRANT SELECT, INSERT, UPDATE, DELETE ON second_factors, recovery_codes, reset_links TO zubrell_app;

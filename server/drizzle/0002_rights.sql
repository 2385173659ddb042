-- Whose rows are there, and what the program may do with them.
GRANT USAGE ON SCHEMA public TO zubrell_app;
--> statement-breakpoint
-- A transaction sees the rows of the books that it names. Memberships and invitations are read before books are chosen.
DO $$
DECLARE
  own constant text := 'nullif(current_setting(''app.books_id'', true), '''')::uuid';
  one text;
BEGIN
  FOR one IN
    SELECT c.relname FROM pg_class c
    JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'books_id'
    WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace
      AND c.relname NOT IN ('memberships', 'invitations', 'audit_heads', 'audit_records')
  LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', one);
    EXECUTE format(
      'CREATE POLICY own_books ON %1$I USING (books_id = %2$s) WITH CHECK (books_id = %2$s)', one, own);
  END LOOP;
END $$;
--> statement-breakpoint
ALTER TABLE books ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
-- Whoever works with books finds them in the list before any are chosen.
CREATE POLICY own_books ON books
  USING (
    id = nullif(current_setting('app.books_id', true), '')::uuid
    OR EXISTS (
      SELECT FROM memberships m WHERE m.books_id = books.id
        AND m.user_id = nullif(current_setting('app.user_id', true), '')::uuid))
  WITH CHECK (id = nullif(current_setting('app.books_id', true), '')::uuid);
--> statement-breakpoint
ALTER TABLE audit_heads ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY own_books ON audit_heads FOR SELECT
  USING (books_id = nullif(current_setting('app.books_id', true), '')::uuid);
--> statement-breakpoint
ALTER TABLE audit_records ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
-- What concerns no books is seen by those who work with whom it concerns.
CREATE POLICY own_books ON audit_records FOR SELECT
  USING (
    books_id = nullif(current_setting('app.books_id', true), '')::uuid
    OR books_id IS NULL AND EXISTS (
      SELECT FROM memberships m
      WHERE m.books_id = nullif(current_setting('app.books_id', true), '')::uuid
        AND m.user_id IN (audit_records.user_id, audit_records.subject_id)));
--> statement-breakpoint
-- What may be changed as one likes.
DO $$
DECLARE
  one text;
BEGIN
  FOREACH one IN ARRAY ARRAY[
    'accounts', 'announced_lines', 'bank_accounts', 'books', 'consents', 'cost_objects',
    'crashed_jobs', 'drafts', 'feeds', 'idempotency_keys', 'layouts', 'memberships',
    'passkey_challenges', 'passkeys', 'payees', 'proposals', 'recovery_codes', 'reset_links',
    'second_factors', 'sessions', 'set_up_codes', 'sign_in_attempts', 'tax_codes', 'tax_rates',
    'upload_pieces', 'uploads', 'users']
  LOOP
    EXECUTE format('GRANT SELECT, INSERT, UPDATE, DELETE ON %I TO zubrell_app', one);
  END LOOP;
END $$;
--> statement-breakpoint
-- What is only added to, but for the columns named.
DO $$
DECLARE
  one record;
BEGIN
  FOR one IN
    SELECT * FROM (VALUES
      ('aliases', 'is_live'),
      ('allocations', 'is_live'),
      ('answers', ''),
      ('attachments', ''),
      ('batches', 'closing, closing_date, format, from_date, layout, line_count, new_count, opening, problems, refusal, status, to_date'),
      ('day_balances', ''),
      ('decision_legs', 'is_live'),
      ('decision_lines', 'is_live'),
      ('decisions', ''),
      ('dismissals', 'is_live'),
      ('documents', 'amount, date, due_date, entry_id, kind, last_step, lines, note, number, number_key, payee_id, side'),
      ('entries', 'is_void'),
      ('first_proposals', ''),
      ('habit_marks', 'is_live'),
      ('learned_stems', 'target'),
      ('legs', ''),
      ('lines', 'asked, held, is_here, is_own, last_step, own_stem, stem, stem_step, twice_of'),
      ('noise_words', ''),
      ('proposal_texts', ''),
      ('question_lines', ''),
      ('questions', 'asked_user_id, state'),
      ('rules', 'body, is_here, is_on, last_step, name, rank, since_step, stopped_step'),
      ('sightings', 'apart_line_id'),
      ('step_items', ''),
      ('step_needs', '')
    ) AS kept (name, columns)
  LOOP
    EXECUTE format('GRANT SELECT, INSERT ON %I TO zubrell_app', one.name);
    IF one.columns <> '' THEN
      EXECUTE format('GRANT UPDATE (%s) ON %I TO zubrell_app', one.columns, one.name);
    END IF;
  END LOOP;
END $$;
--> statement-breakpoint
GRANT SELECT, INSERT, DELETE ON invitations TO zubrell_app;
--> statement-breakpoint
-- What only functions of the database write, in the name of a session.
GRANT SELECT ON audit_heads, audit_records, fixed_day, mandates, steps TO zubrell_app;
--> statement-breakpoint
-- Functions that run with the rights of the tables' owner are nobody's but those named, and the program's.
DO $$
DECLARE
  one record;
BEGIN
  FOR one IN
    SELECT p.oid::regprocedure AS called, p.proname IN (
      'consent_tokens', 'due_feeds', 'erase_personal', 'give_mandate', 'habits_of_other_books',
      'other_books_version', 'record_access', 'record_step', 'refresh_statistics', 'waiting_work',
      'zubrell_now') AS is_for_program
    FROM pg_proc p
    WHERE p.pronamespace = 'public'::regnamespace AND p.proname IN (
      'append_record', 'chain_head', 'consent_tokens', 'due_feeds', 'erase_personal', 'give_mandate',
      'habits_of_other_books', 'other_books', 'other_books_version', 'record_access', 'record_step',
      'refresh_statistics', 'seal_step', 'user_of_session', 'waiting_work', 'zubrell_now')
  LOOP
    EXECUTE format('REVOKE ALL ON FUNCTION %s FROM PUBLIC', one.called);
    IF one.is_for_program THEN
      EXECUTE format('GRANT EXECUTE ON FUNCTION %s TO zubrell_app', one.called);
    END IF;
  END LOOP;
END $$;

DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['questions', 'question_lines', 'answers', 'attachments'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', name);
    EXECUTE format(
      'CREATE POLICY own_books ON %I
         USING (books_id = nullif(current_setting(''app.books_id'', true), '''')::uuid)
         WITH CHECK (books_id = nullif(current_setting(''app.books_id'', true), '''')::uuid)',
      name);
  END LOOP;
END $$;
--> statement-breakpoint
-- Questions, answers and papers stay for ever; only a question's state can change.
GRANT SELECT, INSERT ON questions, question_lines, answers, attachments TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (state) ON questions TO zubrell_app;
--> statement-breakpoint
GRANT UPDATE (asked) ON lines TO zubrell_app;

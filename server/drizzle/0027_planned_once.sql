-- Asked for each entry of a sweep that is taken back: PL/pgSQL plans its queries once a connection, SQL once a call.
CREATE OR REPLACE FUNCTION closed_for_entry(the_books uuid, the_entry uuid) RETURNS date
LANGUAGE plpgsql STABLE SET search_path = public, pg_temp AS $$
BEGIN
  RETURN greatest((SELECT lock_date FROM books WHERE id = the_books), (
    SELECT max(b.closed_to)
    FROM legs l JOIN bank_accounts b ON b.books_id = l.books_id AND b.account_id = l.account_id
    WHERE l.books_id = the_books AND l.entry_id = the_entry));
END $$;

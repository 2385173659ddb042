-- The tokens of all consents, as they are kept: a server seals them anew when its key changes.
CREATE FUNCTION consent_tokens() RETURNS TABLE (books_id uuid, id uuid, token text)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT books_id, id, token FROM consents WHERE token IS NOT NULL
$$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION consent_tokens() FROM PUBLIC;
--> statement-breakpoint
GRANT EXECUTE ON FUNCTION consent_tokens() TO zubrell_app;

-- A text without differences of case, width or ligature, as the core's foldCase makes it (Unicode, section 3.13).
CREATE FUNCTION folded(value text) RETURNS text LANGUAGE sql IMMUTABLE PARALLEL SAFE STRICT
RETURN normalize(
  replace(
    replace(
      lower(upper(lower(normalize(value, NFKC) COLLATE "und-x-icu"))),
      U&'\03C2', U&'\03C3'),
    U&'i\0307', 'i'),
  NFC);

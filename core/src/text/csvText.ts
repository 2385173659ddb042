import { stringify } from 'csv-stringify/browser/esm/sync';

/** Rows of cells as CSV (RFC 4180). Texts that somebody else wrote are to be guarded against formulas before. */
export function csvText(rows: readonly (readonly (string | number)[])[]): string {
  return stringify(
    rows.map((row) => [...row]),
    { record_delimiter: 'windows', quoted_match: /[\r\n]/ },
  );
}

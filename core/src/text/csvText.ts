/** Rows of cells as CSV (RFC 4180). Texts that somebody else wrote are to be guarded against formulas before. */
export function csvText(rows: readonly (readonly (string | number)[])[]): string {
  return rows.map((row) => `${row.map((cell) => quoted(String(cell))).join(',')}\r\n`).join('');
}

function quoted(cell: string): string {
  return /[",\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell;
}

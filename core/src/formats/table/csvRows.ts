import { type Info, parse } from 'csv-parse/browser/esm/sync';
import type { Problem } from '../bankFile.ts';
import { problem } from '../problems.ts';
import type { Delimiter, TableRow } from './tableLayout.ts';

const DELIMITERS: readonly Delimiter[] = [';', '\t', '|', ','];

/** The delimiter that occurs most in the first lines, outside quotes. */
export function delimiterOf(text: string): Delimiter {
  const head = text.slice(0, 20_000).replace(/"[^"]*"/g, '');
  const count = (mark: string) => head.split(mark).length;
  return [...DELIMITERS].sort((a, b) => count(b) - count(a))[0] ?? ',';
}

/**
 * Cuts the text of a CSV file into rows; empty ones are left out.
 *
 * @param problems takes rows whose quotes are broken
 */
export function csvRows(text: string, delimiter: Delimiter, problems: Problem[]): TableRow[] {
  const parsed: unknown = parse(text, {
    delimiter,
    bom: true,
    info: true,
    relax_column_count: true,
    skip_empty_lines: true,
    skip_records_with_error: true,
    max_record_size: 1_000_000,
    on_skip: (error) => {
      const line = typeof error?.lines === 'number' ? error.lines : 1;
      const detail = error?.message ?? '';
      problems.push(problem('refused', 'FILE_CSV_BROKEN', { detail }, { line }));
      return undefined;
    },
  });
  return (parsed as readonly { record: string[]; info: Info }[])
    .map(({ record, info }) => ({
      // The parser counts the line a record ends on.
      place: info.lines - record.reduce((sum, cell) => sum + cell.split('\n').length - 1, 0),
      cells: record,
    }))
    .filter((row) => row.cells.some((cell) => cell.trim() !== ''));
}

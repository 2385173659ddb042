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

/** So many broken quotes on one line, or in all, and nothing after them can be trusted. */
const MOST_BROKEN = { line: 20, all: 200 };
/** So often it is tried again with less of the file. */
const MOST_TRIES = 4;
/** No row of a bank file is longer than this. */
const LONGEST = 50_000;
/** So much is said of what is broken. */
const SAID = 160;

/** Thrown to stop the parser at a line. */
class TooBroken extends Error {
  readonly line: number;

  constructor(line: number) {
    super();
    this.line = line;
  }
}

/**
 * Cuts the text of a CSV file into rows; empty ones are left out. Before a line that is all broken quotes,
 * or without end, reading stops.
 *
 * @param problems takes rows whose quotes are broken
 */
export function csvRows(text: string, delimiter: Delimiter, problems: Problem[]): TableRow[] {
  let broken = longLine(text);
  if (broken === null && !text.includes('"')) return plainRows(text, delimiter);
  for (let tries = 0; tries < MOST_TRIES; tries += 1) {
    const found: Problem[] = [];
    const sound = broken === null ? text : firstLines(text, broken - 1);
    try {
      const rows = rowsOf(sound, delimiter, found);
      if (broken !== null) {
        const detail = 'reading stops here';
        found.push(problem('fatal', 'FILE_CSV_BROKEN', { detail }, { line: broken }));
      }
      problems.push(...found);
      return rows;
    } catch (error) {
      if (!(error instanceof TooBroken)) throw error;
      // What the parser calls a line may lie before what it stopped at.
      broken = Math.min(error.line, (broken ?? Number.POSITIVE_INFINITY) - 1);
    }
  }
  return [];
}

/** Rows of a text without quotes, which needs no parser: much quicker, as most bank files are such. */
function plainRows(text: string, delimiter: Delimiter): TableRow[] {
  const rows: TableRow[] = [];
  const lines = text.replace(/^\ufeff/, '').split(/\r\n|\n|\r/);
  for (let index = 0; index < lines.length; index += 1) {
    const line = lines[index] ?? '';
    if (line.trim() === '') continue;
    const cells = line.split(delimiter);
    if (cells.some((cell) => cell.trim() !== '')) rows.push({ place: index + 1, cells });
  }
  return rows;
}

function rowsOf(text: string, delimiter: Delimiter, problems: Problem[]): TableRow[] {
  const broken = { line: 0, times: 0, all: 0 };
  const parsed: unknown = parse(text, {
    delimiter,
    bom: true,
    info: true,
    relax_column_count: true,
    skip_empty_lines: true,
    skip_records_with_error: true,
    max_record_size: LONGEST,
    on_skip: (error) => {
      const line = typeof error?.lines === 'number' ? error.lines : 1;
      if (line !== broken.line) {
        const detail = (error?.message ?? '').slice(0, SAID);
        problems.push(problem('refused', 'FILE_CSV_BROKEN', { detail }, { line }));
        broken.times = 0;
      }
      broken.line = line;
      broken.times += 1;
      broken.all += 1;
      if (broken.times > MOST_BROKEN.line || broken.all > MOST_BROKEN.all)
        throw new TooBroken(line);
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

/** The number of the first line that is too long, from 1. */
function longLine(text: string): number | null {
  let start = 0;
  for (let line = 1; start <= text.length; line += 1) {
    const next = text.indexOf('\n', start);
    const end = next < 0 ? text.length : next;
    if (end - start > LONGEST) return line;
    start = end + 1;
  }
  return null;
}

function firstLines(text: string, count: number): string {
  let end = 0;
  for (let line = 0; line < count; line += 1) {
    const next = text.indexOf('\n', end);
    if (next < 0) return text;
    end = next + 1;
  }
  return text.slice(0, end);
}

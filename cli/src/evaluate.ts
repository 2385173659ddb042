import { readFile } from 'node:fs/promises';
import { resolve } from 'node:path';
import { parseDate } from '@zubrell/core/dates/parseDate';
import { ZubrellError } from '@zubrell/core/errors';
import { parseAmount } from '@zubrell/core/money/parseAmount';
import { elsewhereFrom } from '@zubrell/core/propose/elsewhere/elsewhereFrom';
import {
  evaluate as evaluatePast,
  type PastLine,
  replay,
} from '@zubrell/core/propose/habit/evaluate';
import { CsvError, parse } from 'csv-parse/sync';
import type { Output } from './read.ts';

/** The columns that the file must have; others are not looked at. */
const COLUMNS = [
  'date',
  'amount',
  'description',
  'reference',
  'bank_account',
  'account',
  'payee',
  'tax_code',
  'kind',
] as const;
type Row = Readonly<Record<(typeof COLUMNS)[number], string>>;

/** The kinds of lines that are counted. */
const COUNTED: readonly string[] = ['normal', 'refund', 'ambiguous'];

/** Amounts are in a currency of two decimals. */
const CURRENCY = 'EUR';

/** How lines are to be evaluated. */
export interface EvaluateOptions {
  /** Whether what would have been proposed is printed for each row. */
  readonly isByLine: boolean;
  /** Files of the same bookkeeper's other books, whose coding gives proposals too. */
  readonly others: readonly string[];
}

/** What stands behind the file's name. @returns null where it can't be understood */
export function evaluateOptions(words: readonly string[]): EvaluateOptions | null {
  const isByLine = words[0] === '--lines';
  const [withWord, ...others] = isByLine ? words.slice(1) : words;
  const isAlone = withWord === undefined;
  if (!isAlone && (withWord !== '--with' || others.length === 0)) return null;
  return { isByLine, others };
}

/**
 * Prints how well the lines of a CSV file of coded lines would have been proposed for by habit alone, month
 * by month, as JSON; or with `--lines` what would have been proposed for each row. With other books' files, payees
 * that these know are proposed for by them until there are habits of one's own.
 *
 * @param name the file's name as given
 * @param from the folder that names are relative to
 * @returns the exit code: 0, or 2 where the file can't be read; then nothing is printed but why
 */
export async function evaluate(
  name: string,
  from: string,
  output: Output,
  { isByLine, others }: EvaluateOptions,
): Promise<0 | 2> {
  const files: PastLine[][] = [];
  for (const file of [name, ...others]) {
    try {
      files.push(linesOf(await readFile(resolve(from, file), 'utf8'), file));
    } catch (error) {
      output.err(`${wordsOf(error, file)}\n`);
      return 2;
    }
  }
  const [lines = [], ...theirs] = files;
  const by = theirs.length > 0 ? { elsewhere: elsewhereFrom(lines, theirs) } : {};
  if (isByLine) {
    for (const [row, { accountId, payeeId, taxCodeId, ...proposal }] of replay(
      lines,
      by,
    ).entries()) {
      const { lane, p, top3, grounds } = proposal;
      const named = { account: accountId, payee: payeeId, tax: taxCodeId };
      output.out(`${JSON.stringify({ row, lane, ...named, p, top3, grounds })}\n`);
    }
  } else output.out(`${JSON.stringify(evaluatePast(lines, by))}\n`);
  return 0;
}

/** Something wrong with the file, in words. */
class FileError extends Error {}

function wordsOf(error: unknown, name: string): string {
  if (error instanceof FileError) return error.message;
  if (error instanceof CsvError) return `${name}:${String(error.lines ?? 1)}: ${error.message}`;
  return `${name}: ${error instanceof Error ? error.message : 'can’t be read'}`;
}

function linesOf(text: string, name: string): PastLine[] {
  const rows: { readonly record: Row; readonly info: { readonly lines: number } }[] = parse(text, {
    columns: true,
    bom: true,
    info: true,
    skip_empty_lines: true,
    relax_column_count_less: true,
  });
  const [first] = rows;
  const missing = COLUMNS.filter((column) => first && !(column in first.record));
  if (!first) throw new FileError(`${name}: there is no row below the header.`);
  if (missing.length > 0) {
    throw new FileError(`${name}:1: the header lacks ${missing.join(', ')}.`);
  }
  return rows.map(({ record, info }) => {
    try {
      return lineOf(record);
    } catch (error) {
      if (!(error instanceof ZubrellError)) throw error;
      throw new FileError(`${name}:${info.lines}: ${error.message}`);
    }
  });
}

function lineOf(row: Row): PastLine {
  const orNull = (text: string | undefined) => (text ?? '').trim() || null;
  return {
    date: parseDate(row.date, 'yearFirst'),
    amount: parseAmount(row.amount, '.', CURRENCY),
    description: row.description ?? '',
    reference: orNull(row.reference),
    payee: null,
    bankAccountId: row.bank_account ?? '',
    accountId: orNull(row.account),
    payeeId: orNull(row.payee),
    taxCodeId: orNull(row.tax_code),
    isCounted: COUNTED.includes((row.kind ?? '').trim()),
  };
}

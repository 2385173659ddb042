import { csvRows, delimiterOf } from '../formats/table/csvRows.ts';
import { guardFormula } from '../formats/table/formulaGuard.ts';
import { csvText } from '../text/csvText.ts';
import { type AccountTax, type AccountType, accountTaxes, accountTypes } from './kinds.ts';
import type { RecordProblem } from './readRecords.ts';

/** An account as a file of the chart has it. */
export interface ChartRow {
  readonly code: string;
  readonly name: string;
  readonly type: AccountType;
  /** The code of the account that it stands below; null for none. */
  readonly below: string | null;
  readonly tax: AccountTax;
  readonly purpose: string;
}

/** A row of a file, with the place where it stands, counted from 1. */
export interface PlacedChartRow extends ChartRow {
  readonly row: number;
}

const COLUMNS = ['code', 'name', 'type', 'below', 'tax', 'words'] as const;

/** How which tax an account takes is called in a file. */
const TAXES: Readonly<Record<AccountTax, string>> = {
  byType: 'by type',
  never: 'none',
  byCode: 'by code',
};

/** The chart of accounts as a CSV file, which {@link readChart} reads again. */
export function writeChart(rows: readonly ChartRow[]): string {
  return csvText([
    COLUMNS,
    ...rows.map(({ code, name, type, below, tax, purpose }) =>
      [code, name, type, below ?? '', TAXES[tax], purpose].map(guardFormula),
    ),
  ]);
}

/**
 * Reads a chart of accounts from a CSV file with headings, in any order. Only code, name and type are needed.
 *
 * @returns the rows that could be read, and what is wrong with the others
 * @example readChart('Code;Name;Type\n6210;Kiln fuel;expense') // one row, below nothing
 */
export function readChart(text: string): {
  readonly rows: readonly PlacedChartRow[];
  readonly problems: readonly RecordProblem[];
} {
  const bare = text.replace(/^\uFEFF/, '');
  const [head, ...body] = csvRows(bare, delimiterOf(bare), []);
  const places = COLUMNS.map((column) =>
    (head?.cells ?? []).findIndex((heading) => heading.trim().toLowerCase() === column),
  );
  const missing = COLUMNS.filter((column, at) => at < 3 && places[at] === -1 && column);
  if (missing.length > 0) {
    const message = `The first row names no column for the ${missing.join(' and the ')}.`;
    return { rows: [], problems: [{ row: 1, message }] };
  }
  const problems: RecordProblem[] = [];
  const seen = new Set<string>();
  const rows = body.flatMap(({ place: row, cells }): PlacedChartRow[] => {
    const [code = '', name = '', typed = '', below = '', taxed = '', purpose = ''] = places.map(
      (at) => (at === -1 ? '' : (cells[at] ?? '').trim().replace(/^'/, '')),
    );
    if (code === '' && name === '' && typed === '') return [];
    const type = accountTypes.find((each) => each === typed.toLowerCase());
    const tax =
      taxed === '' ? 'byType' : accountTaxes.find((each) => TAXES[each] === taxed.toLowerCase());
    const wrong = !/^[0-9A-Z.-]{1,12}$/.test(code)
      ? `“${code}” isn’t a code. Use up to 12 digits or capital letters.`
      : name === '' || name.length > 100
        ? 'Enter a name of up to 100 letters.'
        : type === undefined
          ? `“${typed}” isn’t a type. Use ${accountTypes.join(', ')}.`
          : tax === undefined
            ? `“${taxed}” isn’t a way of tax. Use ${Object.values(TAXES).join(', ')}.`
            : seen.has(code)
              ? `The code ${code} is in the file twice.`
              : null;
    seen.add(code);
    if (wrong !== null || type === undefined || tax === undefined) {
      problems.push({ row, message: wrong ?? '' });
      return [];
    }
    return [{ row, code, name, type, below: below || null, tax, purpose: purpose.slice(0, 200) }];
  });
  return { rows, problems };
}

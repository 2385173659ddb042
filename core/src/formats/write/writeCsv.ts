import { csvText } from '../../text/csvText.ts';
import type { BankStatement } from '../bankFile.ts';
import { guardFormula } from '../table/formulaGuard.ts';
import { statementTable, tableHeadings } from './statementTable.ts';

/** Columns that hold no text somebody else wrote. */
const OWN: ReadonlySet<string> = new Set(['Date', 'Value date', 'Amount', 'Balance', 'Currency']);

/**
 * Writes statements as CSV (RFC 4180) with a header; texts are guarded against being run as formulas.
 *
 * @param currency ISO 4217, where a statement names none
 */
export function writeCsv(statements: readonly BankStatement[], currency: string): string {
  const rows = statementTable(statements, currency).map((row) =>
    tableHeadings.map((heading) => {
      const cell = row[heading];
      return OWN.has(heading) ? cell : guardFormula(cell);
    }),
  );
  return csvText([tableHeadings, ...rows]);
}

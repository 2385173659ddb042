import { toDecimal } from '../../money/formatAmount.ts';
import type { BankStatement } from '../bankFile.ts';
import { guardFormula } from '../csv/formulaGuard.ts';

const HEADINGS = [
  'Date',
  'Value date',
  'Description',
  'Reference',
  'Payee',
  'Amount',
  'Balance',
  'Currency',
  'Bank id',
  'Type',
  'Cheque number',
  'Account',
  'Status',
];

/**
 * Writes statements as CSV (RFC 4180). A text that a spreadsheet would take for a formula gets an
 * apostrophe in front.
 *
 * @param currency ISO 4217, where a statement names none
 */
export function writeCsv(statements: readonly BankStatement[], currency: string): string {
  const rows = statements.flatMap((statement) => {
    const unit = statement.currency ?? currency;
    return statement.lines.map((line) =>
      [
        line.date,
        line.valueDate ?? '',
        guardFormula(line.description),
        guardFormula(line.reference ?? ''),
        guardFormula(line.payee ?? ''),
        toDecimal(line.amount, unit),
        line.balance === null ? '' : toDecimal(line.balance, unit),
        unit,
        guardFormula(line.bankId ?? ''),
        guardFormula(line.type ?? ''),
        guardFormula(line.chequeNumber ?? ''),
        guardFormula(statement.account ?? ''),
        line.isPending ? 'pending' : '',
      ].map(quoted),
    );
  });
  return [HEADINGS, ...rows].map((row) => `${row.join(',')}\r\n`).join('');
}

function quoted(cell: string): string {
  return /[",\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell;
}

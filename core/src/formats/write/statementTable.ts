import { toDecimal } from '../../money/formatAmount.ts';
import type { BankStatement } from '../bankFile.ts';

/** What stands in each column of a written table, in order. */
export const tableHeadings = [
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
  'Account number',
  'Status',
] as const;

/** A row of a written table by heading; dates as `2026-03-31`, amounts as plain decimals. */
export type StatementRow = Readonly<Record<(typeof tableHeadings)[number], string>>;

/**
 * The lines of statements as rows of a table. What a table has no place for (opening and closing
 * balances that no line has) is left out.
 *
 * @param currency ISO 4217, where a statement names none
 */
export function statementTable(
  statements: readonly BankStatement[],
  currency: string,
): StatementRow[] {
  return statements.flatMap((statement) => {
    const unit = statement.currency ?? currency;
    return statement.lines.map((line) => ({
      Date: line.date,
      'Value date': line.valueDate ?? '',
      Description: line.description,
      Reference: line.reference ?? '',
      Payee: line.payee ?? '',
      Amount: toDecimal(line.amount, unit),
      Balance: line.balance === null ? '' : toDecimal(line.balance, unit),
      Currency: unit,
      'Bank id': line.bankId ?? '',
      Type: line.type ?? '',
      'Cheque number': line.chequeNumber ?? '',
      'Account number': statement.account ?? '',
      Status: line.isPending ? 'pending' : '',
    }));
  });
}

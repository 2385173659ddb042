import type { Statement, StatementRow } from '@zubrell/contract/statements';
import { guardFormula } from '@zubrell/core/formats/table/formulaGuard';
import { toDecimal } from '@zubrell/core/money/formatAmount';
import { csvText } from '@zubrell/core/text/csvText';
import { t } from '@zubrell/core/words/t';
import type { ReportNames } from './reportNames.ts';

/** A statement's report as a CSV file: the equation, its lines with what they run to, and what is outstanding. */
export function statementCsv(
  statement: Statement,
  rows: readonly StatementRow[],
  names: ReportNames,
): string {
  const { from, to, opening, addsUp, closing, off, agreedBy, agreedAt, outstanding } = statement;
  const money = (minor: number | null) => (minor === null ? '' : toDecimal(minor, names.currency));
  return csvText([
    [t`Bank account`, names.bankAccount],
    [t`Currency`, names.currency],
    [t`From`, from],
    [t`To`, to],
    [t`Opening balance`, money(opening)],
    [t`Lines`, money(addsUp - opening)],
    [t`Adds up to`, money(addsUp)],
    [t`Statement says`, money(closing)],
    [t`Off by`, money(off)],
    [t`Agreed by`, agreedBy ?? ''],
    [t`Agreed at`, agreedAt ?? ''],
    [],
    [
      t`Date`,
      t`Counts on`,
      t`Wording`,
      t`Cardholder`,
      t`Payee`,
      t`Account`,
      t`State`,
      t`Amount`,
      t`Runs to`,
    ],
    ...rows.map((row) => [
      row.date,
      row.day ?? row.date,
      guardFormula(row.text),
      guardFormula(row.cardholder === null ? '' : names.holder(row.cardholder)),
      guardFormula(names.payee(row.payeeId)),
      row.accountIds.map(names.accountLabel).join(', '),
      row.isCounted ? row.state : t`${row.state}, not counted`,
      money(row.amount),
      money(row.runsTo),
    ]),
    [],
    [t`Outstanding: entered and not at the bank by the last day`],
    [t`Date`, t`Entry`, t`Number`, t`Payee`, t`Amount`],
    ...outstanding.map((item) => [
      item.date,
      guardFormula(item.text ?? item.kind ?? ''),
      item.number ?? '',
      guardFormula(item.payee ?? ''),
      money(item.amount),
    ]),
  ]);
}

import type { Statement } from '@zubrell/contract/statements';
import { guardFormula } from '@zubrell/core/formats/table/formulaGuard';
import { toDecimal } from '@zubrell/core/money/formatAmount';
import { csvText } from '@zubrell/core/text/csvText';

/** How what a statement names is called. */
export interface Names {
  readonly bankAccount: string;
  readonly currency: string;
  readonly holder: (cardholder: string) => string;
  readonly payee: (id: string | null) => string;
  readonly account: (id: string | null) => string;
}

/** A statement's report as a CSV file: the equation, its lines with what they run to, and what is outstanding. */
export function statementCsv(statement: Statement, names: Names): string {
  const { from, to, opening, addsUp, closing, off, agreedBy, agreedAt, rows, outstanding } =
    statement;
  const money = (minor: number | null) => (minor === null ? '' : toDecimal(minor, names.currency));
  return csvText([
    ['Bank account', names.bankAccount],
    ['Currency', names.currency],
    ['From', from],
    ['To', to],
    ['Opening balance', money(opening)],
    ['Lines', money(addsUp - opening)],
    ['Adds up to', money(addsUp)],
    ['Statement says', money(closing)],
    ['Off by', money(off)],
    ['Agreed by', agreedBy ?? ''],
    ['Agreed at', agreedAt ?? ''],
    [],
    [
      'Date',
      'Counts on',
      'Wording',
      'Cardholder',
      'Payee',
      'Account',
      'State',
      'Amount',
      'Runs to',
    ],
    ...rows.map((row) => [
      row.date,
      row.day ?? row.date,
      guardFormula(row.text),
      guardFormula(row.cardholder === null ? '' : names.holder(row.cardholder)),
      guardFormula(names.payee(row.payeeId)),
      row.accountIds.map(names.account).join(', '),
      row.isCounted ? row.state : `${row.state}, not counted`,
      money(row.amount),
      money(row.runsTo),
    ]),
    [],
    ['Outstanding: entered and not at the bank by the last day'],
    ['Date', 'Entry', 'Number', 'Payee', 'Amount'],
    ...outstanding.map((item) => [
      item.date,
      guardFormula(item.text ?? item.kind ?? ''),
      item.number ?? '',
      guardFormula(item.payee ?? ''),
      money(item.amount),
    ]),
  ]);
}

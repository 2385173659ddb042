import type { Statement, StatementRow } from '@zubrell/contract/statements';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import {
  formatShort,
  MARGIN,
  type PdfColumn,
  type PdfWriter,
  ROW,
  writePdf,
} from '../../pdfWriter.ts';
import type { ReportNames } from './reportNames.ts';

const COLUMNS: readonly PdfColumn[] = [
  { head: 'Date', x: MARGIN, width: 62 },
  { head: 'Wording', x: 104, width: 176 },
  { head: 'Payee', x: 284, width: 80 },
  { head: 'Account', x: 368, width: 64 },
  { head: 'Amount', x: 432, width: 60, isNumber: true },
  { head: 'Runs to', x: 495, width: 60, isNumber: true },
];

/** A statement's report as a PDF file, A4: the equation, its lines, what is outstanding, who agreed it. */
export function statementPdf(
  statement: Statement,
  rows: readonly StatementRow[],
  names: ReportNames,
): Promise<Buffer> {
  return writePdf((pdf) => {
    equation(pdf, statement, names);
    table(pdf, rows, names);
    outstanding(pdf, statement, names);
  });
}

function money(minor: number | null, { currency }: ReportNames): string {
  return minor === null ? '' : formatAmount(minor, currency);
}

function equation(pdf: PdfWriter, statement: Statement, names: ReportNames): void {
  const { from, to, opening, addsUp, closing, off, lineCount, agreedBy, agreedAt } = statement;
  const pairOf = (label: string, minor: number | null) => {
    pdf.text(label, { x: MARGIN, y: pdf.y, width: 160, size: 10 });
    const place = { x: 200, y: pdf.y, width: 90, size: 10 };
    pdf.text(money(minor, names), { ...place, isStrong: true, isRight: true });
    pdf.y += ROW;
  };
  pdf.line(names.books, { size: 9 });
  pdf.line(names.bankAccount, { size: 16, isStrong: true, height: 22 });
  pdf.line(`${formatLongDate(from)} to ${formatLongDate(to)}, ${names.currency}`, { height: 20 });
  pairOf('Opened at', opening);
  pairOf(`${lineCount === 1 ? '1 line' : `${lineCount} lines`} in the period`, addsUp - opening);
  pairOf('Adds up to', addsUp);
  pairOf('Statement says', closing);
  pairOf('Off by', off);
  const agreed = agreedBy
    ? `Agreed by ${agreedBy}${agreedAt ? ` on ${formatLongDate(agreedAt.slice(0, 10))}` : ''}.`
    : 'Not agreed yet.';
  pdf.y += 4;
  pdf.line(agreed, { height: 22 });
}

function table(pdf: PdfWriter, rows: readonly StatementRow[], names: ReportNames): void {
  const { payee, account } = names;
  pdf.row(
    COLUMNS,
    COLUMNS.map(({ head }) => head),
    true,
  );
  for (const row of rows) {
    const where = row.isCounted ? row.accountIds.map(account).join(', ') : 'not counted';
    const amounts = [money(row.amount, names), money(row.runsTo, names)];
    const date = `${formatShort(row.date)}${row.isLate ? ' late' : ''}`;
    pdf.row(COLUMNS, [date, row.text, payee(row.payeeId), where, ...amounts]);
  }
}

function outstanding(pdf: PdfWriter, statement: Statement, names: ReportNames): void {
  pdf.y += 12;
  pdf.breakPage(3 * ROW);
  pdf.line('Entered, and not at the bank by the last day', { isStrong: true, height: 18 });
  if (statement.outstanding.length === 0) pdf.line('Nothing.');
  for (const { date, text, payee, number, amount } of statement.outstanding) {
    const what = [number, payee ?? text].filter(Boolean).join(', ');
    pdf.row(COLUMNS, [formatShort(date), what, '', '', money(amount, names), '']);
  }
}

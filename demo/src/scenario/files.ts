import { lastDayOf } from '@zubrell/core/dates/calendarDate';
import type { MadeBankAccount } from './business.ts';
import { larkmoor } from './larkmoor.ts';
import { type MadeLine, makeLines } from './makeLines.ts';
import { type StatementText, writeStatement } from './writeStatement.ts';

/** The day it is in the demo. */
export const demoToday = '2026-04-08';
/** The first month with lines. */
export const firstMonth = '2024-10';
/** The last month that is in the books. */
export const lastMonth = '2026-03';
/** The last day that the files in `demo/files` reach. */
const lastFileDay = '2026-04-07';

/** The balance of a bank account before the first of these lines. */
export function balanceBefore(
  account: MadeBankAccount,
  lines: readonly MadeLine[],
  date: string,
): number {
  return lines
    .filter((line) => line.bank === account.key && line.date < date)
    .reduce((sum, line) => sum + line.amount, account.opening);
}

/** The files to try importing with: what April brought so far, once right and once with errors. */
export function demoFiles(): StatementText[] {
  const lines = makeLines(larkmoor, firstMonth, '2026-04').filter(
    (line) => line.date <= lastFileDay,
  );
  const file = (key: string, fileName: string, from: string, to: string): StatementText[] => {
    const account = larkmoor.bankAccounts.find((each) => each.key === key);
    if (!account) return [];
    const own = lines.filter((line) => line.bank === key && line.date >= from && line.date <= to);
    const opening = balanceBefore(account, lines, from);
    return [
      { fileName, text: writeStatement(larkmoor, account, own, { opening, closingDate: to }) },
    ];
  };
  const aprilCard = file('card', '', '2026-04-01', lastFileDay)[0]?.text ?? '';
  return [
    ...file('everyday', 'everyday-april.ofx', '2026-04-01', lastFileDay),
    ...file('everyday', 'everyday-march-again.ofx', '2026-03-01', lastDayOf(lastMonth)),
    ...file('card', 'studio-card-april.csv', '2026-04-01', lastFileDay),
    { fileName: 'studio-card-april-with-errors.csv', text: withErrors(aprilCard) },
    {
      fileName: 'everyday-april-cut-off.ofx',
      text: cutOff(file('everyday', '', '2026-04-01', lastFileDay)[0]?.text ?? ''),
    },
  ];
}

/** One row with a date that is none, one with an amount that is none. */
function withErrors(csv: string): string {
  const rows = csv.split('\r\n');
  return rows
    .map((row, index) => {
      if (index === 3) return row.replace(/^\d\d\.\d\d/, '31.02');
      if (index === 5) return row.replace(/;(-?)(\d+),(\d\d);/, ';$1$2.$3.0;');
      return row;
    })
    .join('\r\n');
}

/** As if the download broke off. */
function cutOff(ofx: string): string {
  return ofx.slice(0, ofx.lastIndexOf('<NAME>') + 9);
}

import type { CalendarDate, DateOrder } from '../../dates/calendarDate.ts';
import { dateOrderOf, parseDate } from '../../dates/parseDate.ts';
import { fail } from '../../errors.ts';
import { summaryOf } from '../../intake/statementBalances.ts';
import { decimalMarkOf } from '../../money/decimalMark.ts';
import type { Minor } from '../../money/minor.ts';
import { parseAmount } from '../../money/parseAmount.ts';
import { type BankLine, type BankStatement, bankLine, type Problem } from '../bankFile.ts';
import { type ProblemPlace, problem, readOrNote } from '../problems.ts';
import { textLines } from '../textLines.ts';

interface QifRecord {
  readonly line: number;
  /** Its rows, each beginning with the letter of its field: the first of each letter. */
  readonly rows: string[];
}

/** What a field of a record says; undefined where it has none. @param letter of one character */
function fieldOf({ rows }: QifRecord, letter: string): string | undefined {
  for (const row of rows) if (row.startsWith(letter)) return row.slice(1).trim();
  return undefined;
}

/** The kinds of list that hold bank lines. */
const KINDS: Readonly<Record<string, BankStatement['kind']>> = {
  BANK: 'current',
  CASH: null,
  CCARD: 'card',
};

/**
 * Reads QIF lists of bank, cash and card lines. The order of dates is decided over the whole file;
 * other lists are passed over with a notice. The format names no currency and no balance.
 *
 * @param wanted the order of dates that somebody chose
 */
export function readQif(
  text: string,
  booksCurrency: string,
  wanted: DateOrder | undefined,
): {
  readonly statements: BankStatement[];
  readonly problems: Problem[];
  readonly openDate: string | null;
} {
  const problems: Problem[] = [];
  const { records, kind, isWhole, lastLine } = recordsOf(text, problems);
  const dates = records.map((record) => fieldOf(record, 'D') ?? '');
  const amounts = records.map((record) => fieldOf(record, 'T'));
  const found = dateOrderOf(dates.map(plainDate));
  const readDate = createDateReader(wanted ?? found.order);
  const decimal = decimalMarkOf(amounts.map((amount) => amount ?? ''));
  const lines: BankLine[] = [];
  for (const [at, record] of records.entries()) {
    const amount = readOrNote(
      problems,
      () => placeOf(record, 'T'),
      () => parseAmount(amounts[at] ?? fail('AMOUNT_MISSING'), decimal, booksCurrency),
    );
    const date = readOrNote(
      problems,
      () => ({ ...placeOf(record, 'D'), amount }),
      () => readDate(dates[at] ?? ''),
    );
    if (amount !== null && date !== null) lines.push(lineOf(record, date, amount));
  }
  if (!isWhole) {
    problems.push(problem('fatal', 'FILE_CUT_OFF', { what: 'a record' }, { line: lastLine }));
  }
  const { first: from, last: to } = summaryOf(lines);
  const statement: BankStatement = {
    account: null,
    bank: null,
    kind,
    currency: null,
    from,
    to,
    opening: null,
    closing: null,
    closingDate: null,
    dayBalances: [],
    lines,
  };
  return { statements: [statement], problems, openDate: wanted ? null : found.openDate };
}

function lineOf(record: QifRecord, date: CalendarDate, amount: Minor): BankLine {
  const payee = fieldOf(record, 'P') ?? '';
  const memo = fieldOf(record, 'M') ?? '';
  const number = fieldOf(record, 'N') ?? null;
  return bankLine({
    place: record.line,
    date,
    amount,
    description: payee === '' || memo.startsWith(payee) ? memo : `${payee} ${memo}`.trim(),
    reference: number,
    payee: payee || null,
    chequeNumber: number !== null && /^\d+$/.test(number) ? number : null,
  });
}

function placeOf({ line, rows }: QifRecord, field: string): ProblemPlace {
  const excerpt = rows.map((row) => row.charAt(0) + row.slice(1).trim()).join(' · ');
  return { line, field, excerpt };
}

/** Reads dates; a large file repeats the same few many times. */
function createDateReader(order: DateOrder): (text: string) => CalendarDate {
  const known = new Map<string, CalendarDate>();
  return (text) => {
    const before = known.get(text);
    if (before !== undefined) return before;
    const date = parseDate(plainDate(text), order);
    known.set(text, date);
    return date;
  };
}

function recordsOf(text: string, problems: Problem[]) {
  const records: QifRecord[] = [];
  let kind: BankStatement['kind'] = null;
  let isBankList = true;
  let open: QifRecord | null = null;
  let lastLine = 1;
  let number = 0;
  for (const raw of textLines(text)) {
    number += 1;
    const row = raw.trimEnd();
    if (row === '') continue;
    lastLine = number;
    if (row.startsWith('!')) {
      open = null;
      const type = /^!Type:(\w+)/i.exec(row)?.[1]?.toUpperCase();
      if (type === undefined) isBankList = !/^!Account/i.test(row) && isBankList;
      else {
        isBankList = type in KINDS;
        if (isBankList) kind = KINDS[type] ?? null;
        else {
          const detail = `the list ${type} holds no bank lines and is passed over`;
          problems.push(problem('notice', 'REQUEST_INVALID', { detail }, { line: lastLine }));
        }
      }
    } else if (row === '^') {
      if (open && isBankList) records.push(open);
      open = null;
    } else {
      open ??= { line: lastLine, rows: [] };
      // Parts of a split repeat their letters; only the first of each is the record's own.
      if (!hasLetter(open, row)) open.rows.push(row);
    }
  }
  const isWhole = open === null || isComplete(open, text);
  if (open !== null && isWhole && isBankList) records.push(open);
  return { records, kind, isWhole, lastLine };
}

/** Whether a record has a field of the same letter as a row. */
function hasLetter({ rows }: QifRecord, row: string): boolean {
  const letter = row.charCodeAt(0);
  for (const before of rows) if (before.charCodeAt(0) === letter) return true;
  return false;
}

/**
 * Whether a record without its end mark has all it needs: a date and an amount that was not cut off at
 * the end of the file.
 */
function isComplete(record: QifRecord, text: string): boolean {
  const last = record.rows.at(-1)?.charAt(0);
  if (fieldOf(record, 'D') === undefined || fieldOf(record, 'T') === undefined) return false;
  return /[\r\n]$/.test(text) || (last === 'T' ? /[.,]\d{2}$/ : /\S/).test(text.trimEnd());
}

/** QIF writes years as '26 and pads with spaces: 3/ 5'26. */
function plainDate(text: string): string {
  if (!/['\s]/.test(text)) return text;
  return text.replace(/\s*'\s*/, '/').replace(/\/\s+/g, '/');
}

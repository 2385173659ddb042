import type { DateOrder } from '../../dates/calendarDate.ts';
import { dateOrderOf, parseDate } from '../../dates/parseDate.ts';
import { fail } from '../../errors.ts';
import { summaryOf } from '../../intake/statementBalances.ts';
import { decimalMarkOf } from '../../money/decimalMark.ts';
import { parseAmount } from '../../money/parseAmount.ts';
import { type BankLine, type BankStatement, bankLine, type Problem } from '../bankFile.ts';
import { type ProblemPlace, problem, readOrNote } from '../problems.ts';

interface QifRecord {
  readonly line: number;
  readonly fields: Map<string, string>;
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
  const found = dateOrderOf(records.map(({ fields }) => plainDate(fields.get('D') ?? '')));
  const order = wanted ?? found.order;
  const decimal = decimalMarkOf(records.map(({ fields }) => fields.get('T') ?? ''));
  const lines = records.flatMap((record): BankLine[] => {
    const { line, fields } = record;
    const amount = readOrNote(
      problems,
      () => placeOf(record, 'T'),
      () => parseAmount(fields.get('T') ?? fail('AMOUNT_MISSING'), decimal, booksCurrency),
    );
    const date = readOrNote(
      problems,
      () => ({ ...placeOf(record, 'D'), amount }),
      () => parseDate(plainDate(fields.get('D') ?? ''), order),
    );
    if (amount === null || date === null) return [];
    const payee = fields.get('P') ?? '';
    const memo = fields.get('M') ?? '';
    const number = fields.get('N') ?? null;
    return [
      bankLine({
        place: line,
        date,
        amount,
        description: payee === '' || memo.startsWith(payee) ? memo : `${payee} ${memo}`.trim(),
        reference: number,
        payee: payee || null,
        chequeNumber: number !== null && /^\d+$/.test(number) ? number : null,
      }),
    ];
  });
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

function placeOf({ line, fields }: QifRecord, field: string): ProblemPlace {
  const excerpt = [...fields].map(([name, value]) => name + value).join(' · ');
  return { line, field, excerpt };
}

function recordsOf(text: string, problems: Problem[]) {
  const records: QifRecord[] = [];
  let kind: BankStatement['kind'] = null;
  let isBankList = true;
  let open: QifRecord | null = null;
  let lastLine = 1;
  for (const [index, raw] of text.split(/\r\n|\r|\n/).entries()) {
    const row = raw.trimEnd();
    if (row === '') continue;
    lastLine = index + 1;
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
      open ??= { line: lastLine, fields: new Map() };
      // Parts of a split repeat their letters; only the first of each is the record's own.
      if (!open.fields.has(row.charAt(0))) open.fields.set(row.charAt(0), row.slice(1).trim());
    }
  }
  const isWhole = open === null || isComplete(open, text);
  if (open !== null && isWhole && isBankList) records.push(open);
  return { records, kind, isWhole, lastLine };
}

/**
 * Whether a record without its end mark has all it needs: a date and an amount that was not cut off at
 * the end of the file.
 */
function isComplete({ fields }: QifRecord, text: string): boolean {
  const [last] = [...fields.keys()].slice(-1);
  if (!fields.has('D') || !fields.has('T')) return false;
  return /[\r\n]$/.test(text) || (last === 'T' ? /[.,]\d{2}$/ : /\S/).test(text.trimEnd());
}

/** QIF writes years as '26 and pads with spaces: 3/ 5'26. */
function plainDate(text: string): string {
  return text.replace(/\s*'\s*/, '/').replace(/\/\s+/g, '/');
}

import { type CalendarDate, calendarDate, daysInMonth } from '../../dates/calendarDate.ts';
import { fail } from '../../errors.ts';
import { summaryOf } from '../../intake/statementBalances.ts';
import type { Minor } from '../../money/minor.ts';
import { parseAmount } from '../../money/parseAmount.ts';
import { type BankLine, type BankStatement, bankLine, type Problem } from '../bankFile.ts';
import { type ProblemPlace, problem, readOrNote } from '../problems.ts';
import { textLines } from '../textLines.ts';

/** One field of a message: its tag, its text with continuation lines, its place. */
interface Field {
  readonly tag: string;
  readonly text: string;
  readonly line: number;
}

interface OpenStatement {
  account: string | null;
  currency: string | null;
  opening: Minor | null;
  closing: Minor | null;
  closingDate: CalendarDate | null;
  /** Whether the last closing balance was an intermediate one: the next page goes on. */
  goesOn: boolean;
  readonly lines: OpenLine[];
}

/** A line while its information may still come. */
type OpenLine = { -readonly [Key in keyof BankLine]: BankLine[Key] };

const TAG = /^\d{2}[A-Z]?$/i;
const COLON = 58;
/** Where the colon behind a tag can be. */
const BEHIND_TAG = [3, 4];
/**
 * Field 61 up to its amount: value date, entry date, mark, funds code, amount (SWIFT MT940). The mark may
 * be in small letters, and some banks write a whole CR or DR.
 */
const MOVEMENT =
  /^(\d{2})(\d{2})(\d{2})\s*(?:(\d{2})(\d{2}))?\s*(RC|RD|EC|ED|C|D)([A-Z])?\s*(\d[\d.,]*)/i;
const MARK = 6;
const AMOUNT = 8;
/** The rest of its first line: type, the owner's reference, the bank's. */
const REFERENCES = /^\s*([NFS][A-Z0-9]{3}|[A-Z][A-Z0-9]{3}(?=NONREF|\/\/|$)|)(.*?)(?:\/\/(.*))?$/i;
/** A type with at least one character of reference: what is shorter goes on in the next line. */
const SHORTEST_REFERENCES = 5;
const BALANCE = /^([CD])(\d{2})(\d{2})(\d{2})([A-Z]{3})(\d[\d.,]*)$/i;

/**
 * Reads MT940 statements and MT942 reports. Pages of one statement (60M, 62M) are put together. RC is
 * a credit taken back, so money out; RD a debit taken back, so money in.
 *
 * @param text the whole file, with or without the blocks around messages
 * @param booksCurrency used where no balance names a currency
 */
export function readMt(
  text: string,
  booksCurrency: string,
): { readonly statements: BankStatement[]; readonly problems: Problem[] } {
  const problems: Problem[] = [];
  const statements: OpenStatement[] = [];
  let current: OpenStatement | null = null;
  let last: OpenLine | null = null;
  const readDates = createDateReader();

  for (const field of fieldsOf(text)) {
    if (field.tag === '20') {
      current = null;
      last = null;
    } else if (field.tag === '25' || field.tag === '25P') {
      const account = field.text.trim();
      const before = statements.at(-1);
      current = before?.goesOn && before.account === account ? before : emptyStatement(account);
      if (current !== before) statements.push(current);
    }
    if (current === null) continue;
    const statement = current;
    const currency = statement.currency ?? booksCurrency;
    switch (field.tag) {
      case '60F':
      case '60M':
      case '62F':
      case '62M':
        // Information after a balance is about the whole statement.
        last = null;
        readOrNote(
          problems,
          () => placeOf(field),
          () => takeBalance(statement, field),
        );
        break;
      case '34F':
        statement.currency ??= /^[A-Z]{3}/.exec(field.text)?.[0] ?? null;
        break;
      case '61':
        last = readOrNote(
          problems,
          () => placeOf(field),
          () => lineOf(field, currency, readDates),
        );
        if (last) statement.lines.push(last);
        break;
      case '86':
        if (last) putInformation(last, field.text);
        last = null;
        break;
    }
  }
  const open = statements.at(-1);
  const isCutOff = open !== undefined && open.opening !== null && open.closing === null;
  if (isCutOff) {
    const line = text.split('\n').length;
    problems.push(problem('fatal', 'FILE_CUT_OFF', { what: 'a statement' }, { line }));
  }
  return { statements: statements.map(finished), problems };
}

const placeOf = ({ line, tag, text }: Field): ProblemPlace => ({
  line,
  field: `:${tag}:`,
  excerpt: text,
});

function emptyStatement(account: string): OpenStatement {
  return {
    account,
    currency: null,
    opening: null,
    closing: null,
    closingDate: null,
    goesOn: false,
    lines: [],
  };
}

function finished({ goesOn: _goesOn, ...facts }: OpenStatement): BankStatement {
  const { first, last } = summaryOf(facts.lines);
  return {
    ...facts,
    bank: null,
    kind: null,
    dayBalances: [],
    from: first,
    to: last ?? facts.closingDate,
  };
}

/** The fields of all messages in order; lines that start no field continue the one before. */
function* fieldsOf(text: string): Generator<Field> {
  let open: { readonly tag: string; text: string; readonly line: number } | null = null;
  let isInMessage = true;
  let number = 0;
  for (const raw of textLines(text)) {
    number += 1;
    const line = raw.includes('{4:') ? raw.replace(/^.*\{4:\s*/, '') : raw;
    const end = tagEnd(line);
    if (end > 0) {
      if (open) yield open;
      isInMessage = true;
      open = { tag: line.slice(1, end).toUpperCase(), text: line.slice(end + 1), line: number };
    } else if (/^-\}?/.test(line) && line.replace(/[-}\s]/g, '') === '') isInMessage = false;
    else if (isInMessage && open && line.trim() !== '' && !/^[{}]/.test(line)) {
      open.text += `\n${line}`;
    }
  }
  if (open) yield open;
}

/** Where the tag that a line begins with ends; -1 where it begins with none. */
function tagEnd(line: string): number {
  if (line.charCodeAt(0) !== COLON) return -1;
  const end = line.indexOf(':', 1);
  return BEHIND_TAG.includes(end) && TAG.test(line.slice(1, end)) ? end : -1;
}

function takeBalance(statement: OpenStatement, { tag, text }: Field): void {
  const [, mark, year, month, day, code = '', amount = ''] =
    BALANCE.exec(text.replaceAll(/\s/g, '')) ??
    fail('AMOUNT_UNREADABLE', { text, example: 'C260331EUR48,50' });
  const currency = code.toUpperCase();
  statement.currency ??= currency;
  const size = parseAmount(amount, ',', currency);
  const signed = /d/i.test(mark ?? '') && size !== 0 ? -size : size;
  if (tag.startsWith('60')) {
    if (statement.opening === null) statement.opening = signed;
    statement.goesOn = false;
    return;
  }
  statement.closing = signed;
  statement.closingDate = calendarDate(2000 + Number(year), Number(month), Number(day));
  statement.goesOn = tag === '62M';
}

function lineOf({ text, line }: Field, currency: string, readDates: DateReader): OpenLine {
  const { movement, rest, supplement } = partsOf(text);
  const [mark, amount] = [movement[MARK] ?? '', movement[AMOUNT] ?? ''];
  const { date, valueDate } = readDates(movement);
  const size = parseAmount(amount.replace(/[.,]$/, ''), ',', currency);
  const isOut = ['D', 'RC', 'ED'].includes(mark.toUpperCase());
  const references = REFERENCES.exec(rest);
  const reference = references?.[2];
  const type = references?.[1]?.toUpperCase() || null;
  return bankLine({
    place: line,
    date,
    valueDate,
    amount: isOut && size !== 0 ? -size : size,
    description: supplement,
    reference: referenceOf(reference),
    bankId: references?.[3]?.trim() || null,
    type,
    chequeNumber: type === 'NCHK' ? referenceOf(reference) : null,
  });
}

type DateReader = (movement: RegExpExecArray) => Pick<BankLine, 'date' | 'valueDate'>;

/** Reads the dates of movements; a large file repeats the same few many times. */
function createDateReader(): DateReader {
  const known = new Map<string, Pick<BankLine, 'date' | 'valueDate'>>();
  return (movement) => {
    const key = movement[0].slice(0, movement[0].length - (movement[AMOUNT]?.length ?? 0));
    const before = known.get(key);
    if (before !== undefined) return before;
    const [, year, month, day, entryMonth = '', entryDay] = movement;
    const valueDate = valueDateOf(2000 + Number(year), Number(month), Number(day));
    const date = entryMonth
      ? entryDate(valueDate, Number(entryMonth), Number(entryDay))
      : valueDate;
    const read = { date, valueDate };
    known.set(key, read);
    return read;
  };
}

/**
 * Field 61 in its parts. A bank that wraps its lines may do so anywhere; what is wrapped before the
 * references are there belongs to them, what comes after them is the supplement.
 *
 * @throws {ZubrellError} LINE_UNREADABLE
 */
function partsOf(text: string): {
  readonly movement: RegExpExecArray;
  readonly rest: string;
  readonly supplement: string;
} {
  const rows = text.includes('\n') ? text.split('\n').map((row) => row.trim()) : [text.trim()];
  let first = rows[0] ?? '';
  let movement = MOVEMENT.exec(first);
  let used = 1;
  // A cut amount can't be told from a whole one, but an amount is never the last thing on its line.
  while (used < rows.length && isWrapped(first, movement, rows[used] ?? '')) {
    first += rows[used] ?? '';
    movement = MOVEMENT.exec(first);
    used += 1;
  }
  if (movement === null) fail('LINE_UNREADABLE');
  const rest = first.slice(movement[0].length);
  return { movement, rest, supplement: rows.slice(used).filter(Boolean).join(' ') };
}

function isWrapped(first: string, movement: RegExpExecArray | null, next: string): boolean {
  if (!movement) return true;
  const rest = first.slice(movement[0].length);
  if (rest.length < SHORTEST_REFERENCES || rest.endsWith('/')) return true;
  return !rest.includes('//') && /^[^/\s]{0,15}\/\/\S/.test(next);
}

/** A value date. Banks that count thirty days in each month write 30 February for its last day. */
function valueDateOf(year: number, month: number, day: number): CalendarDate {
  const isCounted = month === 2 && day === 30;
  return calendarDate(year, month, Math.min(day, isCounted ? daysInMonth(year, month) : day));
}

function referenceOf(text: string | undefined): string | null {
  const reference = text?.trim() ?? '';
  return reference === '' || reference.toUpperCase() === 'NONREF' ? null : reference;
}

/** The entry date has no year: it is the one that lies nearest to the value date. */
function entryDate(valueDate: CalendarDate, month: number, day: number): CalendarDate {
  const year = Number(valueDate.slice(0, 4));
  const valueMonth = Number(valueDate.slice(5, 7));
  const moved = month - valueMonth > 6 ? -1 : valueMonth - month > 6 ? 1 : 0;
  return calendarDate(year + moved, month, day);
}

/**
 * Puts the information of field 86 into a line: subfields by number (`?20…?32…`), by word
 * (`/NAME/…/REMI/…`), or plain text.
 */
function putInformation(line: OpenLine, text: string): void {
  const whole = text.includes('\n') ? text.replaceAll('\n', '') : text;
  const numbered = /^(\d{3})?([?>])\d{2}/.exec(whole);
  if (numbered) {
    putNumbered(line, whole, numbered[2] ?? '?');
    return;
  }
  const joined = text.includes('\n') ? joinedRows(text) : text.trim();
  if (!/^\/[A-Z]{2,4}\//.test(joined)) {
    line.description = joined || line.description;
    return;
  }
  const words = slashed(whole);
  line.payee = words.get('NAME') ?? null;
  const remittance = words.get('REMI') ?? words.get('INFO') ?? '';
  line.reference = words.get('EREF') ?? line.reference;
  line.description = [line.payee, remittance].filter(Boolean).join(' ') || joined;
}

const joinedRows = (text: string): string =>
  text
    .split('\n')
    .map((row) => row.trim())
    .filter(Boolean)
    .join(' ');

function putNumbered(line: OpenLine, text: string, mark: string): void {
  const parts = new Map<string, string>();
  for (const part of text.split(mark).slice(1)) parts.set(part.slice(0, 2), part.slice(2));
  const join = (from: number, to: number, between: string) =>
    [...parts]
      .filter(([number]) => Number(number) >= from && Number(number) <= to)
      .map(([, value]) => value)
      .join(between)
      .trim();
  const payee = join(32, 33, '') || null;
  // Purposes are cut at 27 characters wherever that falls, so they are put together as they are.
  const purpose = `${join(20, 29, '')}${join(60, 63, '')}`;
  line.payee = payee;
  line.type = parts.get('00') ?? line.type;
  line.description = [payee, purpose].filter(Boolean).join(' ') || line.description;
}

function slashed(text: string): Map<string, string> {
  const found = new Map<string, string>();
  for (const match of text.matchAll(/\/([A-Z]{2,4})\/([\s\S]*?)(?=\/[A-Z]{2,4}\/|$)/g)) {
    found.set(match[1] ?? '', (match[2] ?? '').trim());
  }
  return found;
}

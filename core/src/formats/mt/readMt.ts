import { type CalendarDate, calendarDate, daysInMonth } from '../../dates/calendarDate.ts';
import { fail } from '../../errors.ts';
import { summaryOf } from '../../intake/statementBalances.ts';
import type { Minor } from '../../money/minor.ts';
import { parseAmount } from '../../money/parseAmount.ts';
import { type BankLine, type BankStatement, bankLine, type Problem } from '../bankFile.ts';
import { problem, readOrNote } from '../problems.ts';

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
  readonly lines: BankLine[];
}

const FIELD = /^:(\d{2}[A-Z]?):(.*)$/i;
/**
 * Field 61 up to its amount: value date, entry date, mark, funds code, amount (SWIFT MT940). The mark may
 * be in small letters, and some banks write a whole CR or DR.
 */
const MOVEMENT =
  /^(\d{2})(\d{2})(\d{2})\s*(?:(\d{2})(\d{2}))?\s*(RC|RD|EC|ED|C|D)([A-Z])?\s*(\d[\d.,]*)/i;
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
  let last: { readonly index: number } | null = null;

  for (const field of fieldsOf(text)) {
    const at = { line: field.line, field: `:${field.tag}:`, excerpt: field.text };
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
        readOrNote(problems, at, () => takeBalance(statement, field));
        break;
      case '34F':
        statement.currency ??= /^[A-Z]{3}/.exec(field.text)?.[0] ?? null;
        break;
      case '61': {
        const line = readOrNote(problems, at, () => lineOf(field, currency));
        last = line && { index: statement.lines.push(line) - 1 };
        break;
      }
      case '86': {
        const line = last && statement.lines[last.index];
        if (line && last) statement.lines[last.index] = withInformation(line, field.text);
        last = null;
        break;
      }
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
function fieldsOf(text: string): Field[] {
  const fields: Field[] = [];
  let isInMessage = true;
  for (const [index, raw] of text.split(/\r?\n/).entries()) {
    const line = raw.replace(/^.*\{4:\s*/, '');
    const field = FIELD.exec(line);
    const before = fields.at(-1);
    if (field) {
      isInMessage = true;
      fields.push({ tag: (field[1] ?? '').toUpperCase(), text: field[2] ?? '', line: index + 1 });
    } else if (/^-\}?/.test(line) && line.replace(/[-}\s]/g, '') === '') isInMessage = false;
    else if (isInMessage && before && line.trim() !== '' && !/^[{}]/.test(line)) {
      fields[fields.length - 1] = { ...before, text: `${before.text}\n${line}` };
    }
  }
  return fields;
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

function lineOf({ text, line }: Field, currency: string): BankLine {
  const { movement, rest, supplement } = partsOf(text);
  const [, year, month, day, entryMonth, entryDay, mark = '', , amount = ''] = movement;
  const valueDate = valueDateOf(2000 + Number(year), Number(month), Number(day));
  const size = parseAmount(amount.replace(/[.,]$/, ''), ',', currency);
  const isOut = ['D', 'RC', 'ED'].includes(mark.toUpperCase());
  const [, code, reference, bankId] = REFERENCES.exec(rest) ?? [];
  const type = code?.toUpperCase() || null;
  return bankLine({
    place: line,
    date: entryMonth ? entryDate(valueDate, Number(entryMonth), Number(entryDay)) : valueDate,
    valueDate,
    amount: isOut && size !== 0 ? -size : size,
    description: supplement,
    reference: referenceOf(reference),
    bankId: bankId?.trim() || null,
    type,
    chequeNumber: type === 'NCHK' ? referenceOf(reference) : null,
  });
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
  const rows = text.split('\n').map((row) => row.trim());
  let first = rows[0] ?? '';
  let used = 1;
  // A cut amount can't be told from a whole one, but an amount is never the last thing on its line.
  while (used < rows.length && isWrapped(first, rows[used] ?? '')) {
    first += rows[used] ?? '';
    used += 1;
  }
  const movement = MOVEMENT.exec(first) ?? fail('LINE_UNREADABLE');
  const rest = first.slice(movement[0].length);
  return { movement, rest, supplement: rows.slice(used).filter(Boolean).join(' ') };
}

function isWrapped(first: string, next: string): boolean {
  const movement = MOVEMENT.exec(first);
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
function withInformation(line: BankLine, text: string): BankLine {
  const numbered = /^(\d{3})?([?>])\d{2}/.exec(text.replaceAll('\n', ''));
  if (numbered) return withNumbered(line, text.replaceAll('\n', ''), numbered[2] ?? '?');
  const joined = text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
    .join(' ');
  const words = /^\/[A-Z]{2,4}\//.test(joined) ? slashed(text.replaceAll('\n', '')) : null;
  if (words === null) return { ...line, description: joined || line.description };
  const payee = words.get('NAME') ?? null;
  const remittance = words.get('REMI') ?? words.get('INFO') ?? '';
  return {
    ...line,
    payee,
    reference: words.get('EREF') ?? line.reference,
    description: [payee, remittance].filter(Boolean).join(' ') || joined,
  };
}

function withNumbered(line: BankLine, text: string, mark: string): BankLine {
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
  return {
    ...line,
    payee,
    type: parts.get('00') ?? line.type,
    description: [payee, purpose].filter(Boolean).join(' ') || line.description,
  };
}

function slashed(text: string): Map<string, string> {
  const found = new Map<string, string>();
  for (const match of text.matchAll(/\/([A-Z]{2,4})\/([\s\S]*?)(?=\/[A-Z]{2,4}\/|$)/g)) {
    found.set(match[1] ?? '', (match[2] ?? '').trim());
  }
  return found;
}

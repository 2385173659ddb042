import { type CalendarDate, calendarDate } from '../../dates/calendarDate.ts';
import { fail, ZubrellError } from '../../errors.ts';
import type { Minor } from '../../money/minor.ts';
import { parseAmount } from '../../money/parseAmount.ts';
import type { BankLine, Problem, StatementFacts, TakeLine } from '../bankFile.ts';
import { problem, readOrNote } from '../problems.ts';

/** Takes the elements of an OFX document in order and builds statements from them. */
export interface OfxBuilder {
  /** An element begins. @param line its line in the file, from 1 */
  open(tag: string, line: number): void;
  /** An element's text, trimmed and not empty. */
  value(tag: string, text: string, line: number): void;
  /** An element ends. */
  close(tag: string): void;
  /** The file is over. @param isWhole whether its outermost element was closed */
  end(isWhole: boolean, line: number): void;
  readonly statements: StatementFacts[];
  readonly problems: Problem[];
}

interface OpenRecord {
  readonly place: number;
  readonly fields: ReadonlyMap<string, string>;
}

interface OpenStatement {
  account: string | null;
  bank: string | null;
  kind: StatementFacts['kind'];
  currency: string | null;
  from: CalendarDate | null;
  to: CalendarDate | null;
  closing: Minor | null;
  closingDate: CalendarDate | null;
}

const KINDS: Readonly<Record<string, StatementFacts['kind']>> = {
  CHECKING: 'current',
  SAVINGS: 'savings',
  MONEYMRKT: 'savings',
  CREDITLINE: 'card',
};

/** The elements that hold others and matter here; all others are values or passed over. */
const FRAMES = new Set([
  'STMTRS',
  'CCSTMTRS',
  'STMTTRN',
  'LEDGERBAL',
  'AVAILBAL',
  'PAYEE',
  'BANKACCTTO',
  'CCACCTTO',
  'CURRENCY',
  'ORIGCURRENCY',
  'INVSTMTRS',
  'BANKTRANLIST',
]);

/** The words for the fields a problem can be about. */
const WORDS: Readonly<Record<string, string>> = {
  BALAMT: 'closing balance',
  DTASOF: 'closing date',
  DTSTART: 'first date',
  DTEND: 'last date',
};

/**
 * Builds bank and card statements from OFX elements. An element that holds others ends where it is closed
 * or, as some banks leave that out, where the next of its kind begins.
 * Elements of other parts are passed over, investments with a notice. The available balance is
 * never used.
 *
 * @param takeLine takes the lines in the file's order
 */
export function createOfxBuilder(takeLine: TakeLine): OfxBuilder {
  const statements: StatementFacts[] = [];
  const problems: Problem[] = [];
  let statement: OpenStatement | null = null;
  let record: OpenRecord | null = null;
  // One map for all records, one after the other: a large file has very many.
  const fields = new Map<string, string>();
  const readDate = createDateReader();
  let inLedgerBalance = false;
  let inPayee = false;
  let inOtherAccount = false;
  let foreign: 'CURRENCY' | 'ORIGCURRENCY' | null = null;

  function setPart(tag: string, isInside: boolean): void {
    if (tag === 'LEDGERBAL') inLedgerBalance = isInside;
    else if (tag === 'PAYEE') inPayee = isInside;
    else if (tag === 'BANKACCTTO' || tag === 'CCACCTTO') inOtherAccount = isInside;
    else if (tag === 'CURRENCY' || tag === 'ORIGCURRENCY') foreign = isInside ? tag : null;
  }

  function open(tag: string, line: number): void {
    if (!FRAMES.has(tag)) return;
    if (tag === 'STMTTRN') {
      finishRecord();
      fields.clear();
      record = { place: line, fields };
    } else if (tag === 'LEDGERBAL') {
      finishRecord();
      setPart(tag, true);
    } else if (tag === 'AVAILBAL') {
      setPart('LEDGERBAL', false);
    } else if (tag === 'STMTRS' || tag === 'CCSTMTRS') {
      if (statement !== null) finishStatement();
      statement = emptyStatement(tag === 'CCSTMTRS' ? 'card' : null);
    } else if (tag === 'INVSTMTRS') {
      problems.push(problem('notice', 'FILE_INVESTMENTS', {}, { line }));
    } else setPart(tag, true);
  }

  function value(tag: string, text: string, line: number): void {
    if (record !== null) {
      if (inOtherAccount) {
        if (tag === 'ACCTID') fields.set('OTHERACCTID', text);
      } else if (inPayee && tag === 'NAME') fields.set('PAYEENAME', text);
      else if (foreign !== null) fields.set(`${foreign}.${tag}`, text);
      else fields.set(tag, text);
    } else if (statement !== null) setFact(statement, tag, text, line);
  }

  function setFact(target: OpenStatement, tag: string, text: string, line: number): void {
    const note = <T>(read: () => T): T | null =>
      readOrNote(problems, { line, field: WORDS[tag] ?? tag, excerpt: text }, read);
    switch (tag) {
      case 'CURDEF':
        target.currency = text.toUpperCase();
        break;
      case 'ACCTID':
        target.account = text;
        break;
      case 'BANKID':
        target.bank = text;
        break;
      case 'ACCTTYPE':
        target.kind = KINDS[text.toUpperCase()] ?? target.kind;
        break;
      case 'DTSTART':
        target.from = note(() => ofxDate(text));
        break;
      case 'DTEND':
        target.to = note(() => ofxDate(text));
        break;
      case 'BALAMT':
        if (!inLedgerBalance) break;
        target.closing = note(() => parseAmount(text, 'either', target.currency ?? 'EUR'));
        break;
      case 'DTASOF':
        if (inLedgerBalance) target.closingDate = note(() => ofxDate(text));
        break;
    }
  }

  function close(tag: string): void {
    if (!FRAMES.has(tag)) return;
    if (tag === 'STMTTRN' || tag === 'BANKTRANLIST') finishRecord();
    else if (tag === 'STMTRS' || tag === 'CCSTMTRS') finishStatement();
    else setPart(tag, false);
  }

  /** Takes the open record, whether its element was closed or the next began. */
  function finishRecord(): void {
    const line =
      record && statement && lineOf(record, statement.currency ?? 'EUR', problems, readDate);
    if (line) takeLine(statements.length, line);
    record = null;
    inPayee = false;
    inOtherAccount = false;
    foreign = null;
  }

  function finishStatement(): void {
    finishRecord();
    if (statement !== null) statements.push({ ...statement, opening: null, dayBalances: [] });
    statement = null;
  }

  function end(isWhole: boolean, line: number): void {
    if (!isWhole) {
      const what = record ? 'a record' : statement ? 'a statement' : 'its frame';
      const excerpt = record && excerptOf(record);
      problems.push(problem('fatal', 'FILE_CUT_OFF', { what }, { line, excerpt }));
      record = null;
    }
    finishStatement();
  }

  return { open, value, close, end, statements, problems };
}

function emptyStatement(kind: StatementFacts['kind']): OpenStatement {
  return {
    account: null,
    bank: null,
    kind,
    currency: null,
    from: null,
    to: null,
    closing: null,
    closingDate: null,
  };
}

/** Reads OFX dates; a large file repeats the same few many times. */
function createDateReader(): (text: string) => CalendarDate {
  const known = new Map<string, CalendarDate>();
  return (text) => {
    const before = known.get(text);
    if (before !== undefined) return before;
    const date = ofxDate(text);
    known.set(text, date);
    return date;
  };
}

function lineOf(
  record: OpenRecord,
  currency: string,
  problems: Problem[],
  readDate: (text: string) => CalendarDate,
): BankLine | null {
  const { fields, place } = record;
  try {
    const name = fields.get('NAME') ?? fields.get('PAYEENAME') ?? '';
    return {
      place,
      date: readDate(fields.get('DTPOSTED') ?? fail('DATE_MISSING')),
      valueDate: optionalDate(fields.get('DTAVAIL')),
      amount: amountOf(record, currency),
      description: joined(name, fields.get('MEMO') ?? ''),
      reference: fields.get('REFNUM') ?? null,
      payee: fields.get('PAYEENAME') ?? null,
      bankId: fields.get('FITID') ?? null,
      type: fields.get('TRNTYPE') ?? null,
      chequeNumber: fields.get('CHECKNUM') ?? null,
      counterparty: fields.get('OTHERACCTID') ?? null,
      category: fields.get('SIC') ?? null,
      cardholder: null,
      original: originalOf(fields),
      prepared: null,
      balance: null,
      isPending: false,
    };
  } catch (error) {
    if (!(error instanceof ZubrellError)) throw error;
    noteRefused(record, currency, problems);
    return null;
  }
}

/**
 * The foreign amount behind a line. ORIGCURRENCY says that TRNAMT is converted already and at which
 * rate; the amount before is TRNAMT divided by it (OFX 2.2, 5.2).
 */
function originalOf(fields: ReadonlyMap<string, string>): string | null {
  const symbol = fields.get('ORIGCURRENCY.CURSYM');
  if (symbol === undefined) return null;
  const rate = fields.get('ORIGCURRENCY.CURRATE');
  return rate === undefined ? symbol : `${symbol} @ ${rate}`;
}

function amountOf({ fields }: OpenRecord, currency: string): Minor {
  return parseAmount(fields.get('TRNAMT') ?? fail('AMOUNT_MISSING'), 'either', currency);
}

/** Says everything that is wrong with a record, with its amount if that much can be read. */
function noteRefused(record: OpenRecord, currency: string, problems: Problem[]): void {
  const place = { line: record.place, excerpt: excerptOf(record) };
  const amount = readOrNote(problems, { ...place, field: 'amount' }, () =>
    amountOf(record, currency),
  );
  readOrNote(problems, { ...place, field: 'date', amount }, () =>
    ofxDate(record.fields.get('DTPOSTED') ?? fail('DATE_MISSING')),
  );
}

/** Name and memo as one wording, without saying the same twice. */
function joined(name: string, memo: string): string {
  if (memo === '' || name.startsWith(memo)) return name;
  return name === '' || memo.startsWith(name) ? memo : `${name} ${memo}`;
}

function excerptOf(record: OpenRecord): string {
  return [...record.fields].map(([tag, text]) => `${tag} ${text}`).join(' · ');
}

/** The date part of an OFX date-time, `YYYYMMDD[HHMMSS[.XXX]][[offset:zone]]` (OFX 2.2, 3.2.8.2). */
function ofxDate(text: string): CalendarDate {
  const match = /^(\d{4})(\d{2})(\d{2})/.exec(text);
  if (!match) fail('DATE_UNREADABLE', { text });
  return calendarDate(Number(match[1]), Number(match[2]), Number(match[3]));
}

/** A date that nothing depends on: null where it can't be read. */
function optionalDate(text: string | undefined): CalendarDate | null {
  return text === undefined ? null : readOrNote([], { line: 0 }, () => ofxDate(text));
}

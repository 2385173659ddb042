import { type CalendarDate, calendarDate } from '../../dates/calendarDate.ts';
import { fail } from '../../errors.ts';
import { type Minor, sumMinor } from '../../money/minor.ts';
import { parseAmount } from '../../money/parseAmount.ts';
import {
  type BankLine,
  bankLine,
  type Problem,
  type StatementFacts,
  type TakeLine,
} from '../bankFile.ts';
import { type ProblemPlace, problem, readOrNote } from '../problems.ts';
import { shownCard } from '../shownCard.ts';
import type { TextReader } from '../textReader.ts';
import { createXmlReader } from '../xml/readXml.ts';

/** An element with its children, built for one entry or balance at a time. */
interface Element {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly line: number;
  text: string;
  children: Element[];
}

/** Most elements have no children; these share one list. */
const NONE: Element[] = [];

interface OpenStatement {
  account: string | null;
  bank: string | null;
  currency: string | null;
  from: CalendarDate | null;
  to: CalendarDate | null;
  opening: Minor | null;
  closing: Minor | null;
  closingDate: CalendarDate | null;
}

/** Statement (053), report (052), notification (054). */
const STATEMENTS = new Set(['Stmt', 'Rpt', 'Ntfctn']);
/** What is read as a whole when it ends, below a statement. */
const NOWHERE: ProblemPlace = { line: 0 };
const PARTS = new Set(['Acct', 'FrToDt', 'Bal', 'Ntry']);

/** A reader of camt documents with what it has found so far. */
export interface CamtReader extends TextReader {
  readonly statements: StatementFacts[];
  /** Whether the document is of this kind at all. */
  readonly isCamt: boolean;
}

/** The messages that are read. */
const MESSAGE = /^BkToCstmr(Stmt|AcctRpt|DbtCdtNtfctn)$/;

/**
 * Reads ISO 20022 account reports, statements and notifications (camt.052, 053, 054) of any version.
 * An entry for several transactions becomes one line each if each states its amount and they add up;
 * otherwise one line. The indicator says the direction as booked, for reversals too.
 *
 * @param booksCurrency used where the file names no currency
 * @param takeLine takes the lines in the file's order
 * @param problems takes what is wrong
 */
export function createCamtReader(
  booksCurrency: string,
  takeLine: TakeLine,
  problems: Problem[],
): CamtReader {
  const statements: StatementFacts[] = [];
  let statement: OpenStatement | null = null;
  const path: Element[] = [];
  let isWhole = false;
  /** How many elements of the path lie below a part. */
  let inPart = 0;
  let isCamt = false;

  const reader = createXmlReader(
    {
      open: (name, attributes, line) => {
        const element: Element = { name, attributes, line, text: '', children: NONE };
        const above = path.at(-1);
        path.push(element);
        // Only parts keep their children: the document as a whole is never in memory.
        if (inPart > 0 && above) {
          if (above.children === NONE) above.children = [element];
          else above.children.push(element);
          inPart += 1;
          return;
        }
        if (!isCamt && MESSAGE.test(name)) isCamt = true;
        if (STATEMENTS.has(name)) statement = emptyStatement();
        if (PARTS.has(name)) inPart = 1;
      },
      value: (_name, value) => {
        const element = path.at(-1);
        if (element) element.text = value;
      },
      close: (name) => {
        const element = path.pop();
        if (inPart > 0) inPart -= 1;
        if (inPart > 0) return;
        if (name === 'Document') isWhole = true;
        if (statement === null || !element) return;
        if (STATEMENTS.has(name)) {
          statements.push({ ...statement, kind: null, dayBalances: [] });
          statement = null;
        } else if (PARTS.has(name) && STATEMENTS.has(path.at(-1)?.name ?? '')) {
          const lines = takePart(statement, element, booksCurrency, problems);
          for (const line of lines) takeLine(statements.length, line);
        }
      },
    },
    problems,
  );
  return {
    statements,
    get isCamt() {
      return isCamt;
    },
    write: reader.write,
    end() {
      const ending = reader.end();
      if (!isWhole && !ending.isRefused) {
        const what = path.some(({ name }) => name === 'Ntry') ? 'an entry' : 'a statement';
        problems.push(problem('fatal', 'FILE_CUT_OFF', { what }, { line: ending.line }));
      }
      if (statement !== null) statements.push({ ...statement, kind: null, dayBalances: [] });
    },
  };
}

function emptyStatement(): OpenStatement {
  return {
    account: null,
    bank: null,
    currency: null,
    from: null,
    to: null,
    opening: null,
    closing: null,
    closingDate: null,
  };
}

/** Takes what a part says; gives the lines of an entry. */
function takePart(
  statement: OpenStatement,
  part: Element,
  booksCurrency: string,
  problems: Problem[],
): BankLine[] {
  switch (part.name) {
    case 'Acct':
      statement.account = accountOf(part);
      statement.currency = find(part, 'Ccy');
      statement.bank =
        find(part, 'Svcr', 'FinInstnId', 'BICFI') ?? find(part, 'Svcr', 'FinInstnId', 'BIC');
      break;
    case 'FrToDt':
      statement.from = readOrNote(
        problems,
        () => placeOf(part),
        () => isoDate(find(part, 'FrDtTm') ?? ''),
      );
      statement.to = readOrNote(
        problems,
        () => placeOf(part),
        () => isoDate(find(part, 'ToDtTm') ?? ''),
      );
      break;
    case 'Bal':
      readOrNote(
        problems,
        () => placeOf(part),
        () => takeBalance(statement, part, booksCurrency),
      );
      break;
    default:
      return entryLines(part, statement, booksCurrency, problems);
  }
  return [];
}

/** Opening (OPBD, or the former closing PRCD) and closing (CLBD) booked balances; no others. */
function takeBalance(statement: OpenStatement, part: Element, booksCurrency: string): void {
  const code = find(part, 'Tp', 'CdOrPrtry', 'Cd');
  if (code !== 'OPBD' && code !== 'PRCD' && code !== 'CLBD') return;
  const amount = signedAmount(part, statement.currency ?? booksCurrency);
  statement.currency ??= child(part, 'Amt')?.attributes.Ccy ?? null;
  if (code !== 'CLBD') {
    if (code === 'OPBD' || statement.opening === null) statement.opening = amount;
    return;
  }
  statement.closing = amount;
  statement.closingDate = dateIn(part, 'Dt');
}

function entryLines(
  entry: Element,
  statement: OpenStatement,
  booksCurrency: string,
  problems: Problem[],
): BankLine[] {
  const currency = statement.currency ?? booksCurrency;
  const amount = readOrNote(
    problems,
    () => placeOf(entry, 'Amt'),
    () => signedAmount(entry, currency),
  );
  const date = readOrNote(
    problems,
    () => ({ ...placeOf(entry, 'BookgDt'), amount }),
    () => dateIn(entry, 'BookgDt') ?? dateIn(entry, 'ValDt') ?? fail('DATE_MISSING'),
  );
  if (amount === null || date === null) return [];
  const details = children(entry, 'NtryDtls').flatMap((each) => children(each, 'TxDtls'));
  const booked = {
    date,
    valueDate: readOrNote([], NOWHERE, () => dateIn(entry, 'ValDt')),
    isPending: (find(entry, 'Sts', 'Cd') ?? find(entry, 'Sts')) === 'PDNG',
  };
  const amounts = details.map((detail) => detailAmount(detail, amount, currency));
  const isSplit =
    details.length > 1 &&
    amounts.every((each) => each !== null) &&
    sumMinor(amounts.map((each) => each ?? 0)) === amount;
  if (!isSplit) return [lineOf(entry, details[0] ?? null, booked, { amount, part: null })];
  return details.map((detail, index) =>
    lineOf(entry, detail, booked, { amount: amounts[index] ?? 0, part: index + 1 }),
  );
}

/** A transaction's own amount, signed; null where it states none in the account's currency. */
function detailAmount(detail: Element, entryAmount: Minor, currency: string): Minor | null {
  const stated = child(detail, 'Amt') ?? path(detail, 'AmtDtls', 'TxAmt', 'Amt');
  if (!stated || (stated.attributes.Ccy ?? currency) !== currency) return null;
  return readOrNote([], { line: detail.line }, () => {
    const size = parseAmount(stated.text, '.', currency);
    const direction = find(detail, 'CdtDbtInd');
    return (direction === null ? entryAmount < 0 : direction === 'DBIT') ? -size : size;
  });
}

/** The line of an entry, or of one of its transactions; `part` numbers those of one entry. */
function lineOf(
  entry: Element,
  detail: Element | null,
  { date, valueDate, isPending }: Pick<BankLine, 'date' | 'valueDate' | 'isPending'>,
  { amount, part }: { readonly amount: Minor; readonly part: number | null },
): BankLine {
  const source = detail ?? entry;
  const other = amount < 0 ? 'Cdtr' : 'Dbtr';
  const parties = child(source, 'RltdPties');
  const remittance = child(source, 'RmtInf');
  const refs = child(source, 'Refs');
  const card = child(entry, 'CardTx');
  const payee = find(parties, other, 'Pty', 'Nm') ?? find(parties, other, 'Nm');
  const wording = remittanceOf(source) || find(source, 'AddtlTxInf');
  const note = find(entry, 'AddtlNtryInf');
  const endToEnd = find(refs, 'EndToEndId');
  const ofEntry = find(entry, 'AcctSvcrRef');
  const id = find(refs, 'AcctSvcrRef') ?? ofEntry ?? find(entry, 'NtryRef');
  return bankLine({
    place: entry.line,
    date,
    valueDate,
    isPending,
    amount,
    description: (payee && wording ? `${payee} ${wording}` : payee || wording) || (note ?? ''),
    reference:
      find(remittance, 'Strd', 'CdtrRefInf', 'Ref') ??
      (endToEnd === 'NOTPROVIDED' ? null : endToEnd),
    payee,
    // Transactions of one entry may share its id, so they are told apart by their order.
    bankId: id !== null && part !== null && id === ofEntry ? `${id}/${part}` : id,
    type: note ?? find(entry, 'BkTxCd', 'Prtry', 'Cd') ?? find(entry, 'BkTxCd', 'Domn', 'Cd'),
    chequeNumber: find(refs, 'ChqNb'),
    counterparty: accountOf(parties && child(parties, `${other}Acct`)),
    category: find(card, 'POI', 'Id', 'MrchntCtgyCd'),
    cardholder: shownCard(
      find(card, 'Card', 'PlainCardData', 'PAN') ??
        find(card, 'Card', 'PlainCardNb') ??
        find(source, 'CardTx', 'Card', 'PlainCardNb'),
    ),
    original: originalOf(source),
  });
}

/** What the payment says, of all its parts. */
function remittanceOf(source: Element): string {
  let said = '';
  for (const each of source.children) {
    if (each.name !== 'RmtInf') continue;
    for (const { name, text } of each.children) {
      if (name === 'Ustrd') said = said === '' ? text : `${said} ${text}`;
    }
  }
  return said;
}

/** The number of an account, by either of the ways it is given. */
function accountOf(account: Element | null): string | null {
  return find(account, 'Id', 'IBAN') ?? find(account, 'Id', 'Othr', 'Id');
}

/** The instructed amount where it was in another currency. */
function originalOf(source: Element): string | null {
  const stated = path(source, 'AmtDtls', 'InstdAmt', 'Amt');
  const paid = path(source, 'AmtDtls', 'TxAmt', 'Amt') ?? child(source, 'Amt');
  const currency = stated?.attributes.Ccy;
  if (!stated || currency === undefined || currency === paid?.attributes.Ccy) return null;
  return `${currency} ${stated.text}`;
}

function signedAmount(part: Element, currency: string): Minor {
  const size = parseAmount(find(part, 'Amt') ?? fail('AMOUNT_MISSING'), '.', currency);
  return find(part, 'CdtDbtInd') === 'DBIT' && size !== 0 ? -size : size;
}

/** A date given as a date or as a date with time; null where it is missing. */
function dateIn(part: Element, name: string): CalendarDate | null {
  const stated = child(part, name);
  if (!stated) return null;
  const text = find(stated, 'Dt') ?? find(stated, 'DtTm') ?? stated.text;
  return text === '' ? null : isoDate(text);
}

function isoDate(text: string): CalendarDate {
  // The standard asks for hyphens; some banks leave them out.
  const match = /^(\d{4})(-?)(\d{2})\2(\d{2})/.exec(text);
  if (!match) fail('DATE_UNREADABLE', { text });
  return calendarDate(Number(match[1]), Number(match[3]), Number(match[4]));
}

function children(of: Element, name: string): Element[] {
  return of.children.filter((each) => each.name === name);
}

function child(of: Element, name: string): Element | null {
  for (const each of of.children) if (each.name === name) return each;
  return null;
}

function path(of: Element | null, ...names: readonly string[]): Element | null {
  let found = of;
  for (const name of names) {
    if (found === null) return null;
    found = child(found, name);
  }
  return found;
}

/** The text at the end of a path of names, or null. */
function find(of: Element | null, ...names: readonly string[]): string | null {
  return path(of, ...names)?.text || null;
}

/** Where a part is, with its text. @param field the element to blame */
function placeOf(part: Element, field = part.name): ProblemPlace {
  return { line: part.line, field, excerpt: textOf(part) };
}

function textOf(element: Element): string {
  const own = element.text === '' ? [] : [`${element.name} ${element.text}`];
  return [...own, ...element.children.map(textOf)].join(' · ');
}

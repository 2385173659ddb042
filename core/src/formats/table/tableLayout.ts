import type { DateOrder } from '../../dates/calendarDate.ts';
import { dateOrderOf } from '../../dates/parseDate.ts';
import { decimalMarkOf } from '../../money/decimalMark.ts';
import { holdsDate, isFilled, isLine } from './cellContent.ts';
import { rolesByContent } from './rolesByContent.ts';

/** Headings in use for each role, compared without case, accents and punctuation. */
const HEADINGS = {
  date: 'date|booking date|booked|posted|posting date|transaction date|buchung|buchungstag|datum',
  valueDate: 'value date|valued|wertstellung|valuta',
  amount: 'amount|value|sum|betrag|umsatz|montant',
  paidOut: 'paid out|money out|out|debit|withdrawal|withdrawals|soll|debito|cargo',
  paidIn: 'paid in|money in|in|credit|deposit|deposits|haben|credito|abono',
  balance: 'balance|running balance|saldo|stand|solde|balance owed',
  description:
    'description|details|narrative|text|wording|memo|buchungstext|verwendungszweck|libelle|concepto',
  reference: 'reference|ref|beleg|referenz',
  payee: 'payee|name|counterparty|payer|recipient|empfanger',
  chequeNumber: 'cheque|cheque number|cheque no',
  bankId: 'id|bank id|transaction id|unique id',
  type: 'type|transaction type|art',
  bankAccount: 'account number|iban|konto|bank account',
  cardholder:
    'cardholder|cardholder name|card holder|name on card|card user|karteninhaber|card number|card no|kartennummer|card|karte',
  currency: 'currency|ccy|wahrung',
  status: 'status|state|booking status',
  account: 'account|account code|account name|ledger account|category|coded to|sachkonto',
  tax: 'tax|tax code|vat|vat code|steuer',
  costCentre: 'cost centre|cost center|kostenstelle|department',
} as const;

/** What a column of a table holds. */
export type ColumnRole = keyof typeof HEADINGS;

/** Every role a column can have. */
export const columnRoles = Object.keys(HEADINGS) as readonly ColumnRole[];

/** What separates the columns of a text file. */
export type Delimiter = ',' | ';' | '\t' | '|';

/** One row of a table and its place in the file, from 1. */
export interface TableRow {
  readonly place: number;
  readonly cells: readonly string[];
}

/** How a CSV file or a spreadsheet is to be read. */
export interface TableLayout {
  /** Null in a spreadsheet. */
  readonly delimiter: Delimiter | null;
  /** The number of the header's row in the file, from 1; null where there is none. */
  readonly headerRow: number | null;
  /** The first rows of the file, of which one may be the header. */
  readonly firstRows: readonly TableRow[];
  /** Numbered where there is no header. */
  readonly headings: readonly string[];
  /** For each column its role, or null. */
  readonly roles: readonly (ColumnRole | null)[];
  readonly dates: DateOrder;
  /** A date whose day and month can't be told apart, where none tells and nobody chose; else null. */
  readonly openDate: string | null;
  readonly decimal: '.' | ',';
  /** A minus means paid in, as many card files have it. */
  readonly isTurned: boolean;
  /** Whether the balances prove the signs. */
  readonly isProved: boolean;
  /** The first rows under the header as they stand. */
  readonly samples: readonly (readonly string[])[];
}

/** What somebody chose otherwise than it was guessed; what is left out is guessed. */
export interface LayoutChoices {
  /** Character set, as the decoder calls it. */
  readonly encoding?: string | undefined;
  readonly delimiter?: Delimiter | undefined;
  /** The number of the header's row in the file, from 1; null for none. */
  readonly headerRow?: number | null | undefined;
  readonly roles?: readonly (ColumnRole | null)[] | undefined;
  readonly dates?: DateOrder | undefined;
  readonly decimal?: '.' | ',' | undefined;
  readonly isTurned?: boolean | undefined;
}

/** The layout but for what is found out while reading: the signs. */
export type FoundLayout = Omit<TableLayout, 'isTurned' | 'isProved'>;

const BY_HEADING = new Map(
  Object.entries(HEADINGS).flatMap(([role, names]) =>
    names.split('|').map((name) => [name, role as ColumnRole] as const),
  ),
);

/** How far down the header may stand. */
const HEADER_WITHIN = 15;
const SAMPLES = 3;

/**
 * Finds how a table of bank lines is laid out: by its headings, else by what its columns hold; as
 * somebody chose, where they did. Dates and decimals are decided over whole columns.
 *
 * @returns null where it is no table with a date and an amount
 * @example layoutOf(rows of 'Date;Text;Amount EUR', ';', {})?.roles // ['date', 'description', 'amount']
 */
export function layoutOf(
  rows: readonly TableRow[],
  delimiter: Delimiter | null,
  choices: LayoutChoices,
): FoundLayout | null {
  const found = foundRoles(rows, choices);
  if (found === null) return null;
  const { headerRow, roles } = found;
  const body = bodyOf(rows, headerRow);
  const headings = rows.find(({ place }) => place === headerRow)?.cells ?? [];
  const widths = body.slice(0, 50).map(({ cells }) => cells.length);
  const width = Math.max(roles.length, headings.length, ...widths);
  const cellsOf = (wanted: readonly ColumnRole[]) => {
    const columns = wanted.map((role) => roles.indexOf(role)).filter((column) => column >= 0);
    return body.flatMap(({ cells }) => columns.map((column) => cells[column] ?? ''));
  };
  const { order, openDate } = dateOrderOf(cellsOf(['date']));
  return {
    delimiter,
    headerRow,
    firstRows: rows.slice(0, HEADER_WITHIN).map(({ place, cells }) => ({ place, cells })),
    headings: Array.from({ length: width }, (_, column) =>
      headerRow === null ? `Column ${column + 1}` : (headings[column]?.trim() ?? ''),
    ),
    roles: Array.from({ length: width }, (_, column) => roles[column] ?? null),
    dates: choices.dates ?? order,
    openDate: choices.dates === undefined ? openDate : null,
    decimal: choices.decimal ?? decimalMarkOf(cellsOf(['amount', 'paidOut', 'paidIn', 'balance'])),
    samples: body.slice(0, SAMPLES).map(({ cells }) => cells),
  };
}

/** The rows below the header. */
export function bodyOf(rows: readonly TableRow[], headerRow: number | null): readonly TableRow[] {
  return headerRow === null ? rows : rows.filter(({ place }) => place > headerRow);
}

/** The shape of a table by which the next file of the same bank is known again. */
export function shapeOf({ headerRow, headings }: TableLayout): string {
  return headerRow === null ? `${headings.length} columns` : headings.join('|');
}

type Roles = readonly (ColumnRole | null)[];

type Found = {
  readonly headerRow: number | null;
  readonly roles: Roles;
};

function foundRoles(rows: readonly TableRow[], choices: LayoutChoices): Found | null {
  const { headerRow: wanted, roles } = choices;
  if (wanted === undefined) {
    const guessed = guess(rows);
    if (roles) return { headerRow: guessed?.headerRow ?? null, roles };
    return guessed;
  }
  return { headerRow: wanted, roles: roles ?? rolesUnder(rows, wanted) };
}

function guess(rows: readonly TableRow[]): Found | null {
  for (const { place, cells } of rows.slice(0, HEADER_WITHIN)) {
    if (isEnough(rolesByHeading(cells, bodyOf(rows, place))) && !holdsDate(cells)) {
      return { headerRow: place, roles: rolesUnder(rows, place) };
    }
  }
  // No heading that is known: what the columns hold must tell, and the row above them is the header
  // where it holds neither a date nor an amount.
  const byContent = rolesByContent(rows);
  if (byContent === null) return null;
  const first = rows.findIndex((row) => isLine(row, byContent));
  if (first < 0 || first >= HEADER_WITHIN) return null;
  const wide = byContent.filter((role) => role !== null).length;
  const header = rows
    .slice(0, first)
    .findLast(({ cells }) => cells.filter(isFilled).length >= Math.max(2, wide / 2));
  const headerRow = header && !holdsDate(header.cells) ? header.place : null;
  const roles = rolesUnder(rows, headerRow);
  return isEnough(roles) ? { headerRow, roles } : null;
}

/** The roles below a header: as the known headings say, the others as the columns hold. */
function rolesUnder(rows: readonly TableRow[], headerRow: number | null): Roles {
  const body = bodyOf(rows, headerRow);
  const header = rows.find(({ place }) => place === headerRow);
  const byHeading = header ? rolesByHeading(header.cells, body) : [];
  const byContent = rolesByContent(body) ?? [];
  if (isEnough(byHeading)) return filled(byHeading, byContent, ['balance', 'description']);
  const held = byContent.map((role) => (role !== null && BY_HOLDING.has(role) ? role : null));
  return filled(filled(held, byHeading, columnRoles), byContent, columnRoles);
}

/** What the cells of a column show more surely than an unknown heading. */
const BY_HOLDING: ReadonlySet<ColumnRole> = new Set([
  'date',
  'valueDate',
  'amount',
  'paidOut',
  'paidIn',
  'balance',
]);

/** Gives columns without a role the ones that `more` has for them, of those wanted, each once. */
function filled(roles: Roles, more: Roles, wanted: readonly ColumnRole[]): Roles {
  const taken = new Set(roles);
  return Array.from({ length: Math.max(roles.length, more.length) }, (_, column) => {
    const own = roles[column] ?? null;
    const other = more[column] ?? null;
    if (own !== null || other === null || taken.has(other) || !wanted.includes(other)) return own;
    taken.add(other);
    return other;
  });
}

/** Whether lines can be read with these roles. */
export function isEnough(roles: readonly (ColumnRole | null)[]): boolean {
  const has = (role: ColumnRole) => roles.includes(role);
  return has('date') && (has('amount') || has('paidOut') || has('paidIn'));
}

function rolesByHeading(
  headings: readonly string[],
  body: readonly TableRow[],
): (ColumnRole | null)[] {
  const taken = new Set<ColumnRole>();
  return headings.map((heading, column) => {
    let role = BY_HEADING.get(plainHeading(heading)) ?? null;
    if (role === 'cardholder' && isCardNumber(heading)) {
      // One card for all rows is the bank account; of several, a name beside the number says more.
      if (isNumberOfBank(body, column)) role = 'bankAccount';
      else if (headings.some(isCardholderName)) role = null;
    }
    // “Account” is the bank account where all rows have the same long number.
    if (role === 'account' && isNumberOfBank(body, column)) role = 'bankAccount';
    if (role === null || taken.has(role)) return null;
    taken.add(role);
    return role;
  });
}

const CARD_NUMBERS: ReadonlySet<string> = new Set([
  'card number',
  'card no',
  'kartennummer',
  'card',
  'karte',
]);
const isCardNumber = (heading: string) => CARD_NUMBERS.has(plainHeading(heading));
const isCardholderName = (heading: string) =>
  BY_HEADING.get(plainHeading(heading)) === 'cardholder' && !isCardNumber(heading);

function isNumberOfBank(body: readonly TableRow[], column: number): boolean {
  const values = new Set(body.slice(0, 200).map(({ cells }) => cells[column]?.trim() ?? ''));
  const [only = ''] = values;
  return values.size === 1 && only.replace(/\D/g, '').length >= 6;
}

/** A heading without case, accents, punctuation and a currency behind it. */
function plainHeading(heading: string): string {
  return heading
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^\p{L}\s]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/ [A-Z]{3}$/, '')
    .toLowerCase();
}

/** The currency a heading names. @example headingCurrency('Amount (EUR)') // 'EUR' */
export function headingCurrency(heading: string): string | null {
  return /[\s(]([A-Z]{3})\)?$/.exec(heading.trimEnd())?.[1] ?? null;
}

import { type DateOrder, dateOrderOf } from '../../dates/parseDate.ts';
import { decimalMarkOf } from '../../money/decimalMark.ts';
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
  bankAccount: 'account number|iban|konto|bank account|card number',
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
  /** The header's row among the rows, from 0; null where there is none. */
  readonly headerRow: number | null;
  /** Numbered where there is no header. */
  readonly headings: readonly string[];
  /** For each column its role, or null. */
  readonly roles: readonly (ColumnRole | null)[];
  readonly dates: DateOrder;
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
  /** The header's row, from 0; null for none. */
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
  const width = Math.max(roles.length, ...rows.slice(0, 50).map(({ cells }) => cells.length));
  const body = rows.slice(headerRow === null ? 0 : headerRow + 1);
  const headings = headerRow === null ? [] : (rows[headerRow]?.cells ?? []);
  const cellsOf = (wanted: readonly ColumnRole[]) => {
    const columns = wanted.map((role) => roles.indexOf(role)).filter((column) => column >= 0);
    return body.flatMap(({ cells }) => columns.map((column) => cells[column] ?? ''));
  };
  return {
    delimiter,
    headerRow,
    headings: Array.from({ length: width }, (_, column) =>
      headerRow === null ? `Column ${column + 1}` : (headings[column]?.trim() ?? ''),
    ),
    roles: Array.from({ length: width }, (_, column) => roles[column] ?? null),
    dates: choices.dates ?? dateOrderOf(cellsOf(['date'])),
    decimal: choices.decimal ?? decimalMarkOf(cellsOf(['amount', 'paidOut', 'paidIn', 'balance'])),
    samples: body.slice(0, SAMPLES).map(({ cells }) => cells),
  };
}

/** The shape of a table by which the next file of the same bank is known again. */
export function shapeOf({ headerRow, headings }: TableLayout): string {
  return headerRow === null ? `${headings.length} columns` : headings.join('|');
}

type Found = {
  readonly headerRow: number | null;
  readonly roles: readonly (ColumnRole | null)[];
};

function foundRoles(rows: readonly TableRow[], choices: LayoutChoices): Found | null {
  const wantedRow = choices.headerRow;
  if (choices.roles) {
    const headerRow = wantedRow === undefined ? (guess(rows)?.headerRow ?? null) : wantedRow;
    return { headerRow, roles: choices.roles };
  }
  if (wantedRow === undefined) return guess(rows);
  const body = rows.slice(wantedRow === null ? 0 : wantedRow + 1);
  if (wantedRow === null) return { headerRow: null, roles: rolesByContent(body) ?? [] };
  const roles = rolesByHeading(rows[wantedRow]?.cells ?? [], body);
  return {
    headerRow: wantedRow,
    roles: isEnough(roles) ? roles : (rolesByContent(body) ?? roles),
  };
}

function guess(rows: readonly TableRow[]): Found | null {
  for (const [headerRow, { cells }] of rows.slice(0, HEADER_WITHIN).entries()) {
    const roles = rolesByHeading(cells, rows.slice(headerRow + 1));
    if (isEnough(roles)) return { headerRow, roles };
  }
  // No heading that is known: what the columns hold must tell, below some rows of other things.
  for (let first = 0; first < Math.min(HEADER_WITHIN, rows.length); first += 1) {
    const roles = rolesByContent(rows.slice(first));
    if (roles === null) continue;
    const above = rows[first - 1];
    const isHeader = above !== undefined && above.cells.length >= roles.length;
    return { headerRow: isHeader ? first - 1 : null, roles };
  }
  return null;
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
    // “Account” is the bank account where all rows have the same long number.
    if (role === 'account' && isNumberOfBank(body, column)) role = 'bankAccount';
    if (role === null || taken.has(role)) return null;
    taken.add(role);
    return role;
  });
}

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

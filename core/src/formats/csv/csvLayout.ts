import { type DateOrder, dateOrderOf } from '../../dates/parseDate.ts';

/** Headings in use for each role, compared without case, accents and punctuation. */
const HEADINGS = {
  date: 'date|booking date|booked|posted|posting date|transaction date|buchung|buchungstag|datum',
  valueDate: 'value date|valued|wertstellung|valuta',
  amount: 'amount|value|sum|betrag|umsatz|montant',
  paidOut: 'paid out|money out|out|debit|withdrawal|withdrawals|soll',
  paidIn: 'paid in|money in|in|credit|deposit|deposits|haben',
  balance: 'balance|running balance|saldo|stand|solde',
  description: 'description|details|narrative|text|wording|memo|buchungstext|verwendungszweck',
  reference: 'reference|ref|beleg|referenz',
  payee: 'payee|name|counterparty|payer|recipient|empfanger',
  chequeNumber: 'cheque|cheque number|cheque no',
  bankId: 'id|bank id|transaction id|unique id',
  type: 'type|transaction type|art',
  account: 'account|account number|iban|konto',
  currency: 'currency|ccy|wahrung',
  status: 'status|state|booking status',
} as const;

/** What a column of a CSV file holds. */
export type ColumnRole = keyof typeof HEADINGS;

/** How a CSV file is to be read. */
export interface CsvLayout {
  readonly delimiter: ',' | ';' | '\t';
  /** The header's row among the records, from 0. */
  readonly headerRow: number;
  readonly headings: readonly string[];
  /** For each column its role, or null. */
  readonly roles: readonly (ColumnRole | null)[];
  readonly dates: DateOrder;
  readonly decimal: '.' | ',';
}

const BY_HEADING = new Map(
  Object.entries(HEADINGS).flatMap(([role, names]) =>
    names.split('|').map((name) => [name, role as ColumnRole] as const),
  ),
);

/** How far down the header may stand. */
const HEADER_WITHIN = 15;

/**
 * Finds how a CSV file is laid out from its records, or null where it is no table of bank lines.
 *
 * @param records the file's records, cut at `delimiter`
 * @example csvLayoutOf([['Date', 'Details', 'Amount']], ',')?.roles // ['date', 'description', 'amount']
 */
export function csvLayoutOf(
  records: readonly (readonly string[])[],
  delimiter: CsvLayout['delimiter'],
): CsvLayout | null {
  for (const [headerRow, headings] of records.slice(0, HEADER_WITHIN).entries()) {
    const roles = rolesOf(headings);
    const has = (role: ColumnRole) => roles.includes(role);
    if (!has('date') || !(has('amount') || has('paidOut') || has('paidIn'))) continue;
    const body = records.slice(headerRow + 1);
    const cellsOf = (wanted: readonly ColumnRole[]) => {
      const columns = wanted.map((role) => roles.indexOf(role)).filter((column) => column >= 0);
      return body.flatMap((record) => columns.map((column) => record[column] ?? ''));
    };
    return {
      delimiter,
      headerRow,
      headings: headings.map((heading) => heading.trim()),
      roles,
      dates: dateOrderOf(cellsOf(['date'])),
      decimal: decimalOf(cellsOf(['amount', 'paidOut', 'paidIn', 'balance'])),
    };
  }
  return null;
}

function rolesOf(headings: readonly string[]): (ColumnRole | null)[] {
  const taken = new Set<ColumnRole>();
  return headings.map((heading) => {
    const role = BY_HEADING.get(plainHeading(heading)) ?? null;
    if (role === null || taken.has(role)) return null;
    taken.add(role);
    return role;
  });
}

/** A heading without case, accents, punctuation and a currency behind it. */
function plainHeading(heading: string): string {
  return heading
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^\p{L}\s]+/gu, ' ')
    .trim()
    .replace(/\s+[A-Z]{3}$/, '')
    .replace(/\s+/g, ' ')
    .toLowerCase();
}

/** The currency a heading names. @example headingCurrency('Amount (EUR)') // 'EUR' */
export function headingCurrency(heading: string): string | null {
  return /[\s(]([A-Z]{3})\)?\s*$/.exec(heading)?.[1] ?? null;
}

/** The decimal mark of a whole column: the last mark before one or two digits, by majority. */
function decimalOf(amounts: readonly string[]): '.' | ',' {
  let comma = 0;
  let dot = 0;
  for (const amount of amounts) {
    const last = /([.,])\d{1,2}\D*$/.exec(amount.trim())?.[1];
    if (last === ',') comma += 1;
    else if (last === '.') dot += 1;
  }
  return comma > dot ? ',' : '.';
}

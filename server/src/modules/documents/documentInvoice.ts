import { fail } from '@zubrell/core/errors';
import { groupBy } from '@zubrell/core/groupBy';
import type { EInvoice, EInvoiceLine, TaxMark } from '@zubrell/core/invoices/eInvoice';
import type { TaxKind } from '@zubrell/core/ledger/kinds';
import { sumMinor } from '@zubrell/core/money/minor';
import { taxInside } from '@zubrell/core/money/taxInside';
import { rateOn } from '@zubrell/core/tax/rateOn';
import { addressLines, type PrintedDocument } from './documentPdf.ts';

/** The category of the standard that each kind of tax code is on a sale. */
const CATEGORIES: Readonly<Record<TaxKind, string>> = {
  standard: 'S',
  zero: 'Z',
  exempt: 'E',
  outside: 'O',
  reverseCharge: 'AE',
};

/**
 * An invoice or credit note to a customer as an electronic one, by EN 16931.
 *
 * @throws {ZubrellError} INVOICE_NEEDS where the books or the customer lack what the standard asks for
 */
export function documentInvoice({ sheet, setup }: PrintedDocument): EInvoice {
  const { books, payees, taxCodes, bankAccounts } = setup;
  const customer = payees.find(({ id }) => id === sheet.payeeId) ?? fail('PAYEE_UNKNOWN');
  if (books.country === '') need('the country of the business, under Settings');
  if (addressLines(books.address).length === 0) need('the address of the business, under Settings');
  const rows = sheet.lines.map(({ text, taxCodeId, amount, tax }) => {
    const code = taxCodes.find(({ id }) => id === taxCodeId);
    const kind = code?.kind ?? 'outside';
    const rate = kind === 'standard' ? (rateOn(code?.rates ?? [], sheet.date) ?? 0) : 0;
    const ownTax = kind === 'standard' ? (tax ?? taxInside(amount, rate)) : 0;
    const mark: TaxMark = { category: CATEGORIES[kind], rate };
    const line: EInvoiceLine = { text, quantity: '1', net: amount - ownTax, tax: mark };
    return { line, tax: ownTax };
  });
  const isTaxed = rows.some(({ line }) => line.tax.category !== 'O');
  if (isTaxed && books.taxNumber === '') need('the tax number of the business, under Settings');
  const isReverse = rows.some(({ line }) => line.tax.category === 'AE');
  if (isReverse && customer.taxNumber === '') {
    need(`the tax number of ${customer.name}, under Ledger, Payees`);
  }
  const marks = groupBy(rows, ({ line: { tax } }) => `${tax.category} ${tax.rate}`);
  const taxes = [...marks.values()].map((own) => ({
    ...(own[0]?.line.tax ?? { category: 'O', rate: 0 }),
    net: sumMinor(own.map(({ line }) => line.net)),
    tax: sumMinor(own.map(({ tax }) => tax)),
  }));
  const net = sumMinor(rows.map(({ line }) => line.net));
  const tax = sumMinor(rows.map((row) => row.tax));
  const lines = rows.map(({ line }) => line).filter((line) => line.net >= 0);
  const bank = bankAccounts.find(
    ({ kind, number, currency }) =>
      kind === 'current' &&
      number !== null &&
      currency === (sheet.exchange?.currency ?? books.currency),
  );
  const number = sheet.number ?? need('a number');
  return {
    form: 'UBL',
    kind: sheet.kind === 'creditNote' ? 'creditNote' : 'invoice',
    number,
    date: sheet.date,
    dueDate: sheet.dueDate,
    currency: sheet.exchange?.currency ?? books.currency,
    seller: {
      name: books.name,
      taxNumber: books.taxNumber || null,
      address: addressLines(books.address),
      country: books.country,
    },
    buyer: {
      name: customer.name,
      taxNumber: customer.taxNumber || null,
      address: addressLines(customer.address),
      country: customer.country || books.country,
    },
    note: sheet.note,
    paymentReference: number,
    account: bank?.number ?? null,
    lines,
    // What lowers the whole is an allowance: a line has no price below nil.
    adjustments: rows
      .map(({ line }) => line)
      .filter((line) => line.net < 0)
      .map((line) => ({ ...line, quantity: null, text: line.text || 'Discount' })),
    taxes,
    totals: {
      lines: sumMinor(lines.map((line) => line.net)),
      net,
      tax,
      gross: net + tax,
      prepaid: 0,
      rounding: 0,
      payable: net + tax,
    },
  };
}

function need(what: string): never {
  return fail('INVOICE_NEEDS', { what });
}

import type { CalendarDate } from '../dates/calendarDate.ts';
import { parseDate } from '../dates/parseDate.ts';
import { fail } from '../errors.ts';
import type { Minor } from '../money/minor.ts';
import { parseAmount } from '../money/parseAmount.ts';
import type { EInvoice, EInvoiceLine, EInvoiceParty, EInvoiceTax, TaxMark } from './eInvoice.ts';
import { all, readXmlTree, textAt, type XmlElement } from './xmlTree.ts';

/**
 * Reads an electronic invoice or credit note in one of the two syntaxes of EN 16931: UBL 2.1, or UN/CEFACT Cross
 * Industry Invoice (D16B).
 *
 * @throws {ZubrellError} INVOICE_UNREADABLE where it is neither, or something that must be there isn't
 */
export function readInvoice(text: string): EInvoice {
  const root = readXmlTree(text.replace(/^\uFEFF/, ''));
  if (root.name === 'Invoice' || root.name === 'CreditNote') return fromUbl(root);
  if (root.name === 'CrossIndustryInvoice') return fromCii(root);
  return fail('INVOICE_UNREADABLE', {
    detail: 'it is neither a UBL invoice nor a Cross Industry Invoice',
  });
}

/** Credit notes, by the code list of invoice types (UNTDID 1001). */
const CREDIT_TYPES: ReadonlySet<string> = new Set(['381', '396', '532', '83', '261']);

function fromUbl(root: XmlElement): EInvoice {
  const isCredit = root.name === 'CreditNote';
  const currency = needed(textAt(root, 'DocumentCurrencyCode'), 'the currency');
  const money = moneyIn(currency);
  const totals = all(root, 'LegalMonetaryTotal')[0] ?? missing('the totals');
  // The tax may be told a second time in the currency of the tax office.
  const taxTotal =
    all(root, 'TaxTotal').find(
      (total) => all(total, 'TaxAmount')[0]?.attributes.currencyID === currency,
    ) ?? all(root, 'TaxTotal')[0];
  const lineName = isCredit ? 'CreditNoteLine' : 'InvoiceLine';
  const quantity = isCredit ? 'CreditedQuantity' : 'InvoicedQuantity';
  const due = textAt(root, 'DueDate') ?? textAt(root, 'PaymentMeans', 'PaymentDueDate');
  return {
    form: 'UBL',
    kind: isCredit ? 'creditNote' : 'invoice',
    number: needed(textAt(root, 'ID'), 'the number'),
    date: dayOf(needed(textAt(root, 'IssueDate'), 'the date')),
    dueDate: due === null ? null : dayOf(due),
    currency,
    seller: ublParty(root, 'AccountingSupplierParty', 'the seller'),
    buyer: ublParty(root, 'AccountingCustomerParty', 'the buyer'),
    note: textAt(root, 'Note'),
    paymentReference: textAt(root, 'PaymentMeans', 'PaymentID'),
    account: textAt(root, 'PaymentMeans', 'PayeeFinancialAccount', 'ID'),
    lines: all(root, lineName).map((line) => ({
      text: lineText(textAt(line, 'Item', 'Name'), textAt(line, 'Item', 'Description')),
      quantity: textAt(line, quantity),
      net: money(textAt(line, 'LineExtensionAmount'), 'the net amount of a line'),
      tax: markOf(
        textAt(line, 'Item', 'ClassifiedTaxCategory', 'ID'),
        textAt(line, 'Item', 'ClassifiedTaxCategory', 'Percent'),
      ),
    })),
    adjustments: all(root, 'AllowanceCharge').map((each) =>
      adjustment({
        isCharge: textAt(each, 'ChargeIndicator') === 'true',
        reason: textAt(each, 'AllowanceChargeReason'),
        net: money(textAt(each, 'Amount'), 'the amount of an allowance or charge'),
        tax: markOf(textAt(each, 'TaxCategory', 'ID'), textAt(each, 'TaxCategory', 'Percent')),
      }),
    ),
    taxes: (taxTotal ? all(taxTotal, 'TaxSubtotal') : []).map(
      (each): EInvoiceTax => ({
        ...markOf(textAt(each, 'TaxCategory', 'ID'), textAt(each, 'TaxCategory', 'Percent')),
        net: money(textAt(each, 'TaxableAmount'), 'the base of a tax'),
        tax: money(textAt(each, 'TaxAmount'), 'the amount of a tax'),
      }),
    ),
    totals: {
      lines: money(textAt(totals, 'LineExtensionAmount'), 'the sum of the lines'),
      net: money(textAt(totals, 'TaxExclusiveAmount'), 'the total without tax'),
      tax: money((taxTotal && textAt(taxTotal, 'TaxAmount')) ?? '0', 'the tax'),
      gross: money(textAt(totals, 'TaxInclusiveAmount'), 'the total with tax'),
      prepaid: money(textAt(totals, 'PrepaidAmount') ?? '0', 'what was prepaid'),
      rounding: money(textAt(totals, 'PayableRoundingAmount') ?? '0', 'the rounding'),
      payable: money(textAt(totals, 'PayableAmount'), 'the amount due'),
    },
  };
}

function ublParty(root: XmlElement, role: string, what: string): EInvoiceParty {
  const party = all(root, role, 'Party')[0] ?? missing(what);
  const address = all(party, 'PostalAddress')[0];
  const street = address ? textAt(address, 'StreetName') : null;
  const more = address ? textAt(address, 'AdditionalStreetName') : null;
  const city = address
    ? [textAt(address, 'PostalZone'), textAt(address, 'CityName')].filter(Boolean).join(' ')
    : '';
  return {
    name: needed(
      textAt(party, 'PartyName', 'Name') ?? textAt(party, 'PartyLegalEntity', 'RegistrationName'),
      `the name of ${what}`,
    ),
    taxNumber: textAt(party, 'PartyTaxScheme', 'CompanyID'),
    address: [street, more, city].filter((each): each is string => Boolean(each)),
    country: address ? textAt(address, 'Country', 'IdentificationCode') : null,
  };
}

function fromCii(root: XmlElement): EInvoice {
  const document = all(root, 'ExchangedDocument')[0] ?? missing('the document');
  const trade = all(root, 'SupplyChainTradeTransaction')[0] ?? missing('the transaction');
  const agreement = all(trade, 'ApplicableHeaderTradeAgreement')[0] ?? missing('the parties');
  const settlement = all(trade, 'ApplicableHeaderTradeSettlement')[0] ?? missing('the totals');
  const currency = needed(textAt(settlement, 'InvoiceCurrencyCode'), 'the currency');
  const money = moneyIn(currency);
  const totals =
    all(settlement, 'SpecifiedTradeSettlementHeaderMonetarySummation')[0] ?? missing('the totals');
  const taxTotals = all(totals, 'TaxTotalAmount');
  const taxTotal =
    taxTotals.find(({ attributes }) => attributes.currencyID === currency) ?? taxTotals[0];
  const due = textAt(settlement, 'SpecifiedTradePaymentTerms', 'DueDateDateTime', 'DateTimeString');
  return {
    form: 'CII',
    kind: CREDIT_TYPES.has(textAt(document, 'TypeCode') ?? '') ? 'creditNote' : 'invoice',
    number: needed(textAt(document, 'ID'), 'the number'),
    date: dayOf(needed(textAt(document, 'IssueDateTime', 'DateTimeString'), 'the date')),
    dueDate: due === null ? null : dayOf(due),
    currency,
    seller: ciiParty(agreement, 'SellerTradeParty', 'the seller'),
    buyer: ciiParty(agreement, 'BuyerTradeParty', 'the buyer'),
    note: textAt(document, 'IncludedNote', 'Content'),
    paymentReference: textAt(settlement, 'PaymentReference'),
    account: textAt(
      settlement,
      'SpecifiedTradeSettlementPaymentMeans',
      'PayeePartyCreditorFinancialAccount',
      'IBANID',
    ),
    lines: all(trade, 'IncludedSupplyChainTradeLineItem').map((line) => ({
      text: lineText(
        textAt(line, 'SpecifiedTradeProduct', 'Name'),
        textAt(line, 'SpecifiedTradeProduct', 'Description'),
      ),
      quantity: textAt(line, 'SpecifiedLineTradeDelivery', 'BilledQuantity'),
      net: money(
        textAt(
          line,
          'SpecifiedLineTradeSettlement',
          'SpecifiedTradeSettlementLineMonetarySummation',
          'LineTotalAmount',
        ),
        'the net amount of a line',
      ),
      tax: ciiMark(line, 'SpecifiedLineTradeSettlement', 'ApplicableTradeTax'),
    })),
    adjustments: all(settlement, 'SpecifiedTradeAllowanceCharge').map((each) =>
      adjustment({
        isCharge: textAt(each, 'ChargeIndicator', 'Indicator') === 'true',
        reason: textAt(each, 'Reason'),
        net: money(textAt(each, 'ActualAmount'), 'the amount of an allowance or charge'),
        tax: ciiMark(each, 'CategoryTradeTax'),
      }),
    ),
    taxes: all(settlement, 'ApplicableTradeTax').map(
      (each): EInvoiceTax => ({
        ...markOf(textAt(each, 'CategoryCode'), textAt(each, 'RateApplicablePercent')),
        net: money(textAt(each, 'BasisAmount'), 'the base of a tax'),
        tax: money(textAt(each, 'CalculatedAmount'), 'the amount of a tax'),
      }),
    ),
    totals: {
      lines: money(textAt(totals, 'LineTotalAmount'), 'the sum of the lines'),
      net: money(textAt(totals, 'TaxBasisTotalAmount'), 'the total without tax'),
      tax: money(taxTotal?.text ?? '0', 'the tax'),
      gross: money(textAt(totals, 'GrandTotalAmount'), 'the total with tax'),
      prepaid: money(textAt(totals, 'TotalPrepaidAmount') ?? '0', 'what was prepaid'),
      rounding: money(textAt(totals, 'RoundingAmount') ?? '0', 'the rounding'),
      payable: money(textAt(totals, 'DuePayableAmount'), 'the amount due'),
    },
  };
}

function ciiParty(agreement: XmlElement, role: string, what: string): EInvoiceParty {
  const party = all(agreement, role)[0] ?? missing(what);
  const address = all(party, 'PostalTradeAddress')[0];
  const at = (name: string) => (address ? textAt(address, name) : null);
  const city = [at('PostcodeCode'), at('CityName')].filter(Boolean).join(' ');
  const registrations = all(party, 'SpecifiedTaxRegistration', 'ID');
  const number =
    registrations.find(({ attributes }) => attributes.schemeID === 'VA') ?? registrations[0];
  return {
    name: needed(textAt(party, 'Name'), `the name of ${what}`),
    taxNumber: number?.text ?? null,
    address: [at('LineOne'), at('LineTwo'), city].filter((each): each is string => Boolean(each)),
    country: at('CountryID'),
  };
}

function ciiMark(element: XmlElement, ...path: readonly string[]): TaxMark {
  return markOf(
    textAt(element, ...path, 'CategoryCode'),
    textAt(element, ...path, 'RateApplicablePercent'),
  );
}

function adjustment({
  isCharge,
  reason,
  net,
  tax,
}: {
  readonly isCharge: boolean;
  readonly reason: string | null;
  readonly net: Minor;
  readonly tax: TaxMark;
}): EInvoiceLine {
  const text = reason ?? (isCharge ? 'Charge' : 'Allowance');
  return { text, quantity: null, net: isCharge ? net : 0 - net, tax };
}

function markOf(category: string | null, percent: string | null): TaxMark {
  return { category: category ?? 'O', rate: Math.round(Number(percent ?? 0) * 100) || 0 };
}

function lineText(name: string | null, description: string | null): string {
  return name ?? description ?? '';
}

/** Reads amounts of a currency, with a decimal point as in XML. */
function moneyIn(currency: string): (text: string | null, what: string) => Minor {
  return (text, what) => parseAmount(needed(text, what), '.', currency);
}

/** The standard's dates are 2026-03-31 or 20260331. */
function dayOf(text: string): CalendarDate {
  return parseDate(text, 'yearFirst');
}

function needed(text: string | null, what: string): string {
  return text ?? missing(what);
}

function missing(what: string): never {
  return fail('INVOICE_UNREADABLE', { detail: `${what} is missing` });
}

import { escapeXml, element as text } from '../formats/write/xml.ts';
import { toDecimal } from '../money/formatAmount.ts';
import type { Minor } from '../money/minor.ts';
import type { EInvoice, EInvoiceLine, EInvoiceParty, TaxMark } from './eInvoice.ts';

const CORE = 'urn:cen.eu:en16931:2017';

/**
 * An electronic invoice or credit note as UBL 2.1, by EN 16931. {@link readInvoice} reads it again.
 *
 * @returns the XML document
 */
export function writeInvoice(invoice: EInvoice): string {
  const isCredit = invoice.kind === 'creditNote';
  const root = isCredit ? 'CreditNote' : 'Invoice';
  const { currency, totals } = invoice;
  const money = (name: string, minor: Minor) =>
    `<cbc:${name} currencyID="${currency}">${toDecimal(minor, currency)}</cbc:${name}>`;
  const { lines: sumOfLines, net, tax, gross, prepaid, rounding, payable } = totals;
  const line = (each: EInvoiceLine, at: number) => {
    const count = each.quantity ?? '1';
    const [kind, quantity] = isCredit
      ? ['CreditNoteLine', 'CreditedQuantity']
      : ['InvoiceLine', 'InvoicedQuantity'];
    return tagged(`cac:${kind}`, [
      text('cbc:ID', String(at + 1)),
      `<cbc:${quantity} unitCode="C62">${escapeXml(count)}</cbc:${quantity}>`,
      money('LineExtensionAmount', each.net),
      tagged('cac:Item', [
        text('cbc:Name', each.text || 'Goods or services'),
        taxCategory('cac:ClassifiedTaxCategory', each.tax),
      ]),
      tagged('cac:Price', [
        money('PriceAmount', each.net),
        `<cbc:BaseQuantity unitCode="C62">${escapeXml(count)}</cbc:BaseQuantity>`,
      ]),
    ]);
  };
  const adjustment = (each: EInvoiceLine) =>
    tagged('cac:AllowanceCharge', [
      text('cbc:ChargeIndicator', each.net < 0 ? 'false' : 'true'),
      text('cbc:AllowanceChargeReason', each.text),
      money('Amount', Math.abs(each.net)),
      taxCategory('cac:TaxCategory', each.tax),
    ]);
  const body = [
    text('cbc:CustomizationID', CORE),
    text('cbc:ID', invoice.number),
    text('cbc:IssueDate', invoice.date),
    ...(invoice.dueDate === null || isCredit ? [] : [text('cbc:DueDate', invoice.dueDate)]),
    text(`cbc:${root}TypeCode`, isCredit ? '381' : '380'),
    ...(invoice.note === null ? [] : [text('cbc:Note', invoice.note)]),
    text('cbc:DocumentCurrencyCode', currency),
    tagged('cac:AccountingSupplierParty', [party(invoice.seller)]),
    tagged('cac:AccountingCustomerParty', [party(invoice.buyer)]),
    ...(invoice.account === null
      ? []
      : [
          tagged('cac:PaymentMeans', [
            text('cbc:PaymentMeansCode', '30'),
            ...(invoice.paymentReference === null
              ? []
              : [text('cbc:PaymentID', invoice.paymentReference)]),
            tagged('cac:PayeeFinancialAccount', [text('cbc:ID', invoice.account)]),
          ]),
        ]),
    ...invoice.adjustments.map(adjustment),
    tagged('cac:TaxTotal', [
      money('TaxAmount', tax),
      ...invoice.taxes.map((each) =>
        tagged('cac:TaxSubtotal', [
          money('TaxableAmount', each.net),
          money('TaxAmount', each.tax),
          taxCategory('cac:TaxCategory', each),
        ]),
      ),
    ]),
    tagged('cac:LegalMonetaryTotal', [
      money('LineExtensionAmount', sumOfLines),
      money('TaxExclusiveAmount', net),
      money('TaxInclusiveAmount', gross),
      ...(prepaid === 0 ? [] : [money('PrepaidAmount', prepaid)]),
      ...(rounding === 0 ? [] : [money('PayableRoundingAmount', rounding)]),
      money('PayableAmount', payable),
    ]),
    ...invoice.lines.map(line),
  ];
  const names = [
    `xmlns="urn:oasis:names:specification:ubl:schema:xsd:${root}-2"`,
    'xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2"',
    'xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2"',
  ];
  return `<?xml version="1.0" encoding="UTF-8"?>\n<${root} ${names.join(' ')}>\n${body.join('\n')}\n</${root}>\n`;
}

function party({ name, taxNumber, address, country }: EInvoiceParty): string {
  const [street, ...others] = address;
  const city = others.at(-1);
  const more = others.slice(0, -1).join(', ');
  return tagged('cac:Party', [
    tagged('cac:PartyName', [text('cbc:Name', name)]),
    tagged('cac:PostalAddress', [
      ...(street ? [text('cbc:StreetName', street)] : []),
      ...(more ? [text('cbc:AdditionalStreetName', more)] : []),
      ...(city ? [text('cbc:CityName', city)] : []),
      ...(country ? [tagged('cac:Country', [text('cbc:IdentificationCode', country)])] : []),
    ]),
    ...(taxNumber
      ? [
          tagged('cac:PartyTaxScheme', [
            text('cbc:CompanyID', taxNumber),
            tagged('cac:TaxScheme', [text('cbc:ID', 'VAT')]),
          ]),
        ]
      : []),
    tagged('cac:PartyLegalEntity', [text('cbc:RegistrationName', name)]),
  ]);
}

/** Categories that owe no tax have to say why. */
const REASONS: Readonly<Record<string, string>> = {
  E: 'Exempt from tax',
  AE: 'Reverse charge',
  O: 'Not subject to tax',
};

function taxCategory(name: string, { category, rate }: TaxMark): string {
  const reason = name === 'cac:TaxCategory' ? REASONS[category] : undefined;
  return tagged(name, [
    text('cbc:ID', category),
    ...(category === 'O' ? [] : [text('cbc:Percent', String(rate / 100))]),
    ...(reason ? [text('cbc:TaxExemptionReason', reason)] : []),
    tagged('cac:TaxScheme', [text('cbc:ID', 'VAT')]),
  ]);
}

function tagged(name: string, parts: readonly string[]): string {
  return `<${name}>${parts.join('')}</${name}>`;
}

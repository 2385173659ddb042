import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sumMinor, sumOf } from '../money/minor.ts';
import { taxInside, taxOn } from '../money/taxInside.ts';
import { ciiCreditNote, pdfWith, ublBill } from '../testing/invoiceFiles.ts';
import { billOf, type KnownTaxCode } from './billOf.ts';
import { checkInvoice } from './checkInvoice.ts';
import type { EInvoice, EInvoiceLine } from './eInvoice.ts';
import { embeddedXml, isPdf } from './embeddedXml.ts';
import { readInvoice } from './readInvoice.ts';
import { writeInvoice } from './writeInvoice.ts';

const code = (id: string, kind: KnownTaxCode['kind'], rate: number | null): KnownTaxCode => ({
  id,
  kind,
  use: 'both',
  rate,
  isOn: true,
});
const CODES = [
  code('20', 'standard', 2_000),
  code('5', 'standard', 500),
  code('0', 'zero', null),
  code('exempt', 'exempt', null),
  code('reverse', 'reverseCharge', 2_000),
];

describe('an electronic invoice', () => {
  it('in UBL is read with parties, lines, taxes and totals', () => {
    const invoice = readInvoice(ublBill);
    expect(invoice).toMatchObject({
      form: 'UBL',
      kind: 'invoice',
      number: '2093',
      date: '2026-03-02',
      dueDate: '2026-04-01',
      currency: 'EUR',
      seller: {
        name: 'Penhallow Clay',
        taxNumber: 'XX123',
        address: ['Pit Road 1', '4711 Garran'],
        country: 'XX',
      },
      buyer: { name: 'Larkmoor Kiln Works' },
      paymentReference: '2093 LARKMOOR',
      account: 'XX00PENH',
      totals: { lines: 27_050, net: 26_050, tax: 4_910, gross: 30_960, payable: 30_960 },
    });
    expect(invoice.lines.map(({ text, net, tax }) => [text, net, tax.rate])).toEqual([
      ['Stoneware, 10 kg', 25_050, 2_000],
      ['Book of glazes', 2_000, 500],
    ]);
    expect(invoice.adjustments).toMatchObject([{ text: 'Trade discount', net: -1_000 }]);
    expect(checkInvoice(invoice)).toEqual([]);
  });

  it('as Cross Industry Invoice is read the same, a credit note by its type', () => {
    const invoice = readInvoice(ciiCreditNote);
    expect(invoice).toMatchObject({
      form: 'CII',
      kind: 'creditNote',
      number: 'C-7',
      date: '2026-03-15',
      dueDate: '2026-04-14',
      seller: { name: 'Tidemark Freight', taxNumber: 'YY77', address: ['Quay 3', '900 Aldersea'] },
      totals: { net: 8_000, tax: 0, gross: 8_000, payable: 8_000 },
    });
    expect(checkInvoice(invoice)).toEqual([]);
    expect(billOf(invoice, CODES)).toEqual({
      lines: [{ text: 'Pallet not delivered', taxCodeId: 'reverse', amount: 8_000, tax: null }],
      untaxed: [],
    });
  });

  it('inside a PDF is found, packed or not', () => {
    for (const isDeflated of [true, false]) {
      const pdf = pdfWith(ublBill, isDeflated);
      expect(isPdf(pdf)).toBe(true);
      expect(readInvoice(embeddedXml(pdf)).number).toBe('2093');
    }
    expect(() => embeddedXml(pdfWith('<order/>'))).toThrow('no electronic invoice inside');
    expect(() => embeddedXml(new TextEncoder().encode('%PDF-1.7 scanned'))).toThrow();
  });

  it.each([
    ['', 'can’t be read'],
    ['<html/>', 'neither a UBL invoice'],
    [ublBill.slice(0, 2_000), 'breaks off'],
    [ublBill.replace(/<cbc:ID>2093<\/cbc:ID>/, ''), 'the number is missing'],
    [ublBill.replace(/<cac:LegalMonetaryTotal>.*<\/cac:LegalMonetaryTotal>/s, ''), 'totals'],
    [ublBill.replace('250.50</cbc:LineExtensionAmount>', 'much</cbc:LineExtensionAmount>'), 'much'],
    ['<!DOCTYPE a [<!ENTITY x "y">]><Invoice/>', 'can’t be read'],
  ])('that is spoiled says what is wrong', (text, message) => {
    expect(() => readInvoice(text)).toThrow(message);
  });

  it.each([
    ['the lines', '270.50</cbc:Line', '271.50</cbc:Line', 'The lines come to 270.50'],
    ['a base', '20.00</cbc:Taxable', '21.00</cbc:Taxable', 'taxed at 5 %'],
    ['a tax', '1.00</cbc:TaxAmount>', '2.00</cbc:TaxAmount>', 'The taxes come to 50.10'],
    ['the total', '309.60</cbc:TaxInc', '310.60</cbc:TaxInc', 'Net and tax come to 309.60'],
    ['the amount due', '309.60</cbc:Pay', '300.00</cbc:Pay', 'less what was prepaid'],
  ])('of which %s doesn’t add up is named', (_what, right, wrong, message) => {
    const problems = checkInvoice(readInvoice(ublBill.replace(right, wrong)));
    expect(problems.join(' ')).toContain(message);
  });
});

describe('the bill that an electronic invoice is', () => {
  it('has lines with their tax and the tax codes of the books', () => {
    expect(billOf(readInvoice(ublBill), CODES)).toEqual({
      lines: [
        { text: 'Stoneware, 10 kg (12)', taxCodeId: '20', amount: 30_060, tax: null },
        { text: 'Book of glazes', taxCodeId: '5', amount: 2_100, tax: null },
        { text: 'Trade discount', taxCodeId: '20', amount: -1_200, tax: null },
      ],
      untaxed: [],
    });
  });

  it('says which tax the books have no code for, and takes it as part of the cost', () => {
    const { lines, untaxed } = billOf(readInvoice(ublBill), [code('5', 'standard', 500)]);
    expect(untaxed).toEqual(['20 %']);
    expect(lines.map(({ taxCodeId, amount }) => [taxCodeId, amount])).toEqual([
      [null, 30_060],
      ['5', 2_100],
      [null, -1_200],
    ]);
  });

  const line = fc.record({
    net: fc.integer({ min: 1, max: 5_000_000 }),
    rate: fc.constantFrom(2_000, 500, 1_900),
  });

  it('comes to the amount of the invoice, with just its tax, however it is rounded', () => {
    fc.assert(
      fc.property(fc.array(line, { minLength: 1, maxLength: 130 }), (rows) => {
        const invoice = invoiceOf(rows);
        expect(checkInvoice(invoice)).toEqual([]);
        const codes = [...CODES, code('19', 'standard', 1_900)];
        const { lines } = billOf(invoice, codes);
        expect(sumOf(lines)).toBe(invoice.totals.gross);
        // No line's tax is further from its rate than a bill's tax can be corrected by.
        for (const { amount, tax, taxCodeId } of lines) {
          const rate = codes.find(({ id }) => id === taxCodeId)?.rate ?? 0;
          const correction = tax === null ? 0 : tax - taxInside(amount, rate);
          expect(Math.abs(correction)).toBeLessThanOrEqual(5);
        }
      }),
    );
  });

  it('is written and read again as it was', () => {
    fc.assert(
      fc.property(
        fc.array(line, { minLength: 1, maxLength: 9 }),
        fc.boolean(),
        (rows, isCredit) => {
          const kind = isCredit ? 'creditNote' : 'invoice';
          const invoice = { ...invoiceOf(rows), kind } as const;
          const dueDate = isCredit ? null : invoice.dueDate;
          expect(readInvoice(writeInvoice(invoice))).toEqual({ ...invoice, dueDate });
        },
      ),
    );
  });
});

/** An invoice over some lines, its taxes rounded once for each rate. */
function invoiceOf(rows: readonly { readonly net: number; readonly rate: number }[]): EInvoice {
  const lines = rows.map(
    ({ net, rate }, at): EInvoiceLine => ({
      text: `Bowl <${at}> & lid`,
      quantity: '1',
      net,
      tax: { category: 'S', rate },
    }),
  );
  const rates = [...new Set(rows.map(({ rate }) => rate))];
  const taxes = rates.map((rate) => {
    const net = sumMinor(rows.filter((row) => row.rate === rate).map((row) => row.net));
    return { category: 'S', rate, net, tax: taxOn(net, rate) };
  });
  const net = sumMinor(rows.map((row) => row.net));
  const tax = sumMinor(taxes.map((each) => each.tax));
  const party = {
    name: 'Larkmoor Kiln Works',
    taxNumber: 'XX9',
    address: ['Kiln Lane 4', 'Garran'],
    country: 'XX',
  };
  return {
    form: 'UBL',
    kind: 'invoice',
    number: '1050',
    date: '2026-03-02',
    dueDate: '2026-04-01',
    currency: 'EUR',
    seller: party,
    buyer: { ...party, name: 'Nettle & Thread', taxNumber: null },
    note: 'Thank you',
    paymentReference: '1050',
    account: 'XX00LARK',
    lines,
    adjustments: [],
    taxes,
    totals: { lines: net, net, tax, gross: net + tax, prepaid: 0, rounding: 0, payable: net + tax },
  };
}

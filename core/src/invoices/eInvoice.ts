import type { CalendarDate } from '../dates/calendarDate.ts';
import type { Minor } from '../money/minor.ts';

/**
 * An electronic invoice by the semantic model of the European standard EN 16931. Amounts are in minor units of its
 * currency and positive as they stand there; a credit note takes them back.
 */
export interface EInvoice {
  /** How it was written: UBL 2.1, or UN/CEFACT Cross Industry Invoice. */
  readonly form: 'UBL' | 'CII';
  readonly kind: 'invoice' | 'creditNote';
  readonly number: string;
  readonly date: CalendarDate;
  readonly dueDate: CalendarDate | null;
  /** ISO 4217. */
  readonly currency: string;
  readonly seller: EInvoiceParty;
  readonly buyer: EInvoiceParty;
  readonly note: string | null;
  /** What the buyer is asked to name when paying. */
  readonly paymentReference: string | null;
  /** The account to pay to. */
  readonly account: string | null;
  readonly lines: readonly EInvoiceLine[];
  /** Allowances (negative) and charges of the whole invoice, without tax. */
  readonly adjustments: readonly EInvoiceLine[];
  readonly taxes: readonly EInvoiceTax[];
  readonly totals: EInvoiceTotals;
}

export interface EInvoiceParty {
  readonly name: string;
  readonly taxNumber: string | null;
  /** Line by line. */
  readonly address: readonly string[];
  /** ISO 3166, two letters. */
  readonly country: string | null;
}

/** A line, or an allowance or charge of the whole. */
export interface EInvoiceLine {
  readonly text: string;
  readonly quantity: string | null;
  /** Without tax. */
  readonly net: Minor;
  readonly tax: TaxMark;
}

/** How something is taxed. */
export interface TaxMark {
  /**
   * The standard's code: S standard or reduced, Z zero, E exempt, AE reverse charge, K supply within the Union, G export,
   * O outside.
   */
  readonly category: string;
  /** Hundredths of a percent. */
  readonly rate: number;
}

/** The tax of one category and rate. */
export interface EInvoiceTax extends TaxMark {
  readonly net: Minor;
  readonly tax: Minor;
}

export interface EInvoiceTotals {
  /** The lines together, without allowances and charges of the whole. */
  readonly lines: Minor;
  readonly net: Minor;
  readonly tax: Minor;
  readonly gross: Minor;
  readonly prepaid: Minor;
  /** What rounds the amount to be paid. */
  readonly rounding: Minor;
  readonly payable: Minor;
}

import type { BooksSetup, PayeeUse } from '@zubrell/contract/books';
import { ZubrellError } from '@zubrell/core/errors';
import { billOf } from '@zubrell/core/invoices/billOf';
import { checkInvoice } from '@zubrell/core/invoices/checkInvoice';
import type { EInvoice } from '@zubrell/core/invoices/eInvoice';
import { embeddedXml, isPdf } from '@zubrell/core/invoices/embeddedXml';
import { readInvoice } from '@zubrell/core/invoices/readInvoice';
import { rateOn } from '@zubrell/core/tax/rateOn';
import { nameKey } from '@zubrell/core/text/nameKey';
import type { DocumentDraft } from './documentForm.ts';

/** An electronic invoice as it was read, with what in it doesn't add up; or why it can't be read. */
export type ReadEInvoice =
  | { readonly invoice: EInvoice; readonly problems: readonly string[] }
  | { readonly fault: string };

/** Whether a file is an electronic invoice by its kind, and not a table. */
export function mayBeInvoice(file: File): boolean {
  return /\.(xml|pdf)$/i.test(file.name);
}

/** Reads an electronic invoice, as XML or inside a PDF. */
export async function readEInvoice(file: File): Promise<ReadEInvoice> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  try {
    const xml = isPdf(bytes) ? embeddedXml(bytes) : new TextDecoder().decode(bytes);
    const invoice = readInvoice(xml);
    return { invoice, problems: checkInvoice(invoice) };
  } catch (error) {
    if (!(error instanceof ZubrellError)) throw error;
    return { fault: error.message };
  }
}

/** The payee of the books that sent an invoice, by name or tax number; null where none is known. */
export function senderOf(
  { seller }: EInvoice,
  { payees }: Pick<BooksSetup, 'payees'>,
): BooksSetup['payees'][number] | null {
  const standing = payees.filter(({ mergedInto, isOn }) => mergedInto === null && isOn);
  const wanted = nameKey(seller.name);
  const byNumber = standing.find(
    ({ taxNumber }) => taxNumber !== '' && taxNumber === seller.taxNumber,
  );
  return byNumber ?? standing.find(({ name }) => nameKey(name) === wanted) ?? null;
}

/** An electronic invoice as a bill to be entered, with what the books have no tax code for. */
export function billDraft(
  invoice: EInvoice,
  payeeId: string | null,
  setup: BooksSetup,
  uses: readonly PayeeUse[],
): { readonly draft: DocumentDraft; readonly untaxed: readonly string[] } {
  const { date, dueDate, currency } = invoice;
  const accountId = uses.find((use) => use.payeeId === payeeId)?.usualAccountId ?? null;
  const codes = setup.taxCodes.map(({ id, kind, use, isOn, rates }) => ({
    id,
    kind,
    use,
    isOn,
    rate: rateOn(rates, date),
  }));
  const { lines, untaxed } = billOf(invoice, codes);
  return {
    draft: {
      kind: invoice.kind === 'creditNote' ? 'creditNote' : 'bill',
      side: 'payables',
      number: invoice.number.slice(0, 50),
      payeeId,
      date,
      dueDate: dueDate ?? '',
      note: (invoice.note ?? '').slice(0, 1_000),
      currency: currency === setup.books.currency ? '' : currency,
      rate: null,
      lines: lines.map((line) => ({ ...line, accountId })),
    },
    untaxed,
  };
}

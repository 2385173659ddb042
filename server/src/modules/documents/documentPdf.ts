import type { BooksSetup } from '@zubrell/contract/books';
import type { DocumentSheet } from '@zubrell/contract/documents';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { BooksId, DocumentId, UserId } from '@zubrell/core/ids';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import type { Tx } from '../../db/database.ts';
import {
  MARGIN,
  type PdfColumn,
  type PdfWriter,
  RIGHT,
  ROW,
  TABLE_SIZE,
  writePdf,
} from '../../pdfWriter.ts';
import { booksSetup } from '../books/queries.ts';
import { entryOf } from '../ledger/queries.ts';
import { documentSheet } from './queries.ts';

const DESCRIPTION: PdfColumn = { head: 'Description', x: MARGIN, width: 300 };
const COLUMNS: readonly PdfColumn[] = [
  DESCRIPTION,
  { head: 'Tax', x: 350, width: 90 },
  { head: 'Amount', x: 455, width: 100, isNumber: true },
];

/** What a document's entry has of each tax code: without tax, and the tax. */
interface TaxPart {
  readonly name: string;
  readonly tax: number;
}

/** What stands on a printed document. */
export interface PrintedDocument {
  readonly sheet: DocumentSheet;
  readonly setup: BooksSetup;
  readonly taxes: readonly TaxPart[];
}

/**
 * An invoice or a credit note to a customer, as it is printed.
 *
 * @throws {ZubrellError} DOCUMENT_UNKNOWN, also for bills, which suppliers print
 */
export async function printedDocument(
  tx: Tx,
  booksId: BooksId,
  userId: UserId,
  documentId: DocumentId,
): Promise<PrintedDocument> {
  const sheet = await documentSheet(tx, booksId, documentId);
  if (sheet.side !== 'receivables' || sheet.kind === 'credit') fail('DOCUMENT_UNKNOWN');
  const setup = await booksSetup(tx, booksId, userId);
  const { legs } = await entryOf(tx, booksId, sheet.entryId);
  const taxLegs = legs.filter(({ role }) => role === 'tax');
  const codes = [...new Set(taxLegs.map(({ taxCodeId }) => taxCodeId))];
  return {
    sheet,
    setup,
    taxes: codes.map((code) => ({
      name: setup.taxCodes.find(({ id }) => id === code)?.name ?? '',
      tax: Math.abs(
        taxLegs
          .filter(({ taxCodeId }) => taxCodeId === code)
          .reduce((sum, { amount, original }) => sum + (original ?? amount), 0),
      ),
    })),
  };
}

/** A document as a PDF file, A4: from whom, to whom, its lines, tax and total, and how to pay. */
export function documentPdf(printed: PrintedDocument): Promise<Buffer> {
  return writePdf((pdf) => {
    heads(pdf, printed);
    lines(pdf, printed);
    payment(pdf, printed);
  });
}

function heads(pdf: PdfWriter, { sheet, setup }: PrintedDocument): void {
  const { books, payees } = setup;
  pdf.line(books.name, { size: 13, isStrong: true, height: 18 });
  for (const part of addressLines(books.address)) pdf.line(part, { size: 9, height: 12 });
  pdf.y += 30;
  const customer = payees.find(({ id }) => id === sheet.payeeId);
  pdf.line(customer?.name ?? '', { isStrong: true });
  for (const part of addressLines(customer?.address ?? '')) pdf.line(part);
  pdf.y += 30;
  pdf.line(candidateName(sheet), { size: 16, isStrong: true, height: 24 });
  pdf.line(`Date: ${formatLongDate(sheet.date)}`);
  if (sheet.dueDate) pdf.line(`Due: ${formatLongDate(sheet.dueDate)}`);
  if (sheet.isVoid) pdf.line('Void', { isStrong: true });
  pdf.y += 14;
}

/** The lines of an address that say something. */
export function addressLines(address: string): string[] {
  return address.split('\n').flatMap((line) => line.trim() || []);
}

function lines(pdf: PdfWriter, { sheet, setup, taxes }: PrintedDocument): void {
  const currency = sheet.exchange?.currency ?? setup.books.currency;
  const taxName = (id: string | null) => setup.taxCodes.find((code) => code.id === id)?.name ?? '';
  pdf.row(
    COLUMNS,
    COLUMNS.map(({ head }) => head),
    true,
  );
  for (const { text, taxCodeId, amount } of sheet.lines) {
    const [first = '', ...others] = pdf.wrapped(text, DESCRIPTION.width, TABLE_SIZE);
    pdf.row(COLUMNS, [first, taxName(taxCodeId), formatAmount(amount, currency)]);
    for (const other of others) pdf.row(COLUMNS, [other]);
  }
  const total = Math.abs(sheet.amount);
  const sumRow = (label: string, minor: number, isStrong = false) => {
    pdf.breakPage(ROW);
    pdf.text(label, { x: 350, y: pdf.y, width: 100, size: 9, isStrong });
    const shown = formatAmount(minor, currency);
    pdf.text(shown, { x: 455, y: pdf.y, width: 100, size: 9, isStrong, isRight: true });
    pdf.y += ROW;
  };
  pdf.y += 6;
  sumRow('Without tax', total - taxes.reduce((sum, { tax }) => sum + tax, 0));
  for (const { name, tax } of taxes) sumRow(`Tax ${name}`, tax);
  sumRow(`Total ${currency}`, total, true);
}

function payment(pdf: PdfWriter, { sheet, setup }: PrintedDocument): void {
  pdf.y += 20;
  for (const part of sheet.note ? pdf.wrapped(sheet.note, RIGHT - MARGIN, 10) : []) {
    pdf.breakPage(ROW);
    pdf.line(part);
  }
  if (sheet.kind !== 'invoice') return;
  const bank = setup.bankAccounts.find(({ kind, number }) => kind === 'current' && number !== null);
  const paid = Math.abs(sheet.amount) - Math.abs(sheet.open);
  if (paid > 0) {
    const currency = sheet.exchange?.currency ?? setup.books.currency;
    const [shown, open] = [paid, Math.abs(sheet.open)].map((each) => formatAmount(each, currency));
    pdf.line(`Paid so far: ${shown}. Open: ${open}.`);
  }
  if (!bank) return;
  const where = [bank.bank, bank.number].filter(Boolean).join(', ');
  pdf.text(`Please pay to ${where} and name ${candidateName(sheet)}.`, {
    x: MARGIN,
    y: pdf.y,
    width: RIGHT - MARGIN,
    size: 10,
  });
}

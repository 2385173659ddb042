import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Statement } from '@zubrell/contract/statements';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import PDFDocument from 'pdfkit';
import { projectFolder } from '../../projectFolder.ts';

/** How what a statement names is called in its report. */
export interface ReportNames {
  readonly books: string;
  readonly bankAccount: string;
  readonly currency: string;
  readonly payee: (id: string | null) => string;
  readonly account: (id: string | null) => string;
}

const FONTS = join(projectFolder, 'node_modules', '@fontsource', 'ibm-plex-sans', 'files');
const MARGIN = 40;
const RIGHT = 595 - MARGIN;
const BOTTOM = 842 - MARGIN - 20;
const ROW = 15;

/** Where columns begin, and how wide they are, in points; numbers end at their right side. */
const COLUMNS = [
  { head: 'Date', x: MARGIN, width: 62 },
  { head: 'Wording', x: 104, width: 176 },
  { head: 'Payee', x: 284, width: 80 },
  { head: 'Account', x: 368, width: 64 },
  { head: 'Amount', x: 432, width: 60, isNumber: true },
  { head: 'Runs to', x: 495, width: 60, isNumber: true },
] as const;

/** Letters beyond western Europe stand in a font of their own. */
const EXTENDED = /[\u0100-\u024f\u1e00-\u1eff]/u;

/** A statement's report as a PDF file, A4: the equation, its lines, what is outstanding, who agreed it. */
export async function statementPdf(statement: Statement, names: ReportNames): Promise<Buffer> {
  const pdf = new PDFDocument({ size: 'A4', margin: MARGIN, bufferPages: true });
  const pieces: Buffer[] = [];
  pdf.on('data', (piece: Buffer) => pieces.push(piece));
  const ended = new Promise<void>((done) => pdf.on('end', done));
  for (const [weight, name] of [
    [400, 'plain'],
    [600, 'strong'],
  ] as const) {
    for (const part of ['latin', 'latin-ext']) {
      const file = join(FONTS, `ibm-plex-sans-${part}-${weight}-normal.woff`);
      pdf.registerFont(`${name} ${part}`, readFileSync(file));
    }
  }
  new Report(pdf, statement, names).write();
  pdf.end();
  await ended;
  return Buffer.concat(pieces);
}

class Report {
  private readonly pdf: PDFKit.PDFDocument;
  private readonly statement: Statement;
  private readonly names: ReportNames;
  private y = MARGIN;

  constructor(pdf: PDFKit.PDFDocument, statement: Statement, names: ReportNames) {
    this.pdf = pdf;
    this.statement = statement;
    this.names = names;
  }

  write(): void {
    const { from, to, opening, addsUp, closing, off, lineCount, agreedBy, agreedAt } =
      this.statement;
    const { books, bankAccount, currency } = this.names;
    this.line(books, { size: 9 });
    this.line(bankAccount, { size: 16, isStrong: true, height: 22 });
    this.line(`${formatLongDate(from)} to ${formatLongDate(to)}, ${currency}`, { height: 20 });
    const lines = lineCount === 1 ? '1 line' : `${lineCount} lines`;
    this.pairOf('Opened at', opening);
    this.pairOf(`${lines} in the period`, addsUp - opening);
    this.pairOf('Adds up to', addsUp);
    this.pairOf('Statement says', closing);
    this.pairOf('Off by', off);
    const agreed = agreedBy
      ? `Agreed by ${agreedBy}${agreedAt ? ` on ${formatLongDate(agreedAt.slice(0, 10))}` : ''}.`
      : 'Not agreed yet.';
    this.y += 4;
    this.line(agreed, { height: 22 });
    this.table();
    this.outstanding();
    this.numberPages();
  }

  private money(minor: number | null): string {
    return minor === null ? '' : formatAmount(minor, this.names.currency);
  }

  private table(): void {
    const { payee, account } = this.names;
    this.row(
      COLUMNS.map(({ head }) => head),
      true,
    );
    for (const row of this.statement.rows) {
      const where = row.isCounted ? row.accountIds.map(account).join(', ') : 'not counted';
      const amounts = [this.money(row.amount), this.money(row.runsTo)];
      const date = `${formatShort(row.date)}${row.isLate ? ' late' : ''}`;
      this.row([date, row.text, payee(row.payeeId), where, ...amounts], false);
    }
  }

  private outstanding(): void {
    const { outstanding } = this.statement;
    this.y += 12;
    this.breakPage(3 * ROW);
    this.line('Entered, and not at the bank by the last day', { isStrong: true, height: 18 });
    if (outstanding.length === 0) this.line('Nothing.');
    for (const { date, text, payee, number, amount } of outstanding) {
      const what = [number, payee ?? text].filter(Boolean).join(', ');
      this.row([formatShort(date), what, '', '', this.money(amount), ''], false);
    }
  }

  private numberPages(): void {
    const { start, count } = this.pdf.bufferedPageRange();
    for (let page = start; page < start + count; page += 1) {
      this.pdf.switchToPage(page);
      // Below the margin a page would be added.
      this.pdf.page.margins.bottom = 0;
      const label = `Page ${page - start + 1} of ${count}`;
      this.text(label, {
        x: MARGIN,
        y: BOTTOM + 12,
        width: RIGHT - MARGIN,
        size: 8,
        isRight: true,
      });
    }
  }

  private row(cells: readonly string[], isHead: boolean): void {
    this.breakPage(ROW);
    for (const [at, column] of COLUMNS.entries()) {
      const { x, width } = column;
      const isRight = 'isNumber' in column;
      this.text(cells[at] ?? '', { x, y: this.y, width, size: 8, isStrong: isHead, isRight });
    }
    this.y += ROW;
    this.pdf
      .moveTo(MARGIN, this.y - 4)
      .lineTo(RIGHT, this.y - 4)
      .lineWidth(0.3)
      .strokeColor('#b9b0a0')
      .stroke();
  }

  private pairOf(label: string, minor: number | null): void {
    this.text(label, { x: MARGIN, y: this.y, width: 160, size: 10 });
    const place = { x: 200, y: this.y, width: 90, size: 10 };
    this.text(this.money(minor), { ...place, isStrong: true, isRight: true });
    this.y += ROW;
  }

  private line(
    text: string,
    {
      size = 10,
      isStrong = false,
      height = ROW,
    }: { readonly size?: number; readonly isStrong?: boolean; readonly height?: number } = {},
  ): void {
    this.text(text, { x: MARGIN, y: this.y, width: RIGHT - MARGIN, size, isStrong });
    this.y += height;
  }

  private breakPage(needed: number): void {
    if (this.y + needed <= BOTTOM) return;
    this.pdf.addPage();
    this.y = MARGIN;
  }

  /** Writes a text on one line, cut where it is too wide, each part of it in the font that has its letters. */
  private text(
    text: string,
    {
      x,
      y,
      width,
      size,
      isStrong = false,
      isRight = false,
    }: {
      readonly x: number;
      readonly y: number;
      readonly width: number;
      readonly size: number;
      readonly isStrong?: boolean;
      readonly isRight?: boolean;
    },
  ): void {
    const name = isStrong ? 'strong' : 'plain';
    const useFont = (part: string) =>
      this.pdf.font(`${name} ${EXTENDED.test(part) ? 'latin-ext' : 'latin'}`).fontSize(size);
    const widthOf = (part: string) => useFont(part).widthOfString(part);
    let shown = text;
    const total = (all: string) => partsOf(all).reduce((sum, part) => sum + widthOf(part), 0);
    while (shown.length > 1 && total(shown) > width) shown = `${shown.slice(0, -2).trimEnd()}…`;
    let at = isRight ? x + width - total(shown) : x;
    this.pdf.fillColor('#23252b');
    for (const part of partsOf(shown)) {
      const own = widthOf(part);
      useFont(part).text(part, at, y, { lineBreak: false });
      at += own;
    }
  }
}

/** A text in parts whose letters are in one font. */
function partsOf(text: string): string[] {
  return text.match(/[\u0100-\u024f\u1e00-\u1eff]+|[^\u0100-\u024f\u1e00-\u1eff]+/gu) ?? [];
}

/** @example formatShort('2026-03-03') // '3 Mar 2026' */
function formatShort(date: string): string {
  const [day = '', month = '', year = ''] = formatLongDate(date).split(' ');
  return `${day} ${month.slice(0, 3)} ${year}`;
}

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import PDFDocument from 'pdfkit';
import { projectFolder } from './projectFolder.ts';

const FONTS = join(projectFolder, 'node_modules', '@fontsource', 'ibm-plex-sans', 'files');
/** In points, as all lengths here. */
export const MARGIN = 40;
/** Where the right margin begins. */
export const RIGHT = 595 - MARGIN;
const BOTTOM = 842 - MARGIN - 20;
/** The size of letters in a table. */
export const TABLE_SIZE = 8;
/** The height of a row of a table. */
export const ROW = 15;

/** Where a column begins and how wide it is; numbers end at its right side. */
export interface PdfColumn {
  readonly head: string;
  readonly x: number;
  readonly width: number;
  readonly isNumber?: boolean;
}

/** Letters beyond western Europe stand in a font of their own. */
const EXTENDED = /[\u0100-\u024f\u1e00-\u1eff]/u;

/** Writes a PDF file on A4, from the top down. @param work writes it */
export async function writePdf(work: (writer: PdfWriter) => void): Promise<Buffer> {
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
  const writer = new PdfWriter(pdf);
  work(writer);
  writer.numberPages();
  pdf.end();
  await ended;
  return Buffer.concat(pieces);
}

interface PdfFont {
  readonly name: 'plain' | 'strong';
  readonly size: number;
}

interface TextStyle {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly size: number;
  readonly isStrong?: boolean;
  readonly isRight?: boolean;
}

/** Puts lines and tables on pages, one below the other. */
export class PdfWriter {
  private readonly pdf: PDFKit.PDFDocument;
  /** How far down the page the next line goes. */
  y = MARGIN;

  constructor(pdf: PDFKit.PDFDocument) {
    this.pdf = pdf;
  }

  numberPages(): void {
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

  /** A row of a table with a rule below it. */
  row(columns: readonly PdfColumn[], cells: readonly string[], isHead = false): void {
    this.breakPage(ROW);
    for (const [at, column] of columns.entries()) {
      const { x, width, isNumber: isRight = false } = column;
      this.text(cells[at] ?? '', {
        x,
        y: this.y,
        width,
        size: TABLE_SIZE,
        isStrong: isHead,
        isRight,
      });
    }
    this.y += ROW;
    this.pdf
      .moveTo(MARGIN, this.y - 4)
      .lineTo(RIGHT, this.y - 4)
      .lineWidth(0.3)
      .strokeColor('#b9b0a0')
      .stroke();
  }

  /** A line of its own. */
  line(
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

  /** A text in lines no wider than a width, broken between words. */
  wrapped(text: string, width: number, size: number): string[] {
    const lines: string[] = [];
    for (const paragraph of text.split('\n')) {
      let line = '';
      for (const word of paragraph.split(/\s+/)) {
        const longer = line === '' ? word : `${line} ${word}`;
        if (line !== '' && this.widthOf(longer, { name: 'plain', size }) > width) {
          lines.push(line);
          line = word;
        } else line = longer;
      }
      lines.push(line);
    }
    return lines;
  }

  /** Begins a page where what comes next would not fit. */
  breakPage(needed: number): void {
    if (this.y + needed <= BOTTOM) return;
    this.pdf.addPage();
    this.y = MARGIN;
  }

  /** Writes a text on one line, cut where it is too wide, each part of it in the font that has its letters. */
  text(text: string, { x, y, width, size, isStrong = false, isRight = false }: TextStyle): void {
    const font: PdfFont = { name: isStrong ? 'strong' : 'plain', size };
    let shown = text;
    while (shown.length > 1 && this.widthOf(shown, font) > width) {
      shown = `${shown.slice(0, -2).trimEnd()}…`;
    }
    let at = isRight ? x + width - this.widthOf(shown, font) : x;
    this.pdf.fillColor('#23252b');
    for (const part of partsOf(shown)) {
      const own = this.useFont(part, font).widthOfString(part);
      this.pdf.text(part, at, y, { lineBreak: false });
      at += own;
    }
  }

  private widthOf(text: string, font: PdfFont): number {
    return partsOf(text).reduce(
      (sum, part) => sum + this.useFont(part, font).widthOfString(part),
      0,
    );
  }

  private useFont(part: string, { name, size }: PdfFont): PDFKit.PDFDocument {
    return this.pdf.font(`${name} ${EXTENDED.test(part) ? 'latin-ext' : 'latin'}`).fontSize(size);
  }
}

/** A text in parts whose letters are in one font. */
function partsOf(text: string): string[] {
  return text.match(/[\u0100-\u024f\u1e00-\u1eff]+|[^\u0100-\u024f\u1e00-\u1eff]+/gu) ?? [];
}

/** @example formatShort('2026-03-03') // '3 Mar 2026' */
export function formatShort(date: string): string {
  const [day = '', month = '', year = ''] = formatLongDate(date).split(' ');
  return `${day} ${month.slice(0, 3)} ${year}`;
}

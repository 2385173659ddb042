import { readBankFile } from '@zubrell/core/formats/readBankFile';
import { type SampleFormat, sampleFile } from '@zubrell/core/testing/sampleFiles';
import { parse } from 'csv-parse/sync';
import ExcelJS from 'exceljs';
import { SaxesParser } from 'saxes';
import { ratio } from './ratio.ts';
import { sized } from './sized.ts';

const LINES = sized(100_000, 200);
/** Spreadsheets of that size take minutes whoever reads them. */
const XLSX_LINES = sized(20_000, 200);
const PIECE = 65_536;

interface Tokeniser {
  readonly name: string;
  readonly run: (bytes: Uint8Array) => unknown;
  readonly aim: number;
}

const xml: Tokeniser = { name: 'bare XML tokeniser', run: tokeniseXml, aim: 2 };
/** Whoever reads camt needs the elements of each entry (docs/decisions/0034): they are gathered, and nothing is done with them. */
const entries: Tokeniser = {
  name: 'XML tokeniser to a tree of each entry',
  run: treeOfXml,
  aim: 2,
};
const rows = (delimiter: string): Tokeniser => ({
  name: 'bare CSV parser',
  run: (bytes) => void parse(new TextDecoder().decode(bytes), { delimiter }),
  aim: 3,
});
const fields: Tokeniser = { name: 'bare split into lines and fields', run: splitFields, aim: 3 };
const TOKENISERS: Readonly<Record<SampleFormat, Tokeniser>> = {
  ofx1: fields,
  ofx2: xml,
  camt053: entries,
  mt940: fields,
  qif: fields,
  csv: rows(','),
  tsv: rows('\t'),
  // A workbook is looked through for what would cost too much, and then read by exceljs (docs/decisions/0034).
  xlsx: { name: 'exceljs alone', run: loadWorkbook, aim: 2 },
};

/** Reading each format to lines, against a bare tokeniser of the same bytes. */
export async function readFormats(): Promise<string> {
  const said: string[] = [];
  for (const [format, { name, run, aim }] of Object.entries(TOKENISERS)) {
    const count = format === 'xlsx' ? XLSX_LINES : LINES;
    const bytes = await sampleFile(format as SampleFormat, count);
    const { statements } = await readBankFile(bytes, { currency: 'EUR' });
    const found = statements[0]?.lines.length;
    if (found !== count) throw new Error(`read ${found} of ${count} lines of ${format}`);
    const megabytes = (bytes.length / 1e6).toFixed(1);
    said.push(
      await ratio({
        name: `reading ${format}, ${count} lines, ${megabytes} MB`,
        ours: () => readBankFile(bytes, { currency: 'EUR' }),
        peerName: name,
        peer: () => run(bytes),
        aim,
      }),
    );
  }
  return said.join('');
}

function tokeniseXml(bytes: Uint8Array, parser = new SaxesParser()): void {
  const decoder = new TextDecoder('utf-8');
  for (let at = 0; at < bytes.length; at += PIECE) {
    parser.write(decoder.decode(bytes.subarray(at, at + PIECE), { stream: true }));
  }
  parser.close();
}

/** An element of an XML document with what it holds. */
interface Element {
  readonly name: string;
  readonly children: Element[];
  text: string;
}

/** Elements so deep are entries and what is beside them; what is above them is not kept. */
const ENTRY_DEPTH = 4;

function treeOfXml(bytes: Uint8Array): void {
  const path: Element[] = [];
  const parser = new SaxesParser();
  parser.on('opentag', ({ name }) => {
    const element: Element = { name, children: [], text: '' };
    if (path.length >= ENTRY_DEPTH) path.at(-1)?.children.push(element);
    path.push(element);
  });
  parser.on('text', (text) => {
    const element = path.at(-1);
    if (element) element.text += text;
  });
  parser.on('closetag', () => void path.pop());
  tokeniseXml(bytes, parser);
}

async function loadWorkbook(bytes: Uint8Array): Promise<void> {
  await new ExcelJS.Workbook().xlsx.load(bytes.slice().buffer as ArrayBuffer);
}

function splitFields(bytes: Uint8Array): number {
  let count = 0;
  for (const line of new TextDecoder().decode(bytes).split(/\r?\n/)) {
    count += line.split(/[<>:]/).length;
  }
  return count;
}

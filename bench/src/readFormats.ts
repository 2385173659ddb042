import { readBankFile } from '@zubrell/core/formats/readBankFile';
import { type SampleFormat, sampleFile } from '@zubrell/core/testing/sampleFiles';
import { parse } from 'csv-parse/sync';
import { unzipSync } from 'fflate';
import { SaxesParser } from 'saxes';
import { ratio } from './ratio.ts';
import { sized } from './sized.ts';

const LINES = sized(100_000, 200);
/** Spreadsheets of that size take minutes whoever reads them. */
const XLSX_LINES = sized(20_000, 200);
const PIECE = 65_536;

interface Tokeniser {
  readonly name: string;
  readonly run: (bytes: Uint8Array) => void;
  readonly aim: number;
}

const xml: Tokeniser = { name: 'bare XML tokeniser', run: tokeniseXml, aim: 2 };
const rows = (delimiter: string): Tokeniser => ({
  name: 'bare CSV parser',
  run: (bytes) => void parse(new TextDecoder().decode(bytes), { delimiter }),
  aim: 3,
});
const fields: Tokeniser = { name: 'bare split into lines and fields', run: splitFields, aim: 3 };
const TOKENISERS: Readonly<Record<SampleFormat, Tokeniser>> = {
  ofx1: fields,
  ofx2: xml,
  camt053: xml,
  mt940: fields,
  qif: fields,
  csv: rows(','),
  tsv: rows('\t'),
  xlsx: { name: 'bare unzipping and XML tokeniser', run: tokeniseSheet, aim: 3 },
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

function tokeniseXml(bytes: Uint8Array): void {
  const parser = new SaxesParser();
  const decoder = new TextDecoder('utf-8');
  for (let at = 0; at < bytes.length; at += PIECE) {
    parser.write(decoder.decode(bytes.subarray(at, at + PIECE), { stream: true }));
  }
  parser.close();
}

function tokeniseSheet(bytes: Uint8Array): void {
  for (const [name, content] of Object.entries(unzipSync(bytes))) {
    if (name.endsWith('.xml')) tokeniseXml(content);
  }
}

function splitFields(bytes: Uint8Array): number {
  let count = 0;
  for (const line of new TextDecoder().decode(bytes).split(/\r?\n/)) {
    count += line.split(/[<>:]/).length;
  }
  return count;
}

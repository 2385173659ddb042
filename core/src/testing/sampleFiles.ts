import { addDays } from '../dates/calendarDate.ts';
import { type BankStatement, bankLine } from '../formats/bankFile.ts';
import { writeCamt } from '../formats/write/writeCamt.ts';
import { writeCsv } from '../formats/write/writeCsv.ts';
import { writeOfx } from '../formats/write/writeOfx.ts';
import { writeXlsx } from '../formats/write/writeXlsx.ts';
import { toDecimal } from '../money/formatAmount.ts';

/** A format that samples are made in. */
export const sampleFormats = [
  'ofx1',
  'ofx2',
  'camt053',
  'mt940',
  'qif',
  'csv',
  'tsv',
  'xlsx',
] as const;
export type SampleFormat = (typeof sampleFormats)[number];

const CURRENCY = 'EUR';
const FIRST = '2025-01-01';
const OPENING = 500_000;
/** Lines a day. */
const A_DAY = 40;

/** A statement of that many made-up lines, in the order of time, with balances that add up. */
export function sampleStatement(count: number): BankStatement {
  let balance = OPENING;
  const lines = Array.from({ length: count }, (_, index) => {
    const amount = index % 9 === 0 ? 40_000 + (index % 977) : -((index % 9_000) + 100);
    balance += amount;
    return bankLine({
      place: index + 1,
      date: addDays(FIRST, Math.floor(index / A_DAY)),
      amount,
      description: `CRD PUR TIDEMARK FRT ${20_000 + (index % 999)} LYNMO`,
      reference: `R${index}`,
      bankId: `F${index}`,
      balance,
    });
  });
  const last = lines.at(-1)?.date ?? FIRST;
  return {
    account: '4471',
    bank: 'WICK',
    kind: 'current',
    currency: CURRENCY,
    from: FIRST,
    to: last,
    opening: OPENING,
    closing: balance,
    closingDate: last,
    dayBalances: [],
    lines,
  };
}

/** A good file of a format with that many lines. */
export async function sampleFile(format: SampleFormat, count: number): Promise<Uint8Array> {
  const statement = sampleStatement(count);
  const encode = (text: string) => new TextEncoder().encode(text);
  switch (format) {
    case 'ofx1':
      return encode(asOfx1(writeOfx([statement], CURRENCY)));
    case 'ofx2':
      return encode(writeOfx([statement], CURRENCY));
    case 'camt053':
      return encode(writeCamt([statement], CURRENCY));
    case 'mt940':
      return encode(mt940(statement));
    case 'qif':
      return encode(qif(statement));
    case 'csv':
      return encode(writeCsv([statement], CURRENCY));
    case 'tsv':
      return encode(tsv(statement));
    case 'xlsx':
      return writeXlsx([statement], CURRENCY);
  }
}

/** The same in SGML: a header of its own, and values without end tags. */
function asOfx1(xml: string): string {
  const header =
    'OFXHEADER:100\r\nDATA:OFXSGML\r\nVERSION:102\r\nSECURITY:NONE\r\nENCODING:USASCII\r\n' +
    'CHARSET:1252\r\nCOMPRESSION:NONE\r\nOLDFILEUID:NONE\r\nNEWFILEUID:NONE\r\n\r\n';
  return header + xml.slice(xml.indexOf('<OFX>')).replace(/<(\w+)>([^<\n]+)<\/\1>/g, '<$1>$2\r\n');
}

function mt940({ account, lines, opening, closing, from, to }: BankStatement): string {
  const day = (date: string | null) => (date ?? '').slice(2).replaceAll('-', '');
  const money = (amount: number) => toDecimal(Math.abs(amount), CURRENCY).replace('.', ',');
  const side = (amount: number) => (amount < 0 ? 'D' : 'C');
  const balance = (tag: string, amount: number | null, date: string | null) =>
    `:${tag}:${side(amount ?? 0)}${day(date)}${CURRENCY}${money(amount ?? 0)}`;
  const records = lines.map(
    ({ date, amount, reference, description }) =>
      `:61:${day(date)}${day(date).slice(2)}${side(amount)}${money(amount)}NTRF${reference ?? 'NONREF'}\r\n` +
      `:86:${description}`,
  );
  return [
    ':20:STMT',
    `:25:WICK/${account}`,
    ':28C:1/1',
    balance('60F', opening, from),
    ...records,
    balance('62F', closing, to),
    '-',
    '',
  ].join('\r\n');
}

function qif({ lines }: BankStatement): string {
  const records = lines.map(
    ({ date, amount, description }) =>
      `D${date.slice(8)}/${date.slice(5, 7)}/${date.slice(0, 4)}\nT${toDecimal(amount, CURRENCY)}\nP${description}\n^`,
  );
  return `!Type:Bank\n${records.join('\n')}\n`;
}

function tsv({ lines }: BankStatement): string {
  const rows = lines.map(({ date, amount, description, reference, balance }) =>
    [
      date.split('-').reverse().join('.'),
      description,
      reference,
      toDecimal(amount, CURRENCY).replace('.', ','),
      toDecimal(balance ?? 0, CURRENCY).replace('.', ','),
    ].join('\t'),
  );
  return `Date\tDescription\tReference\tAmount\tBalance\n${rows.join('\n')}\n`;
}

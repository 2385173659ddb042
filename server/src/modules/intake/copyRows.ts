import type { BankLine } from '@zubrell/core/formats/bankFile';
import { plainWording } from '@zubrell/core/text/plainWording';
import { stemOf } from '@zubrell/core/text/stemOf';

/** The columns that {@link copyRow} writes, in order. */
export const copyColumns = [
  'position',
  'place',
  'date',
  'value_date',
  'amount',
  'description',
  'reference',
  'payee',
  'bank_id',
  'type',
  'cheque_number',
  'counterparty',
  'category',
  'cardholder',
  'original',
  'prepared',
  'balance',
  'stem',
  'plain',
] as const;

const SPECIAL = /[\\\t\n\r\0]/;
const ESCAPES: Readonly<Record<string, string>> = {
  '\\': '\\\\',
  '\t': '\\t',
  '\n': '\\n',
  '\r': '\\r',
  '\0': ' ',
};

/**
 * A line as a row in the text format of PostgreSQL's COPY, with what is computed from its wording.
 *
 * @param position its order among the statement's booked lines, from 0
 */
export function copyRow(line: BankLine, position: number): string {
  const values = [
    position,
    line.place,
    line.date,
    line.valueDate ?? '\\N',
    line.amount,
    field(line.description),
    field(line.reference),
    field(line.payee),
    field(line.bankId),
    field(line.type),
    field(line.chequeNumber),
    field(line.counterparty),
    field(line.category),
    field(line.cardholder),
    field(line.original),
    line.prepared === null ? '\\N' : field(JSON.stringify(line.prepared)),
    line.balance ?? '\\N',
    field(stemOf(line)),
    field(plainWording(line.description)),
  ];
  return `${values.join('\t')}\n`;
}

function field(text: string | null): string {
  if (text === null) return '\\N';
  return SPECIAL.test(text) ? text.replace(/[\\\t\n\r\0]/g, (mark) => ESCAPES[mark] ?? '') : text;
}

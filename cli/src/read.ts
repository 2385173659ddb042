import { readFile } from 'node:fs/promises';
import { resolve } from 'node:path';
import { ZubrellError } from '@zubrell/core/errors';
import {
  type BankFile,
  type BankLine,
  type BankStatement,
  refusedOf,
} from '@zubrell/core/formats/bankFile';
import { readBankFile } from '@zubrell/core/formats/readBankFile';
import { writeCamt } from '@zubrell/core/formats/write/writeCamt';
import { writeCsv } from '@zubrell/core/formats/write/writeCsv';
import { writeOfx } from '@zubrell/core/formats/write/writeOfx';
import { writeXlsx } from '@zubrell/core/formats/write/writeXlsx';
import { toDecimal } from '@zubrell/core/money/formatAmount';

/** Used where a file names no currency. */
const CURRENCY = 'EUR';

const WRITERS = { csv: writeCsv, xlsx: writeXlsx, ofx: writeOfx, camt053: writeCamt } as const;

/** A format that is written. */
export type WrittenFormat = 'json' | keyof typeof WRITERS;

/** Whether a name is that of a format that is written. */
export function isWrittenFormat(name: string | undefined): name is WrittenFormat {
  return name === 'json' || (name !== undefined && name in WRITERS);
}

/** Where output goes. */
export interface Output {
  readonly out: (content: string | Uint8Array) => unknown;
  readonly err: (text: string) => unknown;
}

/**
 * Prints a bank file as JSON lines: each statement's lines, then the statement. Problems go to
 * standard error as `FILE:LINE: message`.
 *
 * @param name the file's name as given
 * @param from the folder it is relative to
 * @param to the format to write instead of JSON lines
 * @returns the exit code: 0 if all was read, 1 if records were refused, 2 if it is no bank file
 */
export async function read(
  name: string,
  from: string,
  { out, err }: Output,
  to: WrittenFormat = 'json',
): Promise<0 | 1 | 2> {
  let file: BankFile;
  try {
    file = await readBankFile(await readFile(resolve(from, name)), { currency: CURRENCY });
  } catch (error) {
    if (error instanceof ZubrellError) err(`${name}:1: ${error.message}\n`);
    else if (error instanceof Error && 'code' in error) {
      err(`${name}: can’t be opened (${error.code})\n`);
    } else throw error;
    return 2;
  }
  if (to !== 'json') out(await WRITERS[to](file.statements, CURRENCY));
  for (const statement of to === 'json' ? file.statements : []) {
    const currency = statement.currency ?? CURRENCY;
    const rows = statement.lines.map((line) => JSON.stringify(shownLine(line, currency)));
    rows.push(JSON.stringify(shownStatement(statement, currency)));
    out(`${rows.join('\n')}\n`);
  }
  for (const { line, field, message } of file.problems) {
    err(`${name}:${line}: ${field === null ? '' : `${field}: `}${message}\n`);
  }
  return refusedOf(file).length > 0 ? 1 : 0;
}

function shownLine(line: BankLine, currency: string): object {
  return {
    kind: 'line',
    date: line.date,
    amount: toDecimal(line.amount, currency),
    description: line.description,
    reference: line.reference,
    bankId: line.bankId,
    valueDate: line.valueDate,
    payee: line.payee,
    type: line.type,
    chequeNumber: line.chequeNumber,
    balance: line.balance === null ? null : toDecimal(line.balance, currency),
    isPending: line.isPending,
    counterparty: line.counterparty,
    category: line.category,
    cardholder: line.cardholder,
    original: line.original,
    prepared: line.prepared,
    place: line.place,
  };
}

function shownStatement(statement: BankStatement, currency: string): object {
  const amount = (value: number | null) => (value === null ? null : toDecimal(value, currency));
  return {
    kind: 'statement',
    account: statement.account,
    currency: statement.currency ?? CURRENCY,
    from: statement.from,
    to: statement.to,
    opening: amount(statement.opening),
    closing: amount(statement.closing),
    lines: statement.lines.length,
    bank: statement.bank,
    closingDate: statement.closingDate,
  };
}

import { readFile } from 'node:fs/promises';
import { resolve } from 'node:path';
import { ZubrellError } from '@zubrell/core/errors';
import type { BankFile } from '@zubrell/core/formats/bankFile';
import { readBankFile } from '@zubrell/core/formats/readBankFile';
import { matchSources, type SourceLine } from '@zubrell/core/intake/matchSources';
import { type BalanceCheck, settleByBalance } from '@zubrell/core/intake/settleByBalance';
import { closingBalance } from '@zubrell/core/intake/statementBalances';
import type { Output } from './read.ts';

/** Used where a file names no currency. */
const CURRENCY = 'EUR';

/**
 * Prints which lines of the second file are in the first already, which may be, and which are new:
 * 0-based positions in the file's order, each once.
 *
 * @param names the two files, of one bank account
 * @param from the folder they are relative to
 * @returns the exit code: 0, or 2 where one of them is no bank file
 */
export async function overlap(
  names: readonly [string, string],
  from: string,
  output: Output,
): Promise<0 | 2> {
  const [first, second] = await Promise.all(names.map((name) => fileOf(name, from, output)));
  if (!first || !second) return 2;
  const incoming = linesOf(second);
  const compared = matchSources(linesOf(first), incoming);
  const check = balanceCheck(first, second);
  const sightings = check === null ? compared : settleByBalance(compared, incoming, check);
  const positions = (kind: 'already' | 'doubtful' | 'new') =>
    sightings.flatMap((sighting, position) => (sighting.kind === kind ? position : []));
  const found = {
    already: positions('already'),
    doubtful: positions('doubtful'),
    new: positions('new'),
  };
  output.out(`${JSON.stringify(found)}\n`);
  return 0;
}

function linesOf(file: BankFile): readonly SourceLine[] {
  return file.statements.flatMap(({ lines }) => lines);
}

/** What both files' stated balances can decide; null where one states none. */
function balanceCheck(first: BankFile, second: BankFile): BalanceCheck | null {
  const [before, after] = [first, second].map(({ statements: [only, ...more] }) =>
    only && more.length === 0 ? closingBalance(only) : null,
  );
  if (!before || !after || before.date > after.date) return null;
  return { standing: before.amount, closing: after.amount, date: after.date };
}

async function fileOf(name: string, from: string, { err }: Output): Promise<BankFile | null> {
  try {
    return await readBankFile(await readFile(resolve(from, name)), { currency: CURRENCY });
  } catch (error) {
    if (error instanceof ZubrellError) err(`${name}:1: ${error.message}\n`);
    else if (error instanceof Error && 'code' in error) {
      err(`${name}: can’t be opened (${error.code})\n`);
    } else throw error;
    return null;
  }
}

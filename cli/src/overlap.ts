import { readFile } from 'node:fs/promises';
import { resolve } from 'node:path';
import { ZubrellError } from '@zubrell/core/errors';
import { readBankFile } from '@zubrell/core/formats/readBankFile';
import { matchSources, type SourceLine } from '@zubrell/core/intake/matchSources';
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
  const [first, second] = await Promise.all(names.map((name) => linesOf(name, from, output)));
  if (!first || !second) return 2;
  const sightings = matchSources(first, second);
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

async function linesOf(
  name: string,
  from: string,
  { err }: Output,
): Promise<readonly SourceLine[] | null> {
  try {
    const file = readBankFile(await readFile(resolve(from, name)), CURRENCY);
    return file.statements.flatMap(({ lines }) => lines);
  } catch (error) {
    if (error instanceof ZubrellError) err(`${name}:1: ${error.message}\n`);
    else if (error instanceof Error && 'code' in error) {
      err(`${name}: can’t be opened (${error.code})\n`);
    } else throw error;
    return null;
  }
}

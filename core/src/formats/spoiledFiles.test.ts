import { beforeAll, describe, expect, it } from 'vitest';
import { ZubrellError } from '../errors.ts';
import { numbersFrom } from '../testing/numbersFrom.ts';
import { type SampleFormat, sampleFile, sampleFormats } from '../testing/sampleFiles.ts';
import { spoilBytes } from '../testing/spoilBytes.ts';
import { readBankFile } from './readBankFile.ts';

/** So many spoiled files of each format are read, the same each time. The long run is in bench/. */
const TRIES = 250;
const LINES = 30;

describe('a spoiled file', () => {
  const good = new Map<SampleFormat, Uint8Array>();
  beforeAll(async () => {
    for (const format of sampleFormats) good.set(format, await sampleFile(format, LINES));
  });

  it.each(sampleFormats)('of %s is read before it is spoiled', async (format) => {
    const { statements, problems } = await readBankFile(good.get(format) ?? new Uint8Array(), {
      currency: 'EUR',
    });
    expect(problems.filter(({ severity }) => severity !== 'notice')).toEqual([]);
    expect(statements[0]?.lines).toHaveLength(LINES);
  });

  // A file that hangs the reader fails by the test's own limit.
  it.each(sampleFormats)(
    'of %s is read, or refused with words, whatever is wrong with it',
    async (format) => {
      for (let seed = 1; seed <= TRIES; seed += 1) {
        const bytes = spoilBytes(good.get(format) ?? new Uint8Array(), numbersFrom(seed));
        try {
          const { statements, problems } = await readBankFile(bytes, { currency: 'EUR' });
          for (const line of statements.flatMap((statement) => statement.lines)) {
            expect(Number.isSafeInteger(line.amount), `seed ${seed}`).toBe(true);
            expect(line.date, `seed ${seed}`).toMatch(/^\d{4}-\d\d-\d\d$/);
          }
          expect(
            problems.every(({ message }) => message !== ''),
            `seed ${seed}`,
          ).toBe(true);
        } catch (error) {
          if (!(error instanceof ZubrellError)) throw new Error(`seed ${seed}`, { cause: error });
        }
      }
    },
    20_000,
  );
});

import { ZubrellError } from '@zubrell/core/errors';
import { readBankFile } from '@zubrell/core/formats/readBankFile';
import { numbersFrom } from '@zubrell/core/testing/numbersFrom';
import { sampleFile, sampleFormats } from '@zubrell/core/testing/sampleFiles';
import { spoilBytes } from '@zubrell/core/testing/spoilBytes';
import { sized } from './sized.ts';

const LINES = sized(2_000, 50);
/** How long each format is tried, in milliseconds. */
const TRIED_FOR = sized(30_000, 100);

/** Reads spoiled files for a long time and says how many, and the longest that one took. */
export async function spoiled(): Promise<string> {
  const said: string[] = [];
  for (const format of sampleFormats) {
    const good = await sampleFile(format, LINES);
    const began = Date.now();
    let [tried, longest, worst, size] = [0, 0, 0, 0];
    for (let seed = began; Date.now() - began < TRIED_FOR; seed += 1) {
      const bytes = spoilBytes(good, numbersFrom(seed));
      const start = performance.now();
      try {
        await readBankFile(bytes, { currency: 'EUR' });
      } catch (error) {
        if (!(error instanceof ZubrellError)) throw new Error(`seed ${seed}`, { cause: error });
      }
      const took = performance.now() - start;
      tried += 1;
      if (took > longest) [longest, worst, size] = [took, seed, bytes.length];
    }
    said.push(
      `spoiled ${format}: ${tried} files read or refused by name; longest ${longest.toFixed(0)} ms` +
        ` for ${(size / 1e6).toFixed(2)} MB (seed ${worst})\n`,
    );
  }
  return said.join('');
}

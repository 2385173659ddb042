import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { readingNames, readingsOf, type Trees } from '@zubrell/core/propose/habit/sureness';
import { projectFolder } from '@zubrell/server/projectFolder';
import { sized } from '../sized.ts';
import { boostTrees, type Sample } from './boostTrees.ts';
import { businesses, isCounted, type MadeRow, rowsOf } from './businesses.ts';
import { keptBusinesses } from './keptBusinesses.ts';
import { runBusiness } from './runBusiness.ts';

/** Months up to this one have too little behind them. */
const FIRST_MONTH = 1;
const SEEDS = sized([10, 11], [10]);
const TREES = sized(140, 5);
/** Lines that were not made by a generator of ours count so much more. */
const KEPT_WEIGHT = 7;

/** What was predicted for one business, to fit by. */
export interface Fitted {
  readonly name: string;
  readonly samples: readonly Sample[];
}

/** The samples of all businesses that are not kept aside: as they are, as small ones, and those in bench/data. */
export function samplesToFit(): readonly Fitted[] {
  const made = businesses
    .filter(({ isKeptAside }) => !isKeptAside)
    .map((business): Fitted => {
      const sizes = [business, { ...business, mix: { ...business.mix, payees: 12 } }];
      const samples = sizes.flatMap((each) =>
        SEEDS.flatMap((seed) => samplesOf(rowsOf(each, seed), 1)),
      );
      return { name: business.name, samples };
    });
  const kept = [...keptBusinesses()].map(
    ([name, variants]): Fitted => ({
      name,
      samples: variants.flatMap((rows) => samplesOf(rows, KEPT_WEIGHT)),
    }),
  );
  return [...made, ...kept];
}

function samplesOf(rows: readonly MadeRow[], weight: number): Sample[] {
  return runBusiness(rows).flatMap(({ row, month, prediction }) => {
    if (!prediction || month < FIRST_MONTH || !isCounted(row)) return [];
    const isRight = prediction.accounts[0]?.accountId === row.account;
    return [{ read: readingsOf(prediction.signs), isRight, weight }];
  });
}

/** Trees fitted on all businesses but one. @param without its name, or null for none */
export function treesWithout(all: readonly Fitted[], without: string | null): Trees {
  const samples = all.flatMap(({ name, samples: own }) => (name === without ? [] : own));
  return boostTrees(samples, TREES);
}

/**
 * Fits the trees of sureness on businesses that are not kept aside, with seeds that nothing is measured on, and writes
 * them into the core.
 */
export async function fitSureness(): Promise<string> {
  const all = samplesToFit();
  const { bias, trees } = treesWithout(all, null);
  const file = join(projectFolder, 'core/src/propose/habit/surenessTrees.ts');
  writeFileSync(
    file,
    [
      '// biome-ignore-all lint/suspicious/noApproximativeNumericConstant: fitted numbers are what they are',
      "import type { Trees } from './sureness.ts';",
      '',
      '// Written by `npm run bench -- fitSureness`; format it after.',
      '',
      `/** Over ${readingNames.length} readings, in their order. */`,
      'export const TREES: Trees = {',
      `  bias: ${bias},`,
      '  trees: [',
      ...trees.map(
        ({ asks, limits, leaves }) =>
          `    { asks: [${asks}], limits: [${limits}], leaves: [${leaves}] },`,
      ),
      '  ],',
      '};',
      '',
    ].join('\n'),
  );
  const count = all.reduce((sum, { samples }) => sum + samples.length, 0);
  return `fitted ${trees.length} trees on ${count} predictions of ${all.length} businesses\n`;
}

import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  type Knot,
  type Outcome,
  type Reading,
  readingNames,
  readings,
  stepOf,
} from '@zubrell/core/propose/habit/sureness';
import { dice } from '@zubrell/core/testing/dice';
import { projectFolder } from '@zubrell/server/config';
import { businesses, isCounted, rowsOf } from './businesses.ts';
import { runBusiness } from './runBusiness.ts';

/** Where the steps of each reading end. */
const LIMITS: Readonly<Record<Reading, readonly number[]>> = {
  odds: [-2, -1, 0, 1, 2, 3, 4, 5, 6],
  margin: [0.2, 0.4, 0.6, 0.8, 0.9, 0.97, 0.99],
  likeness: [0.3, 0.4, 0.5, 0.55, 0.6, 0.65, 0.7, 0.75, 0.8, 0.85, 0.9, 0.95, 0.99],
  shared: [0.2, 0.4, 0.6, 0.8, 1, 1.25, 1.5, 1.75, 2, 2.5, 3, 4],
  same: [2, 3, 4, 6, 10],
  payee: [0.5, 0.7, 0.8, 0.9, 0.95, 0.98, 0.995],
  other: [0.02, 0.05, 0.1, 0.15, 0.2, 0.3, 0.4, 0.5],
  times: [2, 3, 4, 6, 10, 20],
  agreed: [0.2, 0.4, 0.6, 0.8, 0.9, 0.95, 1],
  newest: [0.1, 0.3, 0.5, 0.7, 0.9, 1],
  amount: [0.001, 0.02, 0.05, 0.1, 0.2, 0.4, 0.8, 1.5],
  side: [0.5],
  bank: [0.5],
  separated: [0.01, 0.3, 0.5, 0.7, 0.85, 0.95, 1.5],
  since: [15, 32, 45, 65, 100, 200],
  fresh: [0.02, 0.05, 0.1, 0.15, 0.2, 0.3, 0.4, 0.5, 0.7, 1],
  thin: halves(55),
  seldom: halves(23),
  divided: [-0.5, ...halves(31)],
};

/** Months up to this one have too little behind them. */
const FIRST_MONTH = 1;
const SEEDS = [10, 11, 12, 13, 14, 15];
const STRAIGHTENED_BY = [16, 17, 18, 19];
const ROUNDS = 30;

/** A limit between each two whole numbers. */
function halves(count: number): number[] {
  return Array.from({ length: count }, (_, at) => at + 0.5);
}

/**
 * Fits the weights of sureness by stochastic gradient descent (AdaGrad) on businesses that are not kept aside,
 * with seeds that nothing is measured on, and writes them into the core.
 */
export async function fitSureness(): Promise<string> {
  const starts: number[] = [];
  let size = 0;
  for (const name of readingNames) {
    starts.push(size);
    size += LIMITS[name].length + 1;
  }
  const samples = predictions(SEEDS).map(({ signs, isRight }) => ({
    steps: readingNames.map(
      (name, at) => (starts[at] ?? 0) + stepOf(LIMITS[name], readings[name](signs)),
    ),
    right: Number(isRight),
  }));
  const weights = new Float64Array(size);
  const squares = new Float64Array(size);
  const fitted = { bias: 3, square: 0 };
  const throws = dice(4_711);
  for (let round = 0; round < ROUNDS; round += 1) {
    const rate = 0.3 / (1 + round * 0.25);
    for (let count = samples.length; count > 0; count -= 1) {
      const { steps, right } = throws.pick(samples);
      let odds = fitted.bias;
      for (const step of steps) odds += weights[step] ?? 0;
      const error = right - 1 / (1 + Math.exp(-odds));
      fitted.square += error * error;
      fitted.bias += (0.2 * rate * error) / Math.sqrt(fitted.square + 1);
      for (const step of steps) {
        const square = (squares[step] ?? 0) + error * error;
        squares[step] = square;
        weights[step] = (weights[step] ?? 0) + (rate * error) / Math.sqrt(square + 1);
      }
    }
  }
  const bias = rounded(fitted.bias);
  const scales = readingNames.map((name, at) => {
    const from = starts[at] ?? 0;
    return [...weights.slice(from, from + LIMITS[name].length + 1)].map(rounded);
  });
  const knots = knotsOf(
    predictions(STRAIGHTENED_BY).map(({ signs, isRight }) => {
      const parts = readingNames.map((name, at) => {
        return scales[at]?.[stepOf(LIMITS[name], readings[name](signs))] ?? 0;
      });
      return { odds: parts.reduce((sum, part) => sum + part, bias), isRight };
    }),
  );
  const file = join(projectFolder, 'core/src/propose/habit/surenessWeights.ts');
  writeFileSync(
    file,
    [
      "import type { Knot, Reading, Scale } from './sureness.ts';",
      '',
      '// Written by `npm run bench -- fitSureness`; format it after.',
      '',
      '/** The log odds of being right before any sign is looked at. */',
      `export const BIAS = ${bias};`,
      '',
      '/** What each step of each sign adds to them. */',
      'export const SCALES: Readonly<Record<Reading, Scale>> = {',
      ...readingNames.map((name, at) => {
        const limits = LIMITS[name].join(', ');
        return `  ${name}: { limits: [${limits}], weights: [${scales[at]?.join(', ')}] },`;
      }),
      '};',
      '',
      '/** What the odds turned out to be on businesses that the weights were not fitted on. */',
      'export const KNOTS: readonly Knot[] = [',
      ...knots.map(({ said, was }) => `  { said: ${rounded(said)}, was: ${rounded(was)} },`),
      '];',
      '',
    ].join('\n'),
  );
  return `fitted on ${samples.length} predictions, with ${knots.length} knots\n`;
}

const rounded = (value: number) => Math.round(value * 100) / 100;

/** What was predicted for businesses that are not kept aside, as they are and as new and small ones. */
function predictions(seeds: readonly number[]) {
  return seeds.flatMap((seed) =>
    businesses
      .filter(({ isKeptAside }) => !isKeptAside)
      .flatMap((business) => [business, { ...business, mix: { ...business.mix, payees: 12 } }])
      .flatMap((business) => runBusiness(rowsOf(business, seed)))
      .flatMap(({ row, month, prediction }) => {
        if (!prediction || month < FIRST_MONTH || !isCounted(row)) return [];
        const isRight = prediction.accounts[0]?.accountId === row.account;
        return [{ signs: prediction.signs, isRight }];
      }),
  );
}

/** So many predictions make a knot, at least. */
const A_KNOT = 250;

/** What odds turned out to be, by groups of predictions in their order; never falling (pool adjacent violators). */
function knotsOf(outcomes: readonly Outcome[]): Knot[] {
  const sorted = [...outcomes].sort((a, b) => a.odds - b.odds);
  const size = Math.max(A_KNOT, Math.ceil(sorted.length / 400));
  const groups: { said: number; count: number; right: number }[] = [];
  for (let from = 0; from < sorted.length; from += size) {
    const group = sorted.slice(from, from + size);
    groups.push({
      said: group.reduce((sum, { odds }) => sum + odds, 0) / group.length,
      count: group.length,
      right: group.filter(({ isRight }) => isRight).length,
    });
    for (;;) {
      const last = groups.at(-1);
      const before = groups.at(-2);
      if (!last || !before || before.right / before.count <= last.right / last.count) break;
      groups.splice(-2, 2, {
        said: (before.said * before.count + last.said * last.count) / (before.count + last.count),
        count: before.count + last.count,
        right: before.right + last.right,
      });
    }
  }
  return groups.map(({ said, count, right }) => ({
    said,
    was: Math.log((right + 0.5) / (count - right + 0.5)),
  }));
}

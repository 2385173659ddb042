import type { Tree, Trees } from '@zubrell/core/propose/habit/sureness';

/** Readings with what turned out to be right. */
export interface Sample {
  readonly read: Float64Array;
  readonly isRight: boolean;
  readonly weight: number;
}

const DEPTH = 4;
const INNER = 2 ** DEPTH - 1;
const BINS = 48;
const SHRINK = 0.12;
/** What each leaf is drawn towards nothing by, in samples' curvature, and the least that it may hold. */
const RIDGE = 8;
const LEAST_CURVE = 4;

/**
 * Fits trees of a fixed depth to log odds, one after the other, each to what those before leave (gradient boosting with
 * Newton leaves over binned readings).
 *
 * @param rounds how many trees
 */
export function boostTrees(samples: readonly Sample[], rounds: number): Trees {
  const width = samples[0]?.read.length ?? 0;
  const edges = Array.from({ length: width }, (_, at) => edgesOf(samples, at));
  const bins = edges.map((own, at) =>
    Uint8Array.from(samples, ({ read }) => binOf(own, read[at] ?? 0)),
  );
  const all = samples.reduce((sum, { weight }) => sum + weight, 0);
  const right = samples.reduce((sum, { weight, isRight }) => sum + (isRight ? weight : 0), 0);
  const bias = Math.log(right / (all - right));
  const odds = new Float64Array(samples.length).fill(bias);
  const slopes = new Float64Array(samples.length);
  const curves = new Float64Array(samples.length);
  const trees: Tree[] = [];
  for (let round = 0; round < rounds; round += 1) {
    for (const [at, { isRight, weight }] of samples.entries()) {
      const said = 1 / (1 + Math.exp(-(odds[at] ?? 0)));
      slopes[at] = weight * (Number(isRight) - said);
      curves[at] = weight * said * (1 - said);
    }
    trees.push(growTree(bins, edges, slopes, curves, odds));
  }
  return { bias: rounded(bias), trees };
}

/** Grows one tree and adds its leaves to the odds. */
function growTree(
  bins: readonly Uint8Array[],
  edges: readonly (readonly number[])[],
  slopes: Float64Array,
  curves: Float64Array,
  odds: Float64Array,
): Tree {
  const count = slopes.length;
  const nodes = new Uint8Array(count);
  const asks: number[] = [];
  const limits: number[] = [];
  for (let depth = 0; depth < DEPTH; depth += 1) {
    const from = 2 ** depth - 1;
    const width = 2 ** depth;
    const best = Array.from({ length: width }, () => ({ gain: 0, ask: 0, bin: -1 }));
    for (const [ask, own] of bins.entries()) {
      const sums = new Float64Array(width * BINS * 2);
      for (let at = 0; at < count; at += 1) {
        const place = (((nodes[at] ?? 0) - from) * BINS + (own[at] ?? 0)) * 2;
        sums[place] = (sums[place] ?? 0) + (slopes[at] ?? 0);
        sums[place + 1] = (sums[place + 1] ?? 0) + (curves[at] ?? 0);
      }
      for (let node = 0; node < width; node += 1) {
        let [slope, curve] = [0, 0];
        for (let bin = 0; bin < BINS; bin += 1) {
          slope += sums[(node * BINS + bin) * 2] ?? 0;
          curve += sums[(node * BINS + bin) * 2 + 1] ?? 0;
        }
        const whole = (slope * slope) / (curve + RIDGE);
        let [left, below] = [0, 0];
        for (let bin = 0; bin < (edges[ask]?.length ?? 0); bin += 1) {
          left += sums[(node * BINS + bin) * 2] ?? 0;
          below += sums[(node * BINS + bin) * 2 + 1] ?? 0;
          if (below < LEAST_CURVE || curve - below < LEAST_CURVE) continue;
          const gain =
            (left * left) / (below + RIDGE) + (slope - left) ** 2 / (curve - below + RIDGE) - whole;
          const known = best[node];
          if (known && gain > known.gain) Object.assign(known, { gain, ask, bin });
        }
      }
    }
    for (const { ask, bin } of best) {
      asks.push(ask);
      // A node that is not worth parting sends all to one side.
      limits.push(bin < 0 ? -1e9 : (edges[ask]?.[bin] ?? 0));
    }
    for (let at = 0; at < count; at += 1) {
      const node = nodes[at] ?? 0;
      const { ask, bin } = best[node - from] ?? { ask: 0, bin: -1 };
      nodes[at] = 2 * node + ((bins[ask]?.[at] ?? 0) <= bin ? 1 : 2);
    }
  }
  const sums = new Float64Array(2 * (INNER + 1));
  for (let at = 0; at < count; at += 1) {
    const leaf = (nodes[at] ?? 0) - INNER;
    sums[2 * leaf] = (sums[2 * leaf] ?? 0) + (slopes[at] ?? 0);
    sums[2 * leaf + 1] = (sums[2 * leaf + 1] ?? 0) + (curves[at] ?? 0);
  }
  const leaves = Array.from({ length: INNER + 1 }, (_, leaf) =>
    rounded((SHRINK * (sums[2 * leaf] ?? 0)) / ((sums[2 * leaf + 1] ?? 0) + RIDGE)),
  );
  for (let at = 0; at < count; at += 1) {
    odds[at] = (odds[at] ?? 0) + (leaves[(nodes[at] ?? 0) - INNER] ?? 0);
  }
  return { asks, limits, leaves };
}

/** Limits between readings, so that about as many samples lie between any two. */
function edgesOf(samples: readonly Sample[], at: number): readonly number[] {
  const sorted = Float64Array.from(samples, ({ read }) => read[at] ?? 0).sort();
  const edges = new Set<number>();
  for (let bin = 1; bin < BINS; bin += 1) {
    const value = sorted[Math.floor((bin * sorted.length) / BINS)] ?? 0;
    if (value > (sorted[0] ?? 0)) edges.add(Math.round(value * 10_000) / 10_000);
  }
  return [...edges].sort((a, b) => a - b);
}

/** The bin of a reading: below the first limit is 0. */
function binOf(edges: readonly number[], value: number): number {
  let bin = 0;
  while (bin < edges.length && value >= (edges[bin] ?? 0)) bin += 1;
  return bin;
}

const rounded = (value: number) => Math.round(value * 1_000) / 1_000;

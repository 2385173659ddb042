import { type Tree, type Trees, treeOdds } from '@zubrell/core/propose/habit/sureness';
import { dice } from '@zubrell/core/testing/dice';

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
/** Each tree sees so many of the samples and of the readings: what all agree on is what holds elsewhere. */
const SAMPLES_SEEN = 0.5;
const READINGS_SEEN = 0.6;

/** Samples in the form that trees are grown from. */
interface Grid {
  /** For each reading, the limits between its bins and each sample's bin. */
  readonly edges: readonly (readonly number[])[];
  readonly bins: readonly Uint8Array[];
  /** For each sample, how far it is from what was said, and how much that can be changed. */
  readonly slopes: Float64Array;
  readonly curves: Float64Array;
}

/**
 * Fits trees of a fixed depth to log odds, one after the other, each to what those before leave (stochastic gradient
 * boosting with Newton leaves over binned readings).
 *
 * @param rounds how many trees
 * @returns the same trees for the same samples in the same order
 */
export function boostTrees(samples: readonly Sample[], rounds: number): Trees {
  const throws = dice(7);
  const count = samples.length;
  const width = samples[0]?.read.length ?? 0;
  const edges = Array.from({ length: width }, (_, at) => edgesOf(samples, at));
  const grid: Grid = {
    edges,
    bins: edges.map((own, at) => Uint8Array.from(samples, ({ read }) => binOf(own, read[at] ?? 0))),
    slopes: new Float64Array(count),
    curves: new Float64Array(count),
  };
  const weights = Float64Array.from(samples, ({ weight }) => weight);
  const truths = Uint8Array.from(samples, ({ isRight }) => Number(isRight));
  let all = 0;
  let right = 0;
  for (const [at, weight] of weights.entries()) {
    all += weight;
    right += weight * (truths[at] ?? 0);
  }
  const bias = Math.log(right / (all - right));
  const odds = new Float64Array(count).fill(bias);
  const trees: Tree[] = [];
  for (let round = 0; round < rounds; round += 1) {
    const seen: number[] = [];
    for (let at = 0; at < count; at += 1) {
      if (!throws.chance(SAMPLES_SEEN)) continue;
      seen.push(at);
      const said = 1 / (1 + Math.exp(-(odds[at] ?? 0)));
      grid.slopes[at] = (weights[at] ?? 0) * ((truths[at] ?? 0) - said);
      grid.curves[at] = (weights[at] ?? 0) * said * (1 - said);
    }
    const asked = edges.flatMap((_, at) => (throws.chance(READINGS_SEEN) ? at : []));
    const tree = growTree(grid, Int32Array.from(seen), asked);
    trees.push(tree);
    const alone = { bias: 0, trees: [tree] };
    for (const [at, { read }] of samples.entries())
      odds[at] = (odds[at] ?? 0) + treeOdds(alone, read);
  }
  return { bias: rounded(bias), trees };
}

/** Grows one tree on the samples that it sees. */
function growTree(
  { edges, bins, slopes, curves }: Grid,
  seen: Int32Array,
  asked: readonly number[],
): Tree {
  const nodes = new Uint8Array(seen.length);
  const ownSlopes = Float64Array.from(seen, (at) => slopes[at] ?? 0);
  const ownCurves = Float64Array.from(seen, (at) => curves[at] ?? 0);
  const asks: number[] = [];
  const limits: number[] = [];
  for (let depth = 0; depth < DEPTH; depth += 1) {
    const from = 2 ** depth - 1;
    const width = 2 ** depth;
    const best = Array.from({ length: width }, () => ({ gain: 0, ask: 0, bin: -1 }));
    for (const ask of asked) {
      const sums = new Float64Array(width * BINS * 2);
      const own = bins[ask] ?? new Uint8Array();
      for (let at = 0; at < seen.length; at += 1) {
        const place = (((nodes[at] ?? 0) - from) * BINS + (own[seen[at] ?? 0] ?? 0)) * 2;
        sums[place] = (sums[place] ?? 0) + (ownSlopes[at] ?? 0);
        sums[place + 1] = (sums[place + 1] ?? 0) + (ownCurves[at] ?? 0);
      }
      for (let node = 0; node < width; node += 1) {
        const found = bestLimit(sums.subarray(node * BINS * 2, (node + 1) * BINS * 2));
        const known = best[node];
        if (known && found.gain > known.gain) Object.assign(known, { ...found, ask });
      }
    }
    for (const { ask, bin } of best) {
      asks.push(ask);
      // A node that is not worth parting sends all to one side.
      limits.push(bin < 0 ? -1e9 : (edges[ask]?.[bin] ?? 0));
    }
    for (let at = 0; at < seen.length; at += 1) {
      const node = nodes[at] ?? 0;
      const { ask, bin } = best[node - from] ?? { ask: 0, bin: -1 };
      nodes[at] = 2 * node + ((bins[ask]?.[seen[at] ?? 0] ?? 0) <= bin ? 1 : 2);
    }
  }
  const sums = new Float64Array(2 * (INNER + 1));
  for (let at = 0; at < seen.length; at += 1) {
    const leaf = (nodes[at] ?? 0) - INNER;
    sums[2 * leaf] = (sums[2 * leaf] ?? 0) + (ownSlopes[at] ?? 0);
    sums[2 * leaf + 1] = (sums[2 * leaf + 1] ?? 0) + (ownCurves[at] ?? 0);
  }
  const leaves = Array.from({ length: INNER + 1 }, (_, leaf) =>
    rounded((SHRINK * (sums[2 * leaf] ?? 0)) / ((sums[2 * leaf + 1] ?? 0) + RIDGE)),
  );
  return { asks, limits, leaves };
}

/** Where to part a node's samples, from the slope and curvature in each bin; bin -1 where nowhere. */
function bestLimit(sums: Float64Array): { readonly gain: number; readonly bin: number } {
  let [slope, curve] = [0, 0];
  for (let at = 0; at < sums.length; at += 2) {
    slope += sums[at] ?? 0;
    curve += sums[at + 1] ?? 0;
  }
  const whole = (slope * slope) / (curve + RIDGE);
  const best = { gain: 0, bin: -1 };
  let [left, below] = [0, 0];
  for (let bin = 0; bin < BINS - 1; bin += 1) {
    left += sums[2 * bin] ?? 0;
    below += sums[2 * bin + 1] ?? 0;
    if (below < LEAST_CURVE || curve - below < LEAST_CURVE) continue;
    const gain =
      (left * left) / (below + RIDGE) + (slope - left) ** 2 / (curve - below + RIDGE) - whole;
    if (gain > best.gain) Object.assign(best, { gain, bin });
  }
  return best;
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

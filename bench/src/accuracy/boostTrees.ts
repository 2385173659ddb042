import type { Tree, Trees } from '@zubrell/core/propose/habit/sureness';
import { type Dice, dice } from '@zubrell/core/testing/dice';

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
/** Limits between bins are read from about so many samples. */
const MOST_SORTED = 40_000;
/** What one throw of the dice makes of chance, others don't: all are averaged. */
const DICE = [7, 8, 9];

/** Samples in the form that trees are grown from. */
interface Grid {
  /** For each reading, the limits between its bins. */
  readonly edges: readonly (readonly number[])[];
  /** Each sample's bins, of all its readings one behind the other. */
  readonly bins: Uint8Array;
  /** For each sample, how far it is from what was said, and how much that can be changed. */
  readonly slopes: Float64Array;
  readonly curves: Float64Array;
}

/**
 * Fits trees of a fixed depth to log odds, one after the other, each to what those before leave (stochastic gradient
 * boosting with Newton leaves over binned readings); several times with other dice, averaged (bagging).
 *
 * @param rounds how many trees each time
 * @returns the same trees for the same samples in the same order
 */
export function boostTrees(samples: readonly Sample[], rounds: number): Trees {
  const grid = gridOf(samples);
  const facts: Facts = {
    weights: Float64Array.from(samples, ({ weight }) => weight),
    truths: Uint8Array.from(samples, ({ isRight }) => Number(isRight)),
  };
  const bias = biasOf(facts);
  const trees = DICE.flatMap((die) => boost(grid, facts, { bias, rounds, throws: dice(die) }));
  return {
    bias: rounded(bias),
    trees: trees.map(({ leaves, ...asked }) => ({
      ...asked,
      leaves: leaves.map((leaf) => rounded(leaf / DICE.length)),
    })),
  };
}

/** What is known of samples: how much each counts, and whether it was right. */
interface Facts {
  readonly weights: Float64Array;
  readonly truths: Uint8Array;
}

/** The log odds that any of them is right. */
function biasOf({ weights, truths }: Facts): number {
  let all = 0;
  let right = 0;
  for (const [at, weight] of weights.entries()) {
    all += weight;
    right += weight * (truths[at] ?? 0);
  }
  return Math.log(right / (all - right));
}

function boost(
  grid: Grid,
  { weights, truths }: Facts,
  {
    bias,
    rounds,
    throws,
  }: { readonly bias: number; readonly rounds: number; readonly throws: Dice },
): readonly Tree[] {
  const count = weights.length;
  const odds = new Float64Array(count).fill(bias);
  const trees: Tree[] = [];
  const room = new Int32Array(count);
  for (let round = 0; round < rounds; round += 1) {
    let seen = 0;
    for (let at = 0; at < count; at += 1) {
      if (!throws.chance(SAMPLES_SEEN)) continue;
      room[seen] = at;
      seen += 1;
      const said = 1 / (1 + Math.exp(-(odds[at] ?? 0)));
      grid.slopes[at] = (weights[at] ?? 0) * ((truths[at] ?? 0) - said);
      grid.curves[at] = (weights[at] ?? 0) * said * (1 - said);
    }
    const asked = grid.edges.flatMap((_, at) => (throws.chance(READINGS_SEEN) ? at : []));
    const { tree, splits } = growTree(grid, room.subarray(0, seen), asked);
    trees.push(tree);
    addTo(odds, { grid, splits, leaves: tree.leaves });
  }
  return trees;
}

function gridOf(samples: readonly Sample[]): Grid {
  const count = samples.length;
  const width = samples[0]?.read.length ?? 0;
  const edges = Array.from({ length: width }, (_, at) => edgesOf(samples, at));
  const bins = new Uint8Array(count * width);
  for (const [at, { read }] of samples.entries()) {
    for (const [reading, own] of edges.entries()) {
      bins[at * width + reading] = binOf(own, read[reading] ?? 0);
    }
  }
  return { edges, bins, slopes: new Float64Array(count), curves: new Float64Array(count) };
}

/** Where the inner nodes of a tree part: up to which bin of which reading; bin -1 sends all to one side. */
interface Split {
  readonly ask: number;
  readonly bin: number;
}

/** Adds to each sample's log odds what a tree says of it. */
function addTo(
  odds: Float64Array,
  {
    grid: { bins, edges },
    splits,
    leaves,
  }: {
    readonly grid: Grid;
    readonly splits: readonly Split[];
    readonly leaves: readonly number[];
  },
): void {
  const asks = Uint8Array.from(splits, ({ ask }) => ask);
  const limits = Int8Array.from(splits, ({ bin }) => bin);
  for (let at = 0; at < odds.length; at += 1) {
    const row = at * edges.length;
    let node = 0;
    while (node < INNER) {
      node = 2 * node + ((bins[row + (asks[node] ?? 0)] ?? 0) <= (limits[node] ?? 0) ? 1 : 2);
    }
    odds[at] = (odds[at] ?? 0) + (leaves[node - INNER] ?? 0);
  }
}

/** Samples that stand beside each other in an order, with what they add up to in each bin of each reading asked. */
interface Node {
  readonly from: number;
  readonly to: number;
  readonly sums: Float64Array;
}

/** Grows one tree on samples, which it puts into the order of its leaves. */
function growTree(
  grid: Grid,
  order: Int32Array,
  asked: readonly number[],
): { readonly tree: Tree; readonly splits: readonly Split[] } {
  const splits: Split[] = [];
  const whole = { from: 0, to: order.length };
  let level: readonly Node[] = [{ ...whole, sums: sumsOf(grid, order, { ...whole, asked }) }];
  for (let depth = 0; depth < DEPTH; depth += 1) {
    level = level.flatMap((node) => {
      const split = bestSplit(node.sums, asked);
      splits.push(split);
      const middle = part(grid, order, { node, split });
      return depth === DEPTH - 1
        ? [
            { from: node.from, to: middle, sums: NO_SUMS },
            { from: middle, to: node.to, sums: NO_SUMS },
          ]
        : childrenOf(grid, order, { node, middle, asked });
    });
  }
  const leaves = level.map(({ from, to }) => {
    let [slope, curve] = [0, 0];
    for (const at of order.subarray(from, to)) {
      slope += grid.slopes[at] ?? 0;
      curve += grid.curves[at] ?? 0;
    }
    return (SHRINK * slope) / (curve + RIDGE);
  });
  const tree = {
    asks: splits.map(({ ask }) => ask),
    // A node that is not worth parting sends all to one side.
    limits: splits.map(({ ask, bin }) => (bin < 0 ? -1e9 : (grid.edges[ask]?.[bin] ?? 0))),
    leaves,
  };
  return { tree, splits };
}

const NO_SUMS = new Float64Array();

/** Slopes and curvatures of samples, added up in each bin of each reading asked. */
function sumsOf(
  { edges, bins, slopes, curves }: Grid,
  order: Int32Array,
  { from, to, asked }: Omit<Node, 'sums'> & { readonly asked: readonly number[] },
): Float64Array {
  const sums = new Float64Array(asked.length * BINS * 2);
  for (let at = from; at < to; at += 1) {
    const sample = order[at] ?? 0;
    const row = sample * edges.length;
    const slope = slopes[sample] ?? 0;
    const curve = curves[sample] ?? 0;
    for (let reading = 0; reading < asked.length; reading += 1) {
      const place = (reading * BINS + (bins[row + (asked[reading] ?? 0)] ?? 0)) * 2;
      sums[place] = (sums[place] ?? 0) + slope;
      sums[place + 1] = (sums[place + 1] ?? 0) + curve;
    }
  }
  return sums;
}

/** Where to part a node's samples. */
function bestSplit(sums: Float64Array, asked: readonly number[]): Split {
  let best = { gain: 0, ask: 0, bin: -1 };
  for (const [place, ask] of asked.entries()) {
    const found = bestLimit(sums.subarray(place * BINS * 2, (place + 1) * BINS * 2));
    if (found.gain > best.gain) best = { ...found, ask };
  }
  return best;
}

/** Puts a node's samples in the order of the sides they go to. @returns where the second side begins */
function part(
  { edges, bins }: Grid,
  order: Int32Array,
  { node: { from, to }, split: { ask, bin } }: { readonly node: Node; readonly split: Split },
): number {
  const isBelow = (sample: number) => (bins[sample * edges.length + ask] ?? 0) <= bin;
  const own = order.slice(from, to);
  let middle = from;
  for (const sample of own) {
    if (!isBelow(sample)) continue;
    order[middle] = sample;
    middle += 1;
  }
  let at = middle;
  for (const sample of own) {
    if (isBelow(sample)) continue;
    order[at] = sample;
    at += 1;
  }
  return middle;
}

/** Both sides of a node: the smaller is added up, the other is what is left of the node. */
function childrenOf(
  grid: Grid,
  order: Int32Array,
  {
    node: { from, to, sums },
    middle,
    asked,
  }: { readonly node: Node; readonly middle: number; readonly asked: readonly number[] },
): readonly Node[] {
  const left = { from, to: middle };
  const right = { from: middle, to };
  const isLeftSmaller = middle - from < to - middle;
  const small = sumsOf(grid, order, { ...(isLeftSmaller ? left : right), asked });
  const rest = sums.map((sum, at) => sum - (small[at] ?? 0));
  return [
    { ...left, sums: isLeftSmaller ? small : rest },
    { ...right, sums: isLeftSmaller ? rest : small },
  ];
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
  const step = Math.ceil(samples.length / MOST_SORTED);
  const sorted = new Float64Array(Math.ceil(samples.length / step));
  for (let each = 0; each < sorted.length; each += 1) {
    sorted[each] = samples[each * step]?.read[at] ?? 0;
  }
  sorted.sort();
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

const rounded = (value: number) => Math.round(value * 10_000) / 10_000;

import { aspectsOf, daysOf, type HabitLine, type WordingFeatures } from './features.ts';
import { type Aspects, type Separator, separatorsOf, sideOf } from './separators.ts';

/** What a line was coded to. */
export interface Decided {
  readonly id: string;
  readonly accountId: string;
  readonly payeeId: string | null;
  readonly taxCodeId: string | null;
  /** How much it counts, up to 1: what was posted unread counts less. */
  readonly weight: number;
}

/** A decided line with what comparing needs of it. */
export interface Example extends Decided, Aspects {
  /** The date as days since 1970. */
  readonly day: number;
  /** The natural logarithm of the amount, without its sign. */
  readonly size: number;
}

interface Kept extends Example {
  readonly group: Group;
  readonly cluster: Cluster;
}

/** Decided lines whose wordings differ in numbers only. */
interface Group {
  readonly key: string;
  readonly words: readonly string[];
  readonly features: readonly Feature[];
  /** The places of its features in the tables that queries work on. */
  readonly places: Int32Array;
  /** How telling all its features are together, as long as nothing was learned since. */
  telling: number;
  tellingAt: number;
  /** How many of its lines each cluster has. */
  readonly clusters: Map<Cluster, number>;
  count: number;
  /** The last query that found it, and how alike it was then. */
  foundAt: number;
  likeness: number;
}

/** What was decided on lines of one payee, or where none was named on lines that are alike. */
interface Cluster {
  readonly label: string;
  readonly examples: Kept[];
  /** How many of them went to each account. */
  readonly counts: Map<string, number>;
  /** What is listened to of it, worked out when it is asked for, as long as nothing was learned of it since. */
  heard: Newest | null;
}

/** The newest examples of a cluster, and what weighing needs of them in tables. */
interface Newest {
  readonly examples: readonly Kept[];
  readonly separators: readonly Separator[];
  /** For each example, on which side of each separator it lies: a bit each. */
  readonly sides: Int32Array;
  readonly days: Float64Array;
  readonly sizes: Float64Array;
  readonly weights: Float64Array;
}

/** A word or a sequence of letters, with where it stands. */
interface Feature {
  /** Its place in the tables that queries work on. */
  readonly place: number;
  /** How much it counts beside others of its kind. */
  readonly part: number;
  readonly groups: Set<Group>;
  readonly clusters: Map<Cluster, number>;
  /** The version at which it was last worked out how telling it is. */
  tellingAt: number;
}

/** A cluster that a line may belong to. */
export interface Candidate {
  readonly cluster: Pick<Cluster, 'label' | 'examples' | 'counts'>;
  /** From 0 to 1, how alike the wordings are. */
  readonly likeness: number;
  /** How much of what is telling the most alike wording shares with the line, in words that one payee has. */
  readonly shared: number;
  /** How likely it is this one; all candidates add up to 1. */
  readonly share: number;
}

/** Decided lines in the order in which they were decided, with how much each says about another line. */
export interface Witnesses {
  readonly examples: readonly Example[];
  readonly weights: Float64Array;
  readonly likenesses: Float64Array;
  /** How much each would say if nothing told accounts apart. */
  readonly plainWeights: Float64Array;
  /** For each, how telling the strongest separator is on whose other side it lies; 0 where it lies on none. */
  readonly apart: Float64Array;
  /** On which side of each of the candidate's separators the line lies: a bit each. */
  readonly sides: number;
}

/** Decided lines, found by what their wordings are made of. */
export interface Memory {
  readonly add: (decided: Decided, line: HabitLine, features: WordingFeatures) => void;
  /** Takes a decided line out. @returns what puts it back; undefined where it is not there */
  readonly take: (id: string) => (() => void) | undefined;
  /** Whose lines it may be one of, the likeliest first. */
  readonly candidates: (features: WordingFeatures) => readonly Candidate[];
  /** The decided lines of a candidate, each with how much it says about a line. */
  readonly witnesses: (
    line: HabitLine,
    features: WordingFeatures,
    candidate: Candidate,
  ) => Witnesses;
  /** How many decided lines have a number. */
  readonly timesOfNumber: (number: string) => number;
  /** Those of some words that stand with few payees, or none any more. */
  readonly rareWords: (words: readonly string[]) => readonly string[];
  /** What tells the accounts of a candidate apart. */
  readonly separators: (candidate: Candidate) => readonly Separator[];
  /** Everything that was learned by now, by payee or look-alikes. */
  readonly habits: () => readonly LearnedHabit[];
}

/** What was learned of one payee, or of look-alikes without one. */
export interface LearnedHabit {
  readonly examples: readonly Example[];
  readonly separators: readonly Separator[];
}

/** A sequence of letters counts so much beside a word. */
const GRAM = 0.3;
/** The least that a feature counts which stands with every payee. */
const FLOOR = 0.02;
/** How much sharper likeness is than it looks when clusters are chosen, and among one's lines. */
const SHARP = 11;
const SHARP_WITHIN = 4;
/** After so many days a decision counts half. */
const HALF_LIFE = 45;
/** What is left of a decision's weight where the amount is quite another, and how far another is. */
const AMOUNT_FAR = 0.3;
const AMOUNT_WIDTH = 0.3;
/** What is left of it on another bank account, and in the other direction. */
const OTHER_BANK = 0.2;
const OTHER_SIDE = 0.2;
/** What is left of one odd decision where at least two are about as alike and went elsewhere. */
const ODD = 0.2;
const ABOUT_AS_ALIKE = 0.35;

/** From here on, a line without a payee is taken to be of the same payee as one that is alike. */
const SAME_PAYEE = 0.75;

/** A word that stands with no more payees than this tells who it is. */
const FEW_PAYEES = 3;

const MOST_FEATURES = 12;
const MOST_GROUPS = 100;
const MOST_CLUSTERS = 4;
const MOST_EXAMPLES = 40;
/** Candidates less likely than this say nothing. */
const LEAST_SHARE = 0.03;
/** So many answers are remembered until something is learned. */
const MOST_REMEMBERED = 50_000;

/**
 * Makes an empty memory of decided lines.
 *
 * Likeness is a weighted overlap of words and sequences of four letters (cosine and containment), where a
 * feature counts the less the more payees it stands with; so bank phrases, towns and the like lose their
 * weight by themselves, and cut, joined or misspelt names stay alike.
 */
export function makeMemory(): Memory {
  const features = new Map<string, Feature>();
  const groups = new Map<string, Group>();
  const clusters = new Map<string, Cluster>();
  const kept = new Map<string, Kept>();
  const numbers = new Map<string, number>();
  /** Grows with each change, so that what was worked out before is not used after. */
  let version = 0;
  let query = 0;
  const remembered = new Map<string, readonly FoundCandidate[]>();
  // Tables by the features' places, as most of a query's time goes into reading them.
  /** How telling each feature is, as long as nothing was learned since. */
  let tellings = new Float64Array(1_024);
  /** The last query that each feature is part of. */
  let marks = new Int32Array(1_024);

  function learned(): void {
    version += 1;
    remembered.clear();
  }

  function featureOf(name: string, part: number): Feature {
    const known = features.get(name);
    if (known) return known;
    const place = features.size;
    if (place >= marks.length) {
      tellings = grown(tellings, new Float64Array(2 * place));
      marks = grown(marks, new Int32Array(2 * place));
    }
    const made: Feature = { place, part, groups: new Set(), clusters: new Map(), tellingAt: -1 };
    features.set(name, made);
    return made;
  }

  function tellingOf(feature: Feature): number {
    const { place } = feature;
    if (feature.tellingAt !== version) {
      const rarity = Math.log((clusters.size + 2) / (feature.clusters.size + 0.5)) ** 1.5;
      tellings[place] = Math.max(FLOOR, rarity) * feature.part;
      feature.tellingAt = version;
    }
    return tellings[place] ?? 0;
  }

  function tellingOfAll(group: Group): number {
    if (group.tellingAt !== version) {
      group.telling = 0;
      for (const feature of group.features) group.telling += tellingOf(feature);
      group.tellingAt = version;
    }
    return group.telling;
  }

  function groupOf(of: WordingFeatures): Group {
    const key = keyOf(of);
    const known = groups.get(key);
    if (known) return known;
    const own = [
      ...of.words.map((word) => featureOf(`w${word}`, 1)),
      ...of.grams.map((gram) => featureOf(`g${gram}`, GRAM)),
    ];
    const { words } = of;
    const made: Group = {
      key,
      words,
      features: own,
      places: Int32Array.from(own, ({ place }) => place),
      telling: 0,
      tellingAt: -1,
      clusters: new Map(),
      count: 0,
      foundAt: 0,
      likeness: 0,
    };
    return made;
  }

  function clusterOf(label: string): Cluster {
    const known = clusters.get(label);
    if (known) return known;
    const made: Cluster = { label, examples: [], counts: new Map(), heard: null };
    clusters.set(label, made);
    return made;
  }

  /** The cluster of a line without a payee: that of lines alike, or one of its own. */
  function clusterLike(id: string, of: WordingFeatures): Cluster {
    const same = groups.get(keyOf(of));
    const [first] = same ? [...same.clusters].sort((a, b) => b[1] - a[1]) : [];
    if (first) return first[0];
    const [best] = find(of);
    return best && best.likeness >= SAME_PAYEE ? best.cluster : clusterOf(`·${id}`);
  }

  /** Puts an example in, at the end of its cluster or at a place. */
  function put(example: Kept, place?: number): void {
    learned();
    const { group, cluster } = example;
    kept.set(example.id, example);
    for (const number of example.numbers) raise(numbers, number, 1);
    clusters.set(cluster.label, cluster);
    groups.set(group.key, group);
    cluster.examples.splice(place ?? cluster.examples.length, 0, example);
    raise(cluster.counts, example.accountId, 1);
    cluster.heard = null;
    group.count += 1;
    raise(group.clusters, cluster, 1);
    for (const feature of group.features) {
      feature.groups.add(group);
      raise(feature.clusters, cluster, 1);
    }
  }

  /** Takes an example out. @returns where it stood in its cluster */
  function takeOut(example: Kept): number {
    learned();
    const { group, cluster } = example;
    kept.delete(example.id);
    for (const number of example.numbers) raise(numbers, number, -1);
    const place = cluster.examples.indexOf(example);
    cluster.examples.splice(place, 1);
    raise(cluster.counts, example.accountId, -1);
    cluster.heard = null;
    if (cluster.examples.length === 0) clusters.delete(cluster.label);
    group.count -= 1;
    raise(group.clusters, cluster, -1);
    for (const feature of group.features) raise(feature.clusters, cluster, -1);
    if (group.count === 0) {
      groups.delete(group.key);
      for (const feature of group.features) feature.groups.delete(group);
    }
    return place;
  }

  function find(of: WordingFeatures): readonly FoundCandidate[] {
    query += 1;
    const own: Feature[] = [];
    let whole = 0;
    // What was never seen counts as much as what one payee has.
    const unseen = Math.max(FLOOR, Math.log((clusters.size + 2) / 0.5) ** 1.5);
    const ask = (name: string, part: number): void => {
      const feature = features.get(name);
      if (feature && feature.groups.size > 0) {
        marks[feature.place] = query;
        own.push(feature);
        whole += tellingOf(feature);
      } else whole += unseen * part;
    };
    for (const word of of.words) ask(`w${word}`, 1);
    for (const gram of of.grams) ask(`g${gram}`, GRAM);
    const likenessOf = new Map<Cluster, Found>();
    for (const group of nearGroups(own, groups.get(keyOf(of)))) {
      let shared = 0;
      const { places } = group;
      for (let at = 0; at < places.length; at += 1) {
        const place = places[at] ?? 0;
        if (marks[place] === query) shared += tellings[place] ?? 0;
      }
      const theirs = tellingOfAll(group);
      const cosine = shared / Math.sqrt(whole * theirs || 1);
      const inner = shared / (Math.min(whole, theirs) || 1);
      const likeness = Math.min(1, 0.6 * cosine + 0.4 * inner);
      group.foundAt = query;
      group.likeness = likeness;
      for (const cluster of group.clusters.keys()) {
        const known = likenessOf.get(cluster);
        if (!known) {
          likenessOf.set(cluster, { best: likeness, shared: shared / unseen });
          continue;
        }
        if (likeness <= known.best) continue;
        known.best = likeness;
        known.shared = shared / unseen;
      }
    }
    const ranked = [...likenessOf]
      .sort((a, b) => b[1].best - a[1].best)
      .slice(0, MOST_CLUSTERS)
      .map(([cluster, { best, shared }]) => {
        const often = Math.min(3, cluster.examples.length) ** 0.3;
        return { cluster, likeness: best, shared, share: best ** SHARP * often };
      });
    const total = ranked.reduce((sum, { share }) => sum + share, 0) || 1;
    return ranked
      .filter(({ share }) => share / total >= LEAST_SHARE)
      .map((each): FoundCandidate => {
        const { examples } = newestOf(each.cluster);
        // Lines of groups that were not found are hardly alike.
        const faint = 0.3 * each.likeness;
        const likenesses = Float64Array.from(examples, ({ group }) =>
          group.foundAt === query ? group.likeness : faint,
        );
        const pulls = likenesses.map((likeness) => likeness ** SHARP_WITHIN);
        return { ...each, share: each.share / total, likenesses, pulls };
      });
  }

  return {
    add(decided, line, of) {
      const { id, payeeId } = decided;
      const cluster = payeeId ? clusterOf(payeeId) : clusterLike(id, of);
      const group = groupOf(of);
      put({
        ...decided,
        ...aspectsOf(line, of),
        words: group.words,
        group,
        cluster,
        day: daysOf(line.date),
        size: Math.log(Math.abs(line.amount) + 1),
      });
    },
    take(id) {
      const found = kept.get(id);
      if (!found) return undefined;
      const place = takeOut(found);
      return () => put(found, place);
    },
    candidates(of) {
      const key = keyOf(of);
      const known = remembered.get(key);
      if (known) return known;
      const found = find(of);
      if (remembered.size >= MOST_REMEMBERED) remembered.clear();
      remembered.set(key, found);
      return found;
    },
    timesOfNumber: (number) => numbers.get(number) ?? 0,
    rareWords: (words) =>
      words.filter((word) => (features.get(`w${word}`)?.clusters.size ?? 0) <= FEW_PAYEES),
    separators: (candidate) => newestOf((candidate as FoundCandidate).cluster).separators,
    habits: () =>
      [...clusters.values()].map((cluster) => ({
        examples: [...cluster.examples],
        separators: newestOf(cluster).separators,
      })),
    witnesses(line, of, candidate) {
      const { cluster, likenesses, pulls } = candidate as FoundCandidate;
      const { examples, separators, sides, days, sizes, weights: own } = newestOf(cluster);
      const ours = sidesOf(separators, aspectsOf(line, of));
      const telling = tellingSides(separators, ours);
      const otherSide = separators.map(({ gain }) => (1 - gain) ** 2);
      const day = daysOf(line.date);
      const size = Math.log(Math.abs(line.amount) + 1);
      const isOut = line.amount < 0;
      const weights = new Float64Array(examples.length);
      const plainWeights = new Float64Array(examples.length);
      const apartBy = new Float64Array(examples.length);
      for (let at = 0; at < examples.length; at += 1) {
        const example = examples[at];
        if (!example) continue;
        const apart = (size - (sizes[at] ?? 0)) / AMOUNT_WIDTH;
        const age = Math.max(0, day - (days[at] ?? 0));
        // Farther than that, nothing is left of the kernel.
        const near = apart > 6 || apart < -6 ? 0 : Math.exp(-apart * apart);
        let weight =
          (own[at] ?? 0) *
          (pulls[at] ?? 0) *
          (DECAY[Math.min(age, DECAY.length - 1)] ?? 0) *
          (AMOUNT_FAR + (1 - AMOUNT_FAR) * near);
        if (line.bankAccountId !== example.bankAccountId) weight *= OTHER_BANK;
        if (isOut !== example.amount < 0) weight *= OTHER_SIDE;
        plainWeights[at] = weight;
        for (let other = ((sides[at] ?? 0) ^ ours) & telling; other !== 0; other &= other - 1) {
          const place = 31 - Math.clz32(other & -other);
          weight *= otherSide[place] ?? 1;
          apartBy[at] = Math.max(apartBy[at] ?? 0, separators[place]?.gain ?? 0);
        }
        weights[at] = weight;
      }
      if (cluster.counts.size > 1) {
        lessenOdd(examples, weights);
        lessenBeforeChange(examples, weights);
      }
      return { examples, weights, likenesses, plainWeights, apart: apartBy, sides: ours };
    },
  };
}

/** On which side of each separator something lies: a bit each. */
function sidesOf(separators: readonly Separator[], aspects: Aspects): number {
  let sides = 0;
  for (let place = 0; place < separators.length; place += 1) {
    const separator = separators[place];
    if (separator && sideOf(separator, aspects)) sides |= 1 << place;
  }
  return sides;
}

/** The separators that say something of a line: numbers don't where it has none of them, as it may have a new one. */
function tellingSides(separators: readonly Separator[], ours: number): number {
  let numbers = 0;
  for (let place = 0; place < separators.length; place += 1) {
    if (separators[place]?.kind === 'number') numbers |= 1 << place;
  }
  const all = (1 << separators.length) - 1;
  return (ours & numbers) === 0 ? all & ~numbers : all;
}

/** What is left of a decision after so many days. */
const DECAY = Float64Array.from({ length: 4_000 }, (_, age) => 0.5 ** (age / HALF_LIFE));

/** The decided lines of a cluster that are listened to, with what weighing needs. */
function newestOf(cluster: Cluster): Newest {
  if (cluster.heard) return cluster.heard;
  const all = cluster.examples;
  const separators = cluster.counts.size < 2 ? [] : separatorsOf(all);
  const examples = heardOf(all, separators);
  cluster.heard = {
    examples,
    separators,
    sides: Int32Array.from(examples, (example) => sidesOf(separators, example)),
    days: Float64Array.from(examples, ({ day }) => day),
    sizes: Float64Array.from(examples, ({ size }) => size),
    weights: Float64Array.from(examples, ({ weight }) => weight),
  };
  return cluster.heard;
}

/**
 * Beside the newest, so many of each account, of each wording and account, and of what a separator sets apart are
 * listened to.
 */
const MOST_OF_ACCOUNT = 4;
const MOST_OF_WORDING = 2;
const MOST_OF_SIDE = 4;
const MOST_BESIDE = 60;

/** The newest examples, and of what is rarer the newest few, in the order in which they were decided. */
function heardOf(all: readonly Kept[], separators: readonly Separator[]): readonly Kept[] {
  if (all.length <= MOST_EXAMPLES) return all.slice();
  const from = all.length - MOST_EXAMPLES;
  const beside: Kept[] = [];
  const counts = new Map<string, number>();
  for (let at = all.length - 1; at >= 0 && beside.length < MOST_BESIDE; at -= 1) {
    const example = all[at];
    if (!example) continue;
    const account = (counts.get(example.accountId) ?? 0) + 1;
    const key = `${example.group.key} ${example.accountId}`;
    const wording = (counts.get(key) ?? 0) + 1;
    counts.set(example.accountId, account);
    counts.set(key, wording);
    let isRare = account <= MOST_OF_ACCOUNT || wording <= MOST_OF_WORDING;
    for (const [place, separator] of separators.entries()) {
      if (!sideOf(separator, example)) continue;
      const side = (counts.get(`${place}`) ?? 0) + 1;
      counts.set(`${place}`, side);
      isRare ||= side <= MOST_OF_SIDE;
    }
    if (at < from && isRare) beside.push(example);
  }
  return [...beside.reverse(), ...all.slice(from)];
}

/** How alike a cluster was found to be. */
interface Found {
  best: number;
  shared: number;
}

/** A candidate with how alike each of its newest examples is, and how much it counts for that. */
interface FoundCandidate extends Candidate {
  readonly cluster: Cluster;
  readonly likenesses: Float64Array;
  readonly pulls: Float64Array;
}

/** One odd decision does not outvote several that are about as alike, until a second agrees. */
function lessenOdd(examples: readonly Example[], weights: Float64Array): void {
  const counts = new Map<string, number>();
  for (const { accountId } of examples) raise(counts, accountId, 1);
  if (counts.size < 2) return;
  const lessened: number[] = [];
  examples.forEach(({ accountId }, at) => {
    if (counts.get(accountId) !== 1) return;
    const limit = (weights[at] ?? 0) * ABOUT_AS_ALIKE;
    let against = 0;
    for (let other = 0; other < weights.length; other += 1) {
      if (other !== at && (weights[other] ?? 0) > limit) against += 1;
    }
    if (against >= 2) lessened.push(at);
  });
  for (const at of lessened) weights[at] = (weights[at] ?? 0) * ODD;
}

/** So many of the newest in a row, on an account that had none before, are a change that lasts. */
const LASTING = 3;
/** What is left then of what was decided before. */
const BEFORE_CHANGE = 0.35;

/** Once the newest decisions all went to another account than any before, those before count for less. */
function lessenBeforeChange(examples: readonly Example[], weights: Float64Array): void {
  const account = examples.at(-1)?.accountId;
  const before = examples.findLastIndex(({ accountId }) => accountId !== account);
  const run = examples.length - 1 - before;
  const isNew = examples.slice(0, before + 1).every(({ accountId }) => accountId !== account);
  if (before < 0 || run < LASTING || !isNew) return;
  for (let at = 0; at <= before; at += 1) weights[at] = (weights[at] ?? 0) * BEFORE_CHANGE;
}

/** A table with more room, holding what the smaller one held. */
function grown<Table extends Float64Array | Int32Array>(from: Table, to: Table): Table {
  to.set(from);
  return to;
}

/** The groups that share a line's rarest features. */
function nearGroups(own: readonly Feature[], same: Group | undefined): ReadonlySet<Group> {
  const rare = [...own].sort((a, b) => a.groups.size - b.groups.size);
  const found = new Set<Group>(same ? [same] : []);
  let used = 0;
  for (const { groups } of rare) {
    const isFull = used >= MOST_FEATURES || found.size + groups.size > MOST_GROUPS;
    if (isFull && used > 0) break;
    for (const group of groups) found.add(group);
    used += 1;
  }
  return found;
}

function keyOf({ words }: WordingFeatures): string {
  return words.join(' ');
}

/** Adds to a count; what comes to nothing is forgotten. */
function raise<Key>(counts: Map<Key, number>, key: Key, by: number): void {
  const count = (counts.get(key) ?? 0) + by;
  if (count > 0) counts.set(key, count);
  else counts.delete(key);
}

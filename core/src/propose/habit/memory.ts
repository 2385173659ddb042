import { aspectsOf, daysOf, type HabitLine, type WordingFeatures } from './features.ts';
import { type Heard, hearAll } from './heard.ts';
import type { Aspects, Separator } from './separators.ts';
import { type Asked, type Witnesses, weigh } from './weigh.ts';

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
  /** The last query that came near it, and how alike it was then. */
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
  heard: Heard<Kept> | null;
  /** The last query that found it, and then: how alike its wording is, and what of it is shared. */
  foundAt: number;
  best: number;
  shared: number;
}

/** Where an example stood: in its cluster, and among those that have each of its numbers. */
interface Stood {
  readonly inCluster: number;
  readonly inNumbers: readonly number[];
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

/** Decided lines, found by what their wordings are made of. */
export interface Memory {
  readonly add: (decided: Decided, line: HabitLine, features: WordingFeatures) => void;
  /** Takes a decided line out. @returns what puts it back; undefined where it is not there */
  readonly take: (id: string) => (() => void) | undefined;
  /** Whose lines it may be one of, the likeliest first. */
  readonly candidates: (features: WordingFeatures) => readonly Candidate[];
  /** The decided lines of a candidate, each with how much it says about a line. */
  readonly witnesses: (asked: Asked, candidate: Candidate) => Witnesses;
  /** How many decided lines have a number. */
  readonly timesOfNumber: (number: string) => number;
  /** How many of some words stand in no decided line, as a share of them. */
  readonly unknownWords: (words: readonly string[]) => number;
  /** Those of some words that stand with few payees, or none any more. */
  readonly rareWords: (words: readonly string[]) => readonly string[];
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
/** How much sharper likeness is than it looks when clusters are chosen; among one's lines it counts to the fourth. */
const SHARP = 11;
/** From here on, a line without a payee is taken to be of the same payee as one that is alike. */
const SAME_PAYEE = 0.75;

/** A word that stands with no more payees than this tells who it is. */
const FEW_PAYEES = 3;

/**
 * A number that is at least so long, and of whose length at most this share of all possible ones is known, is hardly
 * met again by chance.
 */
const LONG_NUMBER = 5;
const SPARSE = 0.01;
/** How much of what is missing to being alike such a number makes up for, and how many lines with it are looked at. */
const NUMBER_PULL = 0.6;
const MOST_OF_NUMBER = 4;

const MOST_FEATURES = 12;
const MOST_GROUPS = 100;
const MOST_CLUSTERS = 4;
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
  /** The decided lines that have a number, as most have only one. */
  const numbers = new Map<string, Kept | Kept[]>();
  /** How many different numbers of each length there are. */
  const lengths: number[] = [];
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
    const made: Cluster = {
      label,
      examples: [],
      counts: new Map(),
      heard: null,
      foundAt: 0,
      best: 0,
      shared: 0,
    };
    clusters.set(label, made);
    return made;
  }

  /** The cluster of a line without a payee: that of lines alike, or one of its own. */
  function clusterLike(id: string, of: WordingFeatures): Cluster {
    const same = groups.get(keyOf(of));
    const [first] = same ? [...same.clusters].sort((a, b) => b[1] - a[1]) : [];
    if (first) return first[0];
    const [best] = find(of, tellingNumbers(of.numbers));
    return best && best.likeness >= SAME_PAYEE ? best.cluster : clusterOf(`·${id}`);
  }

  /** Puts an example to those that have a number, at the end or at a place. */
  function addNumber(number: string, example: Kept, place?: number): void {
    const known = numbers.get(number);
    if (known === undefined) {
      lengths[number.length] = (lengths[number.length] ?? 0) + 1;
      numbers.set(number, example);
    } else if (Array.isArray(known)) known.splice(place ?? known.length, 0, example);
    else numbers.set(number, place === 0 ? [example, known] : [known, example]);
  }

  /** Takes an example from those that have a number. @returns where it stood */
  function dropNumber(number: string, example: Kept): number {
    const known = numbers.get(number);
    if (Array.isArray(known)) {
      const place = known.indexOf(example);
      known.splice(place, 1);
      const [last] = known;
      if (known.length === 1 && last) numbers.set(number, last);
      return place;
    }
    numbers.delete(number);
    lengths[number.length] = (lengths[number.length] ?? 0) - 1;
    return 0;
  }

  /** Those of a line's numbers that were seen before, and that chance hardly brings again. */
  function tellingNumbers(of: readonly string[]): readonly string[] {
    return of.filter(
      (number) =>
        number.length >= LONG_NUMBER &&
        numbers.has(number) &&
        (lengths[number.length] ?? 0) < SPARSE * 10 ** number.length,
    );
  }

  /** Puts an example in, at the end of its cluster and its numbers or where it stood. */
  function put(example: Kept, stood?: Stood): void {
    learned();
    const { group, cluster } = example;
    kept.set(example.id, example);
    for (const [at, number] of example.numbers.entries()) {
      addNumber(number, example, stood?.inNumbers[at]);
    }
    clusters.set(cluster.label, cluster);
    groups.set(group.key, group);
    cluster.examples.splice(stood?.inCluster ?? cluster.examples.length, 0, example);
    raise(cluster.counts, example.accountId, 1);
    cluster.heard = null;
    group.count += 1;
    raise(group.clusters, cluster, 1);
    for (const feature of group.features) {
      feature.groups.add(group);
      raise(feature.clusters, cluster, 1);
    }
  }

  /** Takes an example out. @returns where it stood */
  function takeOut(example: Kept): Stood {
    learned();
    const { group, cluster } = example;
    kept.delete(example.id);
    const inNumbers = example.numbers.map((number) => dropNumber(number, example));
    const inCluster = cluster.examples.indexOf(example);
    cluster.examples.splice(inCluster, 1);
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
    return { inCluster, inNumbers };
  }

  function find(of: WordingFeatures, telling: readonly string[]): readonly FoundCandidate[] {
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
    const near = nearGroups(own, groups.get(keyOf(of)), query);
    const numbered = telling.flatMap((number) =>
      keptOf(numbers.get(number)).slice(-MOST_OF_NUMBER),
    );
    for (const { group } of numbered) {
      if (group.foundAt === query) continue;
      group.foundAt = query;
      near.push(group);
    }
    const found: Cluster[] = [];
    for (const group of near) {
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
      group.likeness = likeness;
      for (const cluster of group.clusters.keys()) {
        if (cluster.foundAt === query && likeness <= cluster.best) continue;
        if (cluster.foundAt !== query) found.push(cluster);
        cluster.foundAt = query;
        cluster.best = likeness;
        cluster.shared = shared / unseen;
      }
    }
    for (const cluster of new Set(numbered.map((example) => example.cluster))) {
      cluster.best += NUMBER_PULL * (1 - cluster.best);
    }
    const ranked = found
      .sort((a, b) => b.best - a.best || (a.label < b.label ? -1 : 1))
      .slice(0, MOST_CLUSTERS)
      .map((cluster) => {
        const { best: likeness, shared } = cluster;
        const often = Math.min(3, cluster.examples.length) ** 0.3;
        return { cluster, likeness, shared, share: likeness ** SHARP * often };
      });
    const total = ranked.reduce((sum, { share }) => sum + share, 0) || 1;
    return ranked
      .filter(({ share }) => share / total >= LEAST_SHARE)
      .map((each): FoundCandidate => {
        const { examples } = heardOf(each.cluster);
        // Lines of groups that were not found are hardly alike.
        const faint = 0.3 * each.likeness;
        const likenesses = new Float64Array(examples.length);
        const pulls = new Float64Array(examples.length);
        for (let at = 0; at < examples.length; at += 1) {
          const group = examples[at]?.group;
          const likeness = group?.foundAt === query ? group.likeness : faint;
          const square = likeness * likeness;
          likenesses[at] = likeness;
          pulls[at] = square * square;
        }
        return { ...each, share: each.share / total, likenesses, pulls };
      });
  }

  return {
    add({ id, accountId, payeeId, taxCodeId, weight }, line, of) {
      const cluster = payeeId ? clusterOf(payeeId) : clusterLike(id, of);
      const group = groupOf(of);
      const { amount, bankAccountId, numbers: own, monthDay, weekday } = aspectsOf(line, of);
      // Written out: objects that are put together from others are slow to read.
      put({
        id,
        accountId,
        payeeId,
        taxCodeId,
        weight,
        amount,
        bankAccountId,
        words: group.words,
        numbers: own,
        monthDay,
        weekday,
        day: daysOf(line.date),
        size: Math.log(Math.abs(amount) + 1),
        group,
        cluster,
      });
    },
    take(id) {
      const found = kept.get(id);
      if (!found) return undefined;
      const stood = takeOut(found);
      return () => put(found, stood);
    },
    candidates(of) {
      const telling = tellingNumbers(of.numbers);
      const key = [keyOf(of), ...telling].join('#');
      const known = remembered.get(key);
      if (known) return known;
      const found = find(of, telling);
      if (remembered.size >= MOST_REMEMBERED) remembered.clear();
      remembered.set(key, found);
      return found;
    },
    timesOfNumber: (number) => keptOf(numbers.get(number)).length,
    unknownWords: (words) =>
      words.filter((word) => (features.get(`w${word}`)?.groups.size ?? 0) === 0).length /
      (words.length || 1),
    rareWords: (words) =>
      words.filter((word) => (features.get(`w${word}`)?.clusters.size ?? 0) <= FEW_PAYEES),
    habits: () =>
      [...clusters.values()].map((cluster) => ({
        examples: [...cluster.examples],
        separators: heardOf(cluster).separators,
      })),
    witnesses(asked, candidate) {
      const { cluster, likenesses, pulls } = candidate as FoundCandidate;
      const telling = tellingNumbers(asked.features.numbers);
      return weigh(asked, heardOf(cluster), likenesses, pulls, telling);
    },
  };
}

/** What is listened to of a cluster. */
function heardOf(cluster: Cluster): Heard<Kept> {
  cluster.heard ??= hearAll(cluster.examples, cluster.counts.size > 1);
  return cluster.heard;
}

/** A candidate with how alike each of its newest examples is, and how much it counts for that. */
interface FoundCandidate extends Candidate {
  readonly cluster: Cluster;
  readonly likenesses: Float64Array;
  readonly pulls: Float64Array;
}

/** A table with more room, holding what the smaller one held. */
function grown<Table extends Float64Array | Int32Array>(from: Table, to: Table): Table {
  to.set(from);
  return to;
}

/** The groups that share a line's rarest features, each marked as found by the query. */
function nearGroups(own: readonly Feature[], same: Group | undefined, query: number): Group[] {
  const rare = [...own].sort((a, b) => a.groups.size - b.groups.size);
  const found: Group[] = [];
  const take = (group: Group): void => {
    if (group.foundAt === query) return;
    group.foundAt = query;
    found.push(group);
  };
  if (same) take(same);
  let used = 0;
  for (const { groups } of rare) {
    const isFull = used >= MOST_FEATURES || found.length + groups.size > MOST_GROUPS;
    if (isFull && used > 0) break;
    for (const group of groups) take(group);
    used += 1;
  }
  return found;
}

function keyOf({ words }: WordingFeatures): string {
  return words.join(' ');
}

const keptOf = (known: Kept | readonly Kept[] | undefined): readonly Kept[] =>
  known === undefined ? [] : 'id' in known ? [known] : known;

/** Adds to a count; what comes to nothing is forgotten. */
function raise<Key>(counts: Map<Key, number>, key: Key, by: number): void {
  const count = (counts.get(key) ?? 0) + by;
  if (count > 0) counts.set(key, count);
  else counts.delete(key);
}

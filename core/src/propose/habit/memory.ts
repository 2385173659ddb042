import { aspectsOf, daysOf, type HabitLine, type WordingFeatures } from './features.ts';
import { COLUMNS, type Heard, hearAll, WORDING } from './heard.ts';
import type { Aspects, Separator } from './separators.ts';
import { type Asked, roomForWeights, type Witnesses, weigh } from './weigh.ts';
import { keyOf, makeWordings, raise } from './wordings.ts';

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
  /** The place of its wording; lines whose wordings differ in numbers only have the same. */
  readonly wording: number;
}

interface Kept extends Example {
  readonly cluster: Cluster;
}

/** What was decided on lines of one payee, or where none was named on lines that are alike. */
interface Cluster {
  readonly label: string;
  /** Its place among all; it keeps it, also when it has no lines any more. */
  readonly place: number;
  readonly examples: Kept[];
  /** How many of them went to each account. */
  readonly counts: Map<string, number>;
  /** What is listened to of it, worked out when it is asked for, as long as nothing was learned of it since. */
  heard: Heard<Kept> | null;
}

/** Where an example stood: in its cluster, and among those that have each of its numbers. */
interface Stood {
  readonly inCluster: number;
  readonly inNumbers: readonly number[];
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
  /** The decided lines of a candidate, each with how much it says about a line: until the next are asked for. */
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

const MOST_CLUSTERS = 4;
/** Candidates less likely than this say nothing. */
const LEAST_SHARE = 0.03;
/** So many answers are remembered until something is learned. */
const MOST_REMEMBERED = 25_000;

/** Makes an empty memory of decided lines. */
export function makeMemory(): Memory {
  const wordings = makeWordings();
  const clusters = new Map<string, Cluster>();
  const byPlace: Cluster[] = [];
  const kept = new Map<string, Kept>();
  /** The decided lines that have a number, as most have only one. */
  const numbers = new Map<string, Kept | Kept[]>();
  /** How many different numbers of each length there are. */
  const lengths: number[] = [];
  const remembered = new Map<string, readonly FoundCandidate[]>();
  const room = roomForWeights();
  /** Whose weights stand in the room. */
  let last: { asked: Asked; candidate: Candidate; witnesses: Witnesses } | null = null;

  function learned(): void {
    remembered.clear();
    last = null;
  }

  function clusterOf(label: string): Cluster {
    const known = clusters.get(label);
    if (known) return known;
    const place = byPlace.length;
    const made: Cluster = { label, place, examples: [], counts: new Map(), heard: null };
    clusters.set(label, made);
    byPlace.push(made);
    return made;
  }

  /** The cluster of a line without a payee: that of lines alike, or one of its own. */
  function clusterLike(id: string, of: WordingFeatures): Cluster {
    const same = wordings.find(of);
    if (same !== undefined) {
      const [first] = [...wordings.clustersOf(same)].sort((a, b) => b[1] - a[1]);
      const cluster = first && byPlace[first[0]];
      if (cluster) return cluster;
    }
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
    const { wording, cluster } = example;
    kept.set(example.id, example);
    for (const [at, number] of example.numbers.entries()) {
      addNumber(number, example, stood?.inNumbers[at]);
    }
    cluster.examples.splice(stood?.inCluster ?? cluster.examples.length, 0, example);
    raise(cluster.counts, example.accountId, 1);
    cluster.heard = null;
    wordings.count(wording, cluster.place, 1);
  }

  /** Takes an example out. @returns where it stood */
  function takeOut(example: Kept): Stood {
    learned();
    const { wording, cluster } = example;
    kept.delete(example.id);
    const inNumbers = example.numbers.map((number) => dropNumber(number, example));
    const inCluster = cluster.examples.indexOf(example);
    cluster.examples.splice(inCluster, 1);
    raise(cluster.counts, example.accountId, -1);
    cluster.heard = null;
    wordings.count(wording, cluster.place, -1);
    return { inCluster, inNumbers };
  }

  function find(of: WordingFeatures, telling: readonly string[]): readonly FoundCandidate[] {
    const numbered = telling.flatMap((number) =>
      keptOf(numbers.get(number)).slice(-MOST_OF_NUMBER),
    );
    const alike = wordings.search(
      of,
      numbered.map(({ wording }) => wording),
    );
    const pulled = new Set(numbered.map(({ cluster }) => cluster.place));
    const likenessOf = (cluster: number): number => {
      const best = alike.best(cluster);
      return pulled.size > 0 && pulled.has(cluster) ? best + NUMBER_PULL * (1 - best) : best;
    };
    const ranked: Ranked[] = [];
    let least = 0;
    for (const place of alike.clusters) {
      const likeness = likenessOf(place);
      const cluster = byPlace[place];
      if (likeness < least || !cluster) continue;
      rankIn(ranked, { cluster, likeness });
      if (ranked.length === MOST_CLUSTERS) least = ranked[MOST_CLUSTERS - 1]?.likeness ?? 0;
    }
    let total = 0;
    const shares = ranked.map(({ cluster, likeness }) => {
      const often = Math.min(3, cluster.examples.length) ** 0.3;
      const share = likeness ** SHARP * often;
      total += share;
      return share;
    });
    return ranked.flatMap(({ cluster, likeness }, at): FoundCandidate[] => {
      const share = (shares[at] ?? 0) / (total || 1);
      if (share < LEAST_SHARE) return [];
      const { examples, table } = heardOf(cluster);
      // Lines of wordings that were not found are hardly alike.
      const faint = 0.3 * likeness;
      const likenesses: number[] = [];
      for (let place = 0; place < examples.length; place += 1) {
        const wording = table[place * COLUMNS + WORDING] ?? 0;
        likenesses.push(alike.likeness(wording) ?? faint);
      }
      return [{ cluster, likeness, shared: alike.shared(cluster.place), share, likenesses }];
    });
  }

  return {
    add({ id, accountId, payeeId, taxCodeId, weight }, line, of) {
      const cluster = payeeId ? clusterOf(payeeId) : clusterLike(id, of);
      const wording = wordings.know(of);
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
        wording,
        words: wordings.wordsOf(wording),
        numbers: own,
        monthDay,
        weekday,
        day: daysOf(line.date),
        size: Math.log(Math.abs(amount) + 1),
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
    unknownWords(words) {
      let unknown = 0;
      for (const word of words) if (!wordings.isKnownWord(word)) unknown += 1;
      return unknown / (words.length || 1);
    },
    rareWords: (words) => words.filter((word) => wordings.clustersOfWord(word) <= FEW_PAYEES),
    habits: () =>
      byPlace
        .filter(({ examples }) => examples.length > 0)
        .map((cluster) => ({
          examples: [...cluster.examples],
          separators: heardOf(cluster).separators,
        })),
    witnesses(asked, candidate) {
      if (last?.asked === asked && last.candidate === candidate) return last.witnesses;
      const { cluster, likenesses } = candidate as FoundCandidate;
      const telling = tellingNumbers(asked.features.numbers);
      const witnesses = weigh(asked, heardOf(cluster), likenesses, telling, room);
      last = { asked, candidate, witnesses };
      return witnesses;
    },
  };
}

/** What is listened to of a cluster. */
function heardOf(cluster: Cluster): Heard<Kept> {
  cluster.heard ??= hearAll(cluster.examples, cluster.counts.size > 1);
  return cluster.heard;
}

/** A candidate with how alike each of the examples is that are listened to. */
interface FoundCandidate extends Candidate {
  readonly cluster: Cluster;
  readonly likenesses: readonly number[];
}

/** A cluster with how alike it is. */
interface Ranked {
  readonly cluster: Cluster;
  readonly likeness: number;
}

/** Puts one to its place among the most alike, where it is one of these. */
function rankIn(ranked: Ranked[], one: Ranked): void {
  let at = ranked.length;
  while (at > 0 && isBefore(one, ranked[at - 1])) at -= 1;
  if (at === MOST_CLUSTERS) return;
  ranked.splice(at, 0, one);
  if (ranked.length > MOST_CLUSTERS) ranked.pop();
}

function isBefore(one: Ranked, other: Ranked | undefined): boolean {
  if (!other || one.likeness !== other.likeness) return one.likeness > (other?.likeness ?? 0);
  return one.cluster.label < other.cluster.label;
}

const keptOf = (known: Kept | readonly Kept[] | undefined): readonly Kept[] =>
  known === undefined ? [] : 'id' in known ? [known] : known;

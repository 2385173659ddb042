import type { AccountId, PayeeId, TaxCodeId } from '../../ids.ts';
import { countTexts } from '../../text/packedTexts.ts';
import { aspectsOf, daysOf, type HabitLine, type WordingFeatures } from './features.ts';
import { COLUMNS, type Heard, hearAll, WORDING } from './heard.ts';
import { type MemoryState, readExamples, saveExamples, sizeOf } from './memoryState.ts';
import type { Aspects, Separator } from './separators.ts';
import { type Asked, roomForWeights, type Witnesses, weigh } from './weigh.ts';
import { keyOf, makeWordings, raise } from './wordings.ts';

/** What a line was coded to. */
export interface Decided {
  readonly id: string;
  /** Whose it is, by {@link labelOf}. */
  readonly label: string;
  /** Its place among the lines of its day, a whole number. */
  readonly position: number;
  readonly accountId: AccountId;
  readonly payeeId: PayeeId | null;
  readonly taxCodeId: TaxCodeId | null;
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
  /** Where it was saved; -1 where it came since. */
  readonly row: number;
}

/** What was decided on lines of one payee, or where none was named on lines that are alike. */
interface Cluster {
  readonly label: string;
  /** Its place among all; it keeps it, also when it has no lines any more. */
  readonly place: number;
  /** In the order of time; those that were saved are read when the cluster is first looked at. */
  readonly examples: Kept[];
  isRead: boolean;
  /** How many of them went to each account. */
  readonly counts: Map<string, number>;
  /** What is listened to of it, worked out when it is asked for, as long as nothing was learned of it since. */
  heard: Heard<Kept> | null;
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

/**
 * Decided lines, found by what their wordings are made of. What it holds and says depends on which lines it was given,
 * not on when: they are in the order of their days, positions and ids.
 */
export interface Memory {
  readonly add: (decided: Decided, line: HabitLine, features: WordingFeatures) => void;
  /** Takes a decided line out, where it is there. @returns what puts it back */
  readonly take: (id: string) => (() => void) | undefined;
  /** How many decided lines there are. */
  readonly size: () => number;
  /** All of it, as plain data from which another can be made. */
  readonly save: () => MemoryState;
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
  /** Whose habits there are, by {@link labelOf}, each with how many lines; none of these is read for it. */
  readonly sizes: () => readonly { readonly label: string; readonly times: number }[];
  /** What was learned of one payee or of look-alikes; null where nothing is. */
  readonly habit: (label: string) => LearnedHabit | null;
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

/** Whose a decided line is: its payee's, or where it has none, of those whose wordings have the same in common. */
export function labelOf(payeeId: PayeeId | null, stem: string): string {
  return payeeId ?? `· ${stem}`;
}

/** Makes a memory of decided lines, empty or with what was saved. */
export function makeMemory(state?: MemoryState): Memory {
  const wordings = makeWordings(
    state && {
      state: state.wordings,
      wordings: state.columns.wording,
      clusters: state.columns.label,
    },
  );
  const saved = state && readExamples(state, wordings);
  const clusters = new Map<string, Cluster>();
  const byPlace: Cluster[] = [];
  let size = state ? countTexts(state.ids) : 0;
  /** Those of clusters that were read, and of them those that were saved, by their rows. */
  const kept = new Map<string, Kept>();
  const keptOfRow: (Kept | undefined)[] = [];
  const isGone = new Uint8Array(size);
  /** Of lines that were not saved those that have a number, as most have only one; and how many saved ones are gone. */
  const numbers = new Map<string, Kept | Kept[]>();
  const gone = new Map<string, number>();
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
    return known ? read(known) : makeCluster(label, true);
  }

  function makeCluster(label: string, isRead: boolean): Cluster {
    const place = byPlace.length;
    const made: Cluster = { label, place, examples: [], isRead, counts: new Map(), heard: null };
    clusters.set(label, made);
    byPlace.push(made);
    return made;
  }

  /** A cluster with its lines that were saved. */
  function read(cluster: Cluster): Cluster {
    if (cluster.isRead || !saved) return cluster;
    cluster.isRead = true;
    const [from, to] = saved.rowsOf(cluster.place);
    for (let row = from; row < to; row += 1) {
      const example: Kept = Object.assign(saved.read(row), { cluster, row });
      keptOfRow[row] = example;
      kept.set(example.id, example);
      cluster.examples.push(example);
      raise(cluster.counts, example.accountId, 1);
    }
    return cluster;
  }

  /** How many lines a cluster has, read or not. */
  function sizeOfCluster({ isRead, place, examples }: Cluster): number {
    if (isRead || !saved) return examples.length;
    const [from, to] = saved.rowsOf(place);
    return to - from;
  }

  const habitOf = (cluster: Cluster): LearnedHabit => ({
    examples: [...cluster.examples],
    separators: heardOf(cluster).separators,
  });

  /** A decided line, read if it was saved. */
  function find(id: string): Kept | undefined {
    const known = kept.get(id);
    const row = known || !saved ? undefined : saved.rowOf(id);
    if (row === undefined) return known;
    const cluster = byPlace[saved?.labelOf(row) ?? 0];
    // Of a cluster that was read before it was taken out.
    if (!cluster || cluster.isRead) return undefined;
    read(cluster);
    return kept.get(id);
  }

  /** How many decided lines have a number. */
  function timesOf(number: string): number {
    const ofSaved = saved ? saved.rowsWith(number).length - (gone.get(number) ?? 0) : 0;
    return ofSaved + keptOf(numbers.get(number)).length;
  }

  /** The newest few of the decided lines that have a number. */
  function newestWith(number: string): readonly Kept[] {
    const since = keptOf(numbers.get(number));
    if (!saved) return since.slice(-MOST_OF_NUMBER);
    const rows = saved.rowsWith(number).filter((row) => isGone[row] === 0);
    const newest = saved.newestOf(rows, MOST_OF_NUMBER).flatMap((row) => {
      const cluster = byPlace[saved.labelOf(row)];
      if (cluster) read(cluster);
      return keptOfRow[row] ?? [];
    });
    return [...newest, ...since].sort((a, b) => (isEarlier(a, b) ? -1 : 1)).slice(-MOST_OF_NUMBER);
  }

  function addNumber(number: string, example: Kept): void {
    if (timesOf(number) === 0) countLength(number.length, 1);
    const known = numbers.get(number);
    if (example.row >= 0) raise(gone, number, -1);
    else if (known === undefined) numbers.set(number, example);
    else if (Array.isArray(known)) putInOrder(known, example);
    else numbers.set(number, isEarlier(example, known) ? [example, known] : [known, example]);
  }

  function dropNumber(number: string, example: Kept): void {
    const known = numbers.get(number);
    if (example.row >= 0) raise(gone, number, 1);
    else if (Array.isArray(known) && known.length > 1) known.splice(known.indexOf(example), 1);
    else numbers.delete(number);
    if (timesOf(number) === 0) countLength(number.length, -1);
  }

  function countLength(length: number, by: 1 | -1): void {
    lengths[length] = (lengths[length] ?? 0) + by;
  }

  /** Those of a line's numbers that were seen before, and that chance hardly brings again. */
  function tellingNumbers(of: readonly string[]): readonly string[] {
    return of.filter(
      (number) =>
        number.length >= LONG_NUMBER &&
        timesOf(number) > 0 &&
        (lengths[number.length] ?? 0) < SPARSE * 10 ** number.length,
    );
  }

  function put(example: Kept): void {
    learned();
    const { cluster } = example;
    for (const number of example.numbers) addNumber(number, example);
    if (example.row >= 0) isGone[example.row] = 0;
    kept.set(example.id, example);
    putInOrder(cluster.examples, example);
    raise(cluster.counts, example.accountId, 1);
    cluster.heard = null;
    size += 1;
    wordings.count(example.wording, cluster.place, 1);
  }

  function takeOut(example: Kept): void {
    learned();
    const { wording, cluster } = example;
    for (const number of example.numbers) dropNumber(number, example);
    if (example.row >= 0) isGone[example.row] = 1;
    kept.delete(example.id);
    cluster.examples.splice(cluster.examples.indexOf(example), 1);
    raise(cluster.counts, example.accountId, -1);
    cluster.heard = null;
    size -= 1;
    wordings.count(wording, cluster.place, -1);
  }

  function search(of: WordingFeatures, telling: readonly string[]): readonly FoundCandidate[] {
    const numbered = telling.flatMap(newestWith);
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
      const often = Math.min(3, read(cluster).examples.length) ** 0.3;
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

  for (const label of saved?.labels ?? []) makeCluster(label, false);
  for (const length of saved?.numberLengths() ?? []) countLength(length, 1);
  return {
    add(decided, line, of) {
      const { amount, bankAccountId, numbers: own, monthDay, weekday } = aspectsOf(line, of);
      const wording = wordings.know(of);
      // Written out: objects that are put together from others are slow to read.
      put({
        id: decided.id,
        label: decided.label,
        position: decided.position,
        accountId: decided.accountId,
        payeeId: decided.payeeId,
        taxCodeId: decided.taxCodeId,
        weight: decided.weight,
        amount,
        bankAccountId,
        wording,
        words: wordings.wordsOf(wording),
        numbers: own,
        monthDay,
        weekday,
        day: daysOf(line.date),
        size: sizeOf(amount),
        cluster: clusterOf(decided.label),
        row: -1,
      });
    },
    take(id) {
      const found = find(id);
      if (!found) return undefined;
      takeOut(found);
      return () => put(found);
    },
    size: () => size,
    save: () =>
      saveExamples(
        byPlace.flatMap((cluster) => read(cluster).examples),
        wordings.save(),
      ),
    candidates(of) {
      const telling = tellingNumbers(of.numbers);
      const key = [keyOf(of), ...telling].join('#');
      const known = remembered.get(key);
      if (known) return known;
      const found = search(of, telling);
      if (remembered.size >= MOST_REMEMBERED) remembered.clear();
      remembered.set(key, found);
      return found;
    },
    timesOfNumber: timesOf,
    unknownWords(words) {
      let unknown = 0;
      for (const word of words) if (!wordings.isKnownWord(word)) unknown += 1;
      return unknown / (words.length || 1);
    },
    rareWords: (words) => words.filter((word) => wordings.clustersOfWord(word) <= FEW_PAYEES),
    sizes: () =>
      byPlace
        .map((cluster) => ({ label: cluster.label, times: sizeOfCluster(cluster) }))
        .filter(({ times }) => times > 0),
    habit(label) {
      const cluster = clusters.get(label);
      return cluster && sizeOfCluster(cluster) > 0 ? habitOf(read(cluster)) : null;
    },
    habits: () => byPlace.filter((cluster) => read(cluster).examples.length > 0).map(habitOf),
    witnesses(asked, candidate) {
      if (last?.asked === asked && last.candidate === candidate) return last.witnesses;
      const { cluster, likenesses } = candidate as FoundCandidate;
      const telling = tellingNumbers(asked.features.numbers);
      const witnesses = weigh(asked, heardOf(cluster), { likenesses, numbers: telling }, room);
      last = { asked, candidate, witnesses };
      return witnesses;
    },
  };
}

function isEarlier(a: Example, b: Example): boolean {
  if (a.day !== b.day) return a.day < b.day;
  if (a.position !== b.position) return a.position < b.position;
  return a.id < b.id;
}

/** Puts an example to its place among others; most are newer than all. */
function putInOrder(examples: Kept[], example: Kept): void {
  let at = examples.length;
  while (at > 0 && isEarlier(example, examples[at - 1] ?? example)) at -= 1;
  if (at === examples.length) examples.push(example);
  else examples.splice(at, 0, example);
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

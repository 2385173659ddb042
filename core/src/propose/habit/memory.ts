import {
  aspectsOf,
  daysOf,
  type HabitLine,
  monthDayOf,
  type WordingFeatures,
  weekdayOf,
} from './features.ts';
import { COLUMNS, type Heard, hearAll, WORDING } from './heard.ts';
import type { Aspects, Separator } from './separators.ts';
import { type Asked, roomForWeights, type Witnesses, weigh } from './weigh.ts';
import { keyOf, makeWordings, raise, type WordingsState } from './wordings.ts';

/** What a line was coded to. */
export interface Decided {
  readonly id: string;
  /** Whose it is, by {@link labelOf}. */
  readonly label: string;
  /** Its place among the lines of its day, a whole number. */
  readonly position: number;
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
  /** In the order of time. */
  readonly examples: Kept[];
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
  /** Everything that was learned by now, by payee or look-alikes. */
  readonly habits: () => readonly LearnedHabit[];
}

/** A memory as plain data: lists, and tables with a place for each decided line, in their order. */
export interface MemoryState {
  readonly wordings: WordingsState;
  readonly ids: readonly string[];
  /** The dates as days since 1970. */
  readonly days: Int32Array;
  readonly positions: Int32Array;
  /** In minor units. */
  readonly amounts: Float64Array;
  readonly weights: Float64Array;
  /** The place of each in the lists and wordings that follow. */
  readonly columns: Readonly<Record<ListColumn | 'wording', Int32Array>>;
  readonly lists: Readonly<Record<ListColumn, readonly (string | null)[]>>;
  /** Where the numbers of each line start in `numbers`, which are places in `numberNames`. */
  readonly numberStarts: Int32Array;
  readonly numbers: Int32Array;
  readonly numberNames: readonly string[];
}

type ListColumn = 'label' | 'accountId' | 'payeeId' | 'taxCodeId' | 'bankAccountId';

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
export function labelOf(payeeId: string | null, stem: string): string {
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

  function addNumber(number: string, example: Kept): void {
    const known = numbers.get(number);
    if (known === undefined) {
      lengths[number.length] = (lengths[number.length] ?? 0) + 1;
      numbers.set(number, example);
    } else if (Array.isArray(known)) putInOrder(known, example);
    else numbers.set(number, isEarlier(example, known) ? [example, known] : [known, example]);
  }

  function dropNumber(number: string, example: Kept): void {
    const known = numbers.get(number);
    if (Array.isArray(known)) {
      known.splice(known.indexOf(example), 1);
      const [last] = known;
      if (known.length === 1 && last) numbers.set(number, last);
      return;
    }
    numbers.delete(number);
    lengths[number.length] = (lengths[number.length] ?? 0) - 1;
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

  /** Puts an example in, all but into the wordings. */
  function place(example: Kept): void {
    const { cluster } = example;
    kept.set(example.id, example);
    for (const number of example.numbers) addNumber(number, example);
    putInOrder(cluster.examples, example);
    raise(cluster.counts, example.accountId, 1);
    cluster.heard = null;
  }

  function put(example: Kept): void {
    learned();
    place(example);
    wordings.count(example.wording, example.cluster.place, 1);
  }

  function takeOut(example: Kept): void {
    learned();
    const { wording, cluster } = example;
    kept.delete(example.id);
    for (const number of example.numbers) dropNumber(number, example);
    cluster.examples.splice(cluster.examples.indexOf(example), 1);
    raise(cluster.counts, example.accountId, -1);
    cluster.heard = null;
    wordings.count(wording, cluster.place, -1);
  }

  function begin({ lists, columns, ...saved }: MemoryState): void {
    for (const label of lists.label) clusterOf(label ?? '');
    for (const [at, id] of saved.ids.entries()) {
      const wording = columns.wording[at] ?? 0;
      const day = saved.days[at] ?? 0;
      const amount = saved.amounts[at] ?? 0;
      const cluster = byPlace[columns.label[at] ?? 0];
      if (!cluster) continue;
      const own: string[] = [];
      for (let of = saved.numberStarts[at] ?? 0; of < (saved.numberStarts[at + 1] ?? 0); of += 1) {
        own.push(saved.numberNames[saved.numbers[of] ?? 0] ?? '');
      }
      place({
        id,
        label: cluster.label,
        position: saved.positions[at] ?? 0,
        accountId: lists.accountId[columns.accountId[at] ?? 0] ?? '',
        payeeId: lists.payeeId[columns.payeeId[at] ?? 0] ?? null,
        taxCodeId: lists.taxCodeId[columns.taxCodeId[at] ?? 0] ?? null,
        weight: saved.weights[at] ?? 0,
        amount,
        bankAccountId: lists.bankAccountId[columns.bankAccountId[at] ?? 0] ?? '',
        wording,
        words: wordings.wordsOf(wording),
        numbers: own,
        monthDay: monthDayOf(day),
        weekday: weekdayOf(day),
        day,
        size: sizeOf(amount),
        cluster,
      });
    }
  }

  function save(): MemoryState {
    const all = [...kept.values()].sort((a, b) => (isEarlier(a, b) ? -1 : 1));
    const { state: savedWordings, placeOf } = wordings.save();
    const int32 = (of: (example: Kept) => number) => Int32Array.from(all, of);
    const label = listed(all, (example) => example.label);
    const accountId = listed(all, (example) => example.accountId);
    const payeeId = listed(all, (example) => example.payeeId);
    const taxCodeId = listed(all, (example) => example.taxCodeId);
    const bankAccountId = listed(all, (example) => example.bankAccountId);
    const ofNumbers = listed(
      all.flatMap((example) => example.numbers),
      (number) => number,
    );
    const numberStarts = new Int32Array(all.length + 1);
    for (const [at, example] of all.entries()) {
      numberStarts[at + 1] = (numberStarts[at] ?? 0) + example.numbers.length;
    }
    return {
      wordings: savedWordings,
      ids: all.map(({ id }) => id),
      days: int32(({ day }) => day),
      positions: int32(({ position }) => position),
      amounts: Float64Array.from(all, ({ amount }) => amount),
      weights: Float64Array.from(all, ({ weight }) => weight),
      columns: {
        label: label.places,
        accountId: accountId.places,
        payeeId: payeeId.places,
        taxCodeId: taxCodeId.places,
        bankAccountId: bankAccountId.places,
        wording: int32(({ wording }) => placeOf[wording] ?? 0),
      },
      lists: {
        label: label.list,
        accountId: accountId.list,
        payeeId: payeeId.list,
        taxCodeId: taxCodeId.list,
        bankAccountId: bankAccountId.list,
      },
      numberStarts,
      numbers: ofNumbers.places,
      numberNames: ofNumbers.list,
    };
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

  if (state) begin(state);
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
      });
    },
    take(id) {
      const found = kept.get(id);
      if (!found) return undefined;
      takeOut(found);
      return () => put(found);
    },
    size: () => kept.size,
    save,
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

/** The natural logarithm of an amount, without its sign. */
function sizeOf(amount: number): number {
  return Math.log(Math.abs(amount) + 1);
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

/** A list of the different values of a column, and the place in it for each row. */
function listed<Row, Value>(
  rows: readonly Row[],
  of: (row: Row) => Value,
): { readonly list: readonly Value[]; readonly places: Int32Array } {
  const known = new Map<Value, number>();
  const places = Int32Array.from(rows, (row) => {
    const value = of(row);
    const place = known.get(value) ?? known.size;
    known.set(value, place);
    return place;
  });
  return { list: [...known.keys()], places };
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

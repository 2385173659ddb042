import type { WordingFeatures } from './features.ts';

/**
 * The wordings of decided lines, found by the words and sequences of letters that they share with another one. All
 * lines whose wordings differ in numbers only are of one wording. Wordings and clusters (who was paid) are given by
 * their places; a wording once known keeps its place, also when no line has it any more.
 */
export interface Wordings {
  /** The place of a wording, from now on. */
  readonly know: (of: WordingFeatures) => number;
  /** The words of a wording: one list for all lines that have it. */
  readonly wordsOf: (wording: number) => readonly string[];
  /** One line more (1) or less (-1) of a cluster has a wording. */
  readonly count: (wording: number, cluster: number, by: 1 | -1) => void;
  /** Looks for what is alike. @param beside wordings that are compared as well */
  readonly search: (of: WordingFeatures, beside: readonly number[]) => Alike;
  /** With how many clusters a word stands, and whether some line has it. */
  readonly clustersOfWord: (word: string) => number;
  readonly isKnownWord: (word: string) => boolean;
  /** Everything that wordings with lines are made of. */
  readonly save: () => SavedWordings;
}

/** Wordings as plain data, by places that they have only there. */
export interface WordingsState {
  /** The words and sequences of letters that they are made of, and whether each is a word. */
  readonly names: readonly string[];
  readonly isWord: Uint8Array;
  /** By wording: its words as one text. */
  readonly keys: readonly string[];
  /** By wording: where its features start in `pool`, its words first; the last is where all end. */
  readonly starts: Int32Array;
  readonly pool: Int32Array;
}

/** What was saved, and by the place that a wording has the one that it has there. */
export interface SavedWordings {
  readonly state: WordingsState;
  readonly placeOf: Int32Array;
}

/** Wordings to begin with: as they were saved, and for each decided line its wording and its cluster. */
export interface HeldWordings {
  readonly state: WordingsState;
  readonly wordings: Int32Array;
  readonly clusters: Int32Array;
}

/** What a search found, as long as there was no other. */
export interface Alike {
  readonly clusters: readonly number[];
  /** From 0 to 1, how alike the most alike wording of a cluster is that was found. */
  readonly best: (cluster: number) => number;
  /** How much of what is telling it shares, in words that one cluster has. */
  readonly shared: (cluster: number) => number;
  /** How alike a wording is; undefined where it was not found. */
  readonly likeness: (wording: number) => number | undefined;
}

/** A sequence of letters counts so much beside a word. */
const GRAM = 0.3;
/** The least that a feature counts which stands with every cluster. */
const FLOOR = 0.02;
const MOST_ASKED = 500;
const MOST_FEATURES = 12;
const MOST_WORDINGS = 100;
const NONE = new Int32Array(0);
/** Stands for a wording that several clusters have, or none. */
const NOT_ONE = -1;

/**
 * Makes a store of wordings, empty or with what was saved.
 *
 * Likeness is a weighted overlap of words and sequences of four letters (cosine and containment), where a
 * feature counts the less the more clusters it stands with; so bank phrases, towns and the like lose their
 * weight by themselves, and cut, joined or misspelt names stay alike.
 */
export function makeWordings(held?: HeldWordings): Wordings {
  // All that a search reads lies in tables by place: its time goes into fetching from memory.
  const words = new Map<string, number>();
  const grams = new Map<string, number>();
  /** By feature: the wordings that have it, those that were saved and those since, and how many of them have lines. */
  const heldWith: Int32Array[] = [];
  const sinceWith: (number[] | undefined)[] = [];
  let spread = new Int32Array(1_024);
  let clustersWith = new Int32Array(1_024);
  let parts = new Float64Array(1_024);
  /** Which of the asked features each is, from 1 on; 0 between searches and for all others. Short, to stay at hand. */
  let asked = new Uint16Array(1_024);
  /** How telling each of them is; those beyond so many say nothing new. The first stands for all that are not asked. */
  const askedTellings = new Float64Array(MOST_ASKED + 1);

  const places = new Map<string, number>();
  /** By wording: its words, once they are asked for, and its features' places in `pool` from a start on. */
  const wordLists: (readonly string[] | undefined)[] = [];
  let starts = new Int32Array(1_024);
  let pool = new Int32Array(8_192);
  /** By wording: the cluster that has all its lines, and how many those are; or how many each of several has. */
  let onlyOf = new Int32Array(1_024);
  let onlyLines = new Int32Array(1_024);
  const ofSeveral: (Map<number, number> | undefined)[] = [];
  let heldKeys: readonly string[] = [];
  /** By wording: whether it is listed by its features. */
  let isListed = new Uint8Array(1_024);
  /** By wording: how telling its features are together, and the version at which that was worked out. */
  let tellings = new Float64Array(1_024);
  let tellingAt = new Int32Array(1_024);
  /** By wording: the last search that found it, and how alike it was then. */
  let foundAt = new Int32Array(1_024);
  let likenesses = new Float64Array(1_024);

  /** By cluster: how many lines it has, the last search that found it, and what was best then. */
  let lines = new Int32Array(256);
  let clusterFoundAt = new Int32Array(256);
  let bests = new Float64Array(256);
  let shares = new Float64Array(256);
  let clusterCount = 0;
  /** By cluster: of its wordings, those that were saved, and how many have each feature, once one comes or goes. */
  let heldOf: readonly (readonly number[] | undefined)[] = [];
  const featuresOf: (Map<number, number> | undefined)[] = [];

  /** How telling a feature is that stands with so many clusters, as long as there are as many in all. */
  let rarities = new Float64Array(256);
  let raritiesFor = new Int32Array(256);
  /** Grows with each change, so that what was worked out before is not used after. */
  let version = 1;
  let search = 0;

  function rarityOf(clusters: number): number {
    if (clusters >= rarities.length) {
      rarities = grown(rarities, new Float64Array(2 * clusters));
      raritiesFor = grown(raritiesFor, new Int32Array(2 * clusters));
    }
    // None is for a count of 0.
    if (raritiesFor[clusters] !== clusterCount + 1) {
      const rarity = Math.log((clusterCount + 2) / (clusters + 0.5)) ** 1.5;
      rarities[clusters] = Math.max(FLOOR, rarity);
      raritiesFor[clusters] = clusterCount + 1;
    }
    return rarities[clusters] ?? 0;
  }

  function tellingOf(feature: number): number {
    return rarityOf(clustersWith[feature] ?? 0) * (parts[feature] ?? 0);
  }

  function tellingOfAll(wording: number): number {
    if (tellingAt[wording] !== version) {
      let telling = 0;
      const end = starts[wording + 1] ?? 0;
      for (let at = starts[wording] ?? 0; at < end; at += 1) telling += tellingOf(pool[at] ?? 0);
      tellings[wording] = telling;
      tellingAt[wording] = version;
    }
    return tellings[wording] ?? 0;
  }

  function featureOf(known: Map<string, number>, name: string, part: number): number {
    const place = known.get(name);
    if (place !== undefined) return place;
    const made = heldWith.length;
    roomForFeatures(made + 1);
    known.set(name, made);
    heldWith.push(NONE);
    sinceWith.push(undefined);
    parts[made] = part;
    return made;
  }

  function roomForFeatures(count: number): void {
    if (count <= spread.length) return;
    const size = 2 * count;
    spread = grown(spread, new Int32Array(size));
    clustersWith = grown(clustersWith, new Int32Array(size));
    parts = grown(parts, new Float64Array(size));
    asked = grown(asked, new Uint16Array(size));
  }

  function roomForWordings(count: number): void {
    if (count < starts.length) return;
    const size = 2 * count;
    starts = grown(starts, new Int32Array(size));
    onlyOf = grown(onlyOf, new Int32Array(size));
    onlyLines = grown(onlyLines, new Int32Array(size));
    tellings = grown(tellings, new Float64Array(size));
    tellingAt = grown(tellingAt, new Int32Array(size));
    foundAt = grown(foundAt, new Int32Array(size));
    likenesses = grown(likenesses, new Float64Array(size));
    isListed = grown(isListed, new Uint8Array(size));
  }

  function know(of: WordingFeatures): number {
    const key = keyOf(of);
    const known = places.get(key);
    if (known !== undefined) return known;
    const made = wordLists.length;
    roomForWordings(made + 1);
    let at = starts[made] ?? 0;
    const end = at + of.words.length + of.grams.length;
    if (end > pool.length) pool = grown(pool, new Int32Array(2 * end));
    for (const word of of.words) pool[at++] = featureOf(words, word, 1);
    for (const gram of of.grams) pool[at++] = featureOf(grams, gram, GRAM);
    starts[made + 1] = end;
    onlyOf[made] = NOT_ONE;
    wordLists.push(of.words);
    ofSeveral.push(undefined);
    places.set(key, made);
    return made;
  }

  function roomForCluster(cluster: number): void {
    if (cluster < lines.length) return;
    const size = 2 * cluster;
    lines = grown(lines, new Int32Array(size));
    clusterFoundAt = grown(clusterFoundAt, new Int32Array(size));
    bests = grown(bests, new Float64Array(size));
    shares = grown(shares, new Float64Array(size));
  }

  function count(wording: number, cluster: number, by: 1 | -1): void {
    roomForCluster(cluster);
    const before = lines[cluster] ?? 0;
    lines[cluster] = before + by;
    if (before === 0) clusterCount += 1;
    else if (before + by === 0) clusterCount -= 1;
    const had = linesWith(wording, cluster);
    // Most lines have a wording that others of their cluster have.
    if (had === 0 || had + by === 0) spreadOut(wording, cluster, by);
    countLine(wording, cluster, by);
  }

  /** How many lines of a cluster have a wording. */
  function linesWith(wording: number, cluster: number): number {
    const several = ofSeveral[wording];
    if (several) return several.get(cluster) ?? 0;
    return onlyOf[wording] === cluster ? (onlyLines[wording] ?? 0) : 0;
  }

  function countLine(wording: number, cluster: number, by: 1 | -1): void {
    const several = ofSeveral[wording];
    const only = onlyOf[wording] ?? NOT_ONE;
    if (several) {
      raise(several, cluster, by);
      if (several.size > 1) return;
      const [[last, count] = [NOT_ONE, 0]] = several;
      ofSeveral[wording] = undefined;
      onlyOf[wording] = last;
      onlyLines[wording] = count;
    } else if (only === NOT_ONE || only === cluster) {
      onlyLines[wording] = (onlyLines[wording] ?? 0) + by;
      onlyOf[wording] = onlyLines[wording] === 0 ? NOT_ONE : cluster;
    } else {
      ofSeveral[wording] = new Map([
        [only, onlyLines[wording] ?? 0],
        [cluster, by],
      ]);
      onlyOf[wording] = NOT_ONE;
      onlyLines[wording] = 0;
    }
  }

  /** The clusters that have lines of a wording. */
  function clustersOf(wording: number): Iterable<number> {
    const only = onlyOf[wording] ?? NOT_ONE;
    return only === NOT_ONE ? (ofSeveral[wording]?.keys() ?? []) : [only];
  }

  function hasLines(wording: number): boolean {
    return onlyOf[wording] !== NOT_ONE || ofSeveral[wording] !== undefined;
  }

  /** A cluster comes to have lines of a wording (1), or has none any more (-1): what that says of its features. */
  function spreadOut(wording: number, cluster: number, by: 1 | -1): void {
    version += 1;
    const clusters = ofSeveral[wording]?.size ?? (onlyOf[wording] === NOT_ONE ? 0 : 1);
    const others = clusters - (by === 1 ? 0 : 1);
    const own = featuresWith(cluster);
    const isNew = isListed[wording] === 0;
    isListed[wording] = 1;
    const end = starts[wording + 1] ?? 0;
    for (let at = starts[wording] ?? 0; at < end; at += 1) {
      const feature = pool[at] ?? 0;
      const count = (own.get(feature) ?? 0) + by;
      raise(own, feature, by);
      if (count === 0) clustersWith[feature] = (clustersWith[feature] ?? 0) - 1;
      else if (count === 1 && by === 1) clustersWith[feature] = (clustersWith[feature] ?? 0) + 1;
      if (others === 0) spread[feature] = (spread[feature] ?? 0) + by;
      if (!isNew) continue;
      const since = sinceWith[feature];
      if (since) since.push(wording);
      else sinceWith[feature] = [wording];
    }
  }

  /** How many wordings of a cluster have each feature. */
  function featuresWith(cluster: number): Map<number, number> {
    const known = featuresOf[cluster];
    if (known) return known;
    const made = new Map<number, number>();
    for (const wording of heldOf[cluster] ?? []) {
      const end = starts[wording + 1] ?? 0;
      for (let at = starts[wording] ?? 0; at < end; at += 1) raise(made, pool[at] ?? 0, 1);
    }
    featuresOf[cluster] = made;
    return made;
  }

  function find(of: WordingFeatures): number | undefined {
    const place = places.get(keyOf(of));
    return place !== undefined && hasLines(place) ? place : undefined;
  }

  /** The wordings that share a line's rarest features, each marked as found. */
  function near(own: readonly number[], same: number | undefined): number[] {
    const rest = own.slice();
    const found: number[] = [];
    if (same !== undefined) take(found, same);
    for (let used = 0; used < MOST_FEATURES && rest.length > 0; used += 1) {
      let rarest = 0;
      for (let at = 1; at < rest.length; at += 1) {
        if ((spread[rest[at] ?? 0] ?? 0) < (spread[rest[rarest] ?? 0] ?? 0)) rarest = at;
      }
      const [feature = 0] = rest.splice(rarest, 1);
      if (used > 0 && found.length + (spread[feature] ?? 0) > MOST_WORDINGS) break;
      for (const wording of heldWith[feature] ?? []) if (hasLines(wording)) take(found, wording);
      for (const wording of sinceWith[feature] ?? []) if (hasLines(wording)) take(found, wording);
    }
    return found;
  }

  function take(found: number[], wording: number): void {
    if (foundAt[wording] === search) return;
    foundAt[wording] = search;
    found.push(wording);
  }

  /** Takes in what was saved, in bulk: line by line would take ten times as long. */
  function begin({ state, wordings, clusters }: HeldWordings): void {
    for (const [feature, name] of state.names.entries()) {
      const isWord = state.isWord[feature] === 1;
      roomForFeatures(feature + 1);
      (isWord ? words : grams).set(name, feature);
      parts[feature] = isWord ? 1 : GRAM;
    }
    const wordingCount = state.starts.length - 1;
    roomForWordings(wordingCount);
    starts.set(state.starts);
    pool = state.pool.slice();
    heldKeys = state.keys;
    for (let wording = 0; wording < wordingCount; wording += 1) {
      places.set(heldKeys[wording] ?? '', wording);
      wordLists.push(undefined);
      ofSeveral.push(undefined);
      onlyOf[wording] = NOT_ONE;
      isListed[wording] = 1;
    }
    for (let at = 0; at < pool.length; at += 1) {
      const feature = pool[at] ?? 0;
      spread[feature] = (spread[feature] ?? 0) + 1;
    }
    const wordingsOfCluster: number[][] = [];
    for (const [line, wording] of wordings.entries()) {
      const cluster = clusters[line] ?? 0;
      roomForCluster(cluster);
      if (lines[cluster] === 0) clusterCount += 1;
      lines[cluster] = (lines[cluster] ?? 0) + 1;
      if (linesWith(wording, cluster) === 0) {
        wordingsOfCluster[cluster] ??= [];
        wordingsOfCluster[cluster].push(wording);
      }
      countLine(wording, cluster, 1);
    }
    heldOf = wordingsOfCluster;
    countClusters();
    listByFeature(wordingCount, state.names.length);
  }

  /** Counts with how many clusters each feature stands. */
  function countClusters(): void {
    const seenWith = new Int32Array(spread.length).fill(NOT_ONE);
    for (const [cluster, own] of heldOf.entries()) {
      for (const wording of own ?? []) {
        for (let at = starts[wording] ?? 0; at < (starts[wording + 1] ?? 0); at += 1) {
          const feature = pool[at] ?? 0;
          if (seenWith[feature] === cluster) continue;
          seenWith[feature] = cluster;
          clustersWith[feature] = (clustersWith[feature] ?? 0) + 1;
        }
      }
    }
  }

  /** Lists the wordings of each feature, all in one table. */
  function listByFeature(wordingCount: number, featureCount: number): void {
    const all = new Int32Array(starts[wordingCount] ?? 0);
    const ends = new Int32Array(featureCount);
    let from = 0;
    for (let feature = 0; feature < featureCount; feature += 1) {
      ends[feature] = from;
      const count = spread[feature] ?? 0;
      heldWith.push(all.subarray(from, from + count));
      sinceWith.push(undefined);
      from += count;
    }
    for (let wording = 0; wording < wordingCount; wording += 1) {
      for (let at = starts[wording] ?? 0; at < (starts[wording + 1] ?? 0); at += 1) {
        const feature = pool[at] ?? 0;
        all[ends[feature] ?? 0] = wording;
        ends[feature] = (ends[feature] ?? 0) + 1;
      }
    }
  }

  function save(): SavedWordings {
    const placeOf = new Int32Array(wordLists.length).fill(NOT_ONE);
    const savedStarts = [0];
    const savedPool: number[] = [];
    const savedFeatures = new Int32Array(heldWith.length).fill(NOT_ONE);
    const names: string[] = [];
    const isWord: number[] = [];
    const nameOf = new Array<string>(heldWith.length);
    for (const known of [words, grams]) for (const [name, at] of known) nameOf[at] = name;
    const keys: string[] = [];
    for (const [key, wording] of places) {
      if (!hasLines(wording)) continue;
      placeOf[wording] = keys.push(key) - 1;
      for (let at = starts[wording] ?? 0; at < (starts[wording + 1] ?? 0); at += 1) {
        const feature = pool[at] ?? 0;
        if (savedFeatures[feature] === NOT_ONE) {
          savedFeatures[feature] = names.push(nameOf[feature] ?? '') - 1;
          isWord.push(parts[feature] === GRAM ? 0 : 1);
        }
        savedPool.push(savedFeatures[feature] ?? 0);
      }
      savedStarts.push(savedPool.length);
    }
    return {
      placeOf,
      state: {
        names,
        keys,
        isWord: Uint8Array.from(isWord),
        starts: Int32Array.from(savedStarts),
        pool: Int32Array.from(savedPool),
      },
    };
  }

  if (held) begin(held);
  return {
    know,
    count,
    save,
    wordsOf(wording) {
      // What was never taken apart has no words.
      wordLists[wording] ??= (heldKeys[wording] ?? '').split(' ').filter((word) => word !== '');
      return wordLists[wording];
    },
    clustersOfWord(word) {
      const feature = words.get(word);
      return feature === undefined ? 0 : (clustersWith[feature] ?? 0);
    },
    isKnownWord(word) {
      const feature = words.get(word);
      return feature !== undefined && (spread[feature] ?? 0) > 0;
    },
    search(of, beside) {
      search += 1;
      const own: number[] = [];
      let whole = 0;
      // What was never seen counts as much as what one cluster has.
      const unseen = rarityOf(0);
      const ask = (feature: number | undefined, part: number): void => {
        if (feature !== undefined && (spread[feature] ?? 0) > 0) {
          const telling = tellingOf(feature);
          whole += telling;
          if (own.length >= MOST_ASKED) return;
          asked[feature] = own.push(feature);
          askedTellings[own.length] = telling;
        } else whole += unseen * part;
      };
      for (const word of of.words) ask(words.get(word), 1);
      for (const gram of of.grams) ask(grams.get(gram), GRAM);
      const found = near(own, find(of));
      for (const wording of beside) take(found, wording);
      const clusters: number[] = [];
      const better = (cluster: number, likeness: number, shared: number): void => {
        if (clusterFoundAt[cluster] === search) {
          if (likeness <= (bests[cluster] ?? 0)) return;
        } else clusters.push(cluster);
        clusterFoundAt[cluster] = search;
        bests[cluster] = likeness;
        shares[cluster] = shared / unseen;
      };
      for (const wording of found) {
        let shared = 0;
        const end = starts[wording + 1] ?? 0;
        for (let at = starts[wording] ?? 0; at < end; at += 1) {
          shared += askedTellings[asked[pool[at] ?? 0] ?? 0] ?? 0;
        }
        const theirs = tellingOfAll(wording);
        const cosine = shared / Math.sqrt(whole * theirs || 1);
        const inner = shared / (Math.min(whole, theirs) || 1);
        const likeness = Math.min(1, 0.6 * cosine + 0.4 * inner);
        likenesses[wording] = likeness;
        const only = onlyOf[wording] ?? NOT_ONE;
        if (only !== NOT_ONE) better(only, likeness, shared);
        else for (const each of clustersOf(wording)) better(each, likeness, shared);
      }
      for (const feature of own) asked[feature] = 0;
      return {
        clusters,
        best: (cluster) => bests[cluster] ?? 0,
        shared: (cluster) => shares[cluster] ?? 0,
        likeness: (wording) => (foundAt[wording] === search ? likenesses[wording] : undefined),
      };
    },
  };
}

/** What all lines of one wording have in common, as one text. */
export function keyOf({ words }: WordingFeatures): string {
  return words.join(' ');
}

/** A table with more room, holding what the smaller one held. */
function grown<Table extends Float64Array | Int32Array | Uint16Array | Uint8Array>(
  from: Table,
  to: Table,
): Table {
  to.set(from);
  return to;
}

/** Adds to a count; what comes to nothing is forgotten. */
export function raise<Key>(counts: Map<Key, number>, key: Key, by: number): void {
  const count = (counts.get(key) ?? 0) + by;
  if (count > 0) counts.set(key, count);
  else counts.delete(key);
}

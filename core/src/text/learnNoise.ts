import { plainWording } from './plainWording.ts';
import { isTelling, type LineTexts } from './stemOf.ts';

/** A word that stands on fewer of the lines says too little about itself. */
const LEAST_SHARE = 0.015;
const LEAST_LINES = 12;
/** So many different words must follow it, none of them much more often than the others. */
const FOLLOWERS = 10;
const MOST_OF_ONE = 0.35;
/** What comes after such words is looked at again without them. */
const ROUNDS = 3;

/** A word that has one other behind it so often is half of a phrase, such as FAST PAYMENT. */
const PHRASE = 0.8;

/**
 * Words that say how money moved, in whatever language, learned from lines: many lines begin with them, and
 * always something else comes after them. What follows the beginning of one payee's name is nearly always
 * the same, and a payee's trade is not what lines begin with.
 *
 * @example GUTSCHRIFT before the names of thirty customers is noise; HEDGEROW before CARDS is not
 */
export function learnNoise(lines: readonly LineTexts[]): ReadonlySet<string> {
  let wordings = lines.map(tellingWords);
  const noise = new Set<string>();
  const least = Math.max(LEAST_LINES, LEAST_SHARE * lines.length);
  for (let round = 0; round < ROUNDS; round += 1) {
    const first = followersOf(wordings, 0);
    const second = followersOf(wordings, 1);
    const found: string[] = [];
    for (const [word, followers] of first) {
      if (isFollowedByMany(followers, least)) found.push(word);
      const [next, times] = mostOf(followers);
      const beyond = second.get(`${word} ${next}`);
      const isPhrase = times >= PHRASE * sumOf(followers);
      if (isPhrase && beyond && isFollowedByMany(beyond, least)) found.push(word, next);
    }
    if (found.length === 0) break;
    for (const word of found) noise.add(word);
    wordings = wordings.map((words) => {
      let start = 0;
      while (noise.has(words[start] ?? '')) start += 1;
      return words.slice(start);
    });
  }
  return noise;
}

type Followers = ReadonlyMap<string, number>;

/** What comes after the first words of wordings: after the first one, or the first two. */
function followersOf(
  wordings: readonly (readonly string[])[],
  last: 0 | 1,
): ReadonlyMap<string, Followers> {
  const found = new Map<string, Map<string, number>>();
  for (const words of wordings) {
    const next = words[last + 1];
    if (next === undefined) continue;
    const beginning = last === 0 ? (words[0] ?? '') : `${words[0]} ${words[1]}`;
    const own = found.get(beginning) ?? new Map<string, number>();
    own.set(next, (own.get(next) ?? 0) + 1);
    found.set(beginning, own);
  }
  return found;
}

function isFollowedByMany(followers: Followers, least: number): boolean {
  if (followers.size < FOLLOWERS) return false;
  const total = sumOf(followers);
  return total >= least && mostOf(followers)[1] <= MOST_OF_ONE * total;
}

function sumOf(followers: Followers): number {
  let total = 0;
  for (const count of followers.values()) total += count;
  return total;
}

function mostOf(followers: Followers): readonly [word: string, times: number] {
  let best: readonly [string, number] = ['', 0];
  for (const [word, times] of followers) if (times > best[1]) best = [word, times];
  return best;
}

/** The words of all texts of a line that may name somebody, in their order. */
function tellingWords({ description, payee, reference }: LineTexts): readonly string[] {
  const text = [description, payee, reference].filter(Boolean).join(' ');
  return plainWording(text).split(' ').filter(isTelling);
}

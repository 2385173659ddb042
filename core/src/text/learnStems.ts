import type { PayeeId } from '../ids.ts';
import { headCounts, MANY_HEADS } from './headCounts.ts';

/** A stem as it was made of a wording alone, with what is known of the lines that have it. */
export interface SeenStem {
  readonly stem: string;
  /** How many lines have it. */
  readonly count: number;
  /** Those its lines were decided to be of; empty while none was. */
  readonly payeeIds: readonly PayeeId[];
  /** What its lines are put together under so far. */
  readonly current: string;
}

/** So many different words must follow the same beginning before they are taken for noise. */
const TAILS = 2;
/** With a single word left, more are wanted. */
const TAILS_OF_ONE = 3;
/** Shorter stems are never taken for a cut or misspelt one. */
const LONG = 8;
/** A spelling is taken for a mistake where another has so many times its lines. */
const RARER = 3;

/**
 * What stems belong together, learned from all stems of some books: endings that follow many different
 * beginnings go (towns), a cut stem goes with the one it begins, and so do lost spaces, words in another
 * order and one wrong letter. Stems that are known to be of different payees stay apart.
 *
 * @returns for each stem what its lines are to be put together under; where several would do, what most of
 * the lines have already
 * @example LINNET POST LYNMO, LINNET POST GARRAN and other payees in Lynmo and Garran: LINNET POST
 */
export function learnStems(seen: readonly SeenStem[]): ReadonlyMap<string, string> {
  const groups = new Map<string, Group>();
  const ordered = [...seen].sort((a, b) => b.count - a.count || (a.stem < b.stem ? -1 : 1));
  for (const each of ordered) {
    groups.set(each.stem, { stems: [each], beginning: null, into: null });
  }
  const join = (from: string, into: string): boolean => {
    const [a, b] = [rootOf(groups, from), rootOf(groups, into)];
    if (!a || !b || a === b || !isOnePayee(a, b)) return false;
    b.stems.push(...a.stems);
    b.beginning ??= a.beginning;
    a.stems = [];
    a.into = b;
    return true;
  };
  joinWithoutEndings(ordered, join, (stem, beginning) => {
    const group = rootOf(groups, stem);
    if (group) group.beginning = beginning;
  });
  joinAlike(ordered, (stem) => stem.replaceAll(' ', ''), join);
  joinAlike(ordered, (stem) => stem.split(' ').sort().join(' '), join);
  joinCut(ordered, join);
  joinMisspelt(ordered, join);
  return named([...groups.values()].filter(({ stems }) => stems.length > 0));
}

/** Gives each group a name that no other has. */
function named(groups: readonly Group[]): ReadonlyMap<string, string> {
  const learned = new Map<string, string>();
  // A stem by itself has its own name, whatever others would like to be called.
  const taken = new Set<string>();
  for (const { stems } of groups) {
    const [only] = stems;
    if (!only || stems.length > 1) continue;
    taken.add(only.stem);
    learned.set(only.stem, only.stem);
  }
  for (const group of groups) {
    if (group.stems.length < 2) continue;
    const wanted = namesOf(group);
    const name = wanted.find((each) => !taken.has(each)) ?? group.stems[0]?.stem ?? '';
    taken.add(name);
    for (const { stem } of group.stems) learned.set(stem, name);
  }
  return learned;
}

/** Stems that belong together, until they go with others. */
interface Group {
  stems: SeenStem[];
  /** What is left of its stems without their endings. */
  beginning: string | null;
  into: Group | null;
}

type Join = (from: string, into: string) => boolean;

function rootOf(groups: ReadonlyMap<string, Group>, stem: string): Group | null {
  let group = groups.get(stem) ?? null;
  while (group?.into) group = group.into;
  return group;
}

/** Whether nothing that was decided speaks against two groups being one. */
function isOnePayee(a: Group, b: Group): boolean {
  const own = new Set(a.stems.flatMap(({ payeeIds }) => payeeIds));
  const other = new Set(b.stems.flatMap(({ payeeIds }) => payeeIds));
  if (own.size === 0 || other.size === 0) return own.size < 2 && other.size < 2;
  return own.size === 1 && other.size === 1 && [...own].every((id) => other.has(id));
}

/** What a group could be called: what most of its lines have already, its beginning, its stems, the most used first. */
function namesOf({ stems, beginning }: Group): readonly string[] {
  const counts = new Map<string, number>();
  const own = new Set(stems.map(({ stem }) => stem));
  for (const { current, count } of stems) {
    // What is only one of the stems itself was not learned before.
    if (!own.has(current)) counts.set(current, (counts.get(current) ?? 0) + count);
  }
  const before = [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1));
  const byUse = [...stems].sort((a, b) => b.count - a.count || (a.stem < b.stem ? -1 : 1));
  return [
    ...before.map(([name]) => name),
    ...(beginning === null ? [] : [beginning]),
    ...byUse.map(({ stem }) => stem),
  ];
}

/** Puts together stems that differ only in endings which follow many different beginnings. */
function joinWithoutEndings(
  seen: readonly SeenStem[],
  join: Join,
  begin: (stem: string, beginning: string) => void,
): void {
  const heads = headCounts(seen.map(({ stem }) => [stem, stem] as const));
  const beginnings = new Map<string, string[]>();
  for (const { stem } of seen) {
    const words = stem.split(' ');
    let end = words.length;
    while (end > 2 && (heads.get(words[end - 1] ?? '') ?? 0) >= MANY_HEADS) end -= 1;
    if (end === words.length) {
      // The beginning may stand alone as well.
      beginnings.get(stem)?.push(stem);
      if (!beginnings.has(stem)) beginnings.set(stem, [stem]);
      continue;
    }
    const beginning = words.slice(0, end).join(' ');
    const same = beginnings.get(beginning);
    if (same) same.push(stem);
    else beginnings.set(beginning, [stem]);
  }
  for (const [beginning, stems] of beginnings) {
    const least = beginning.includes(' ') ? TAILS : TAILS_OF_ONE;
    const [first, ...others] = stems;
    if (first === undefined || stems.length < least) continue;
    let isJoined = false;
    for (const other of others) isJoined = join(other, first) || isJoined;
    if (isJoined) begin(first, beginning);
  }
}

/** Puts together stems that are the same once they are written in another way. */
function joinAlike(seen: readonly SeenStem[], write: (stem: string) => string, join: Join): void {
  const first = new Map<string, string>();
  for (const { stem } of seen) {
    const written = write(stem);
    const known = first.get(written);
    if (known === undefined) first.set(written, stem);
    else join(stem, known);
  }
}

/** Puts stems that were cut within a word with the one that they begin, if there is but one. */
function joinCut(seen: readonly SeenStem[], join: Join): void {
  const sorted = seen.map(({ stem }) => stem).sort();
  const uses = new Map<string, number>();
  for (const stem of sorted) {
    for (const word of stem.split(' ')) uses.set(word, (uses.get(word) ?? 0) + 1);
  }
  sorted.forEach((stem, at) => {
    const last = stem.split(' ').at(-1) ?? '';
    // A last word that stands elsewhere too need not be cut.
    if (stem.length < LONG || (uses.get(last) ?? 0) > 1) return;
    const longer: string[] = [];
    for (let next = at + 1; sorted[next]?.startsWith(stem); next += 1) {
      const other = sorted[next] ?? '';
      // The cut is within a word, and not between two.
      if (other[stem.length] !== ' ') longer.push(other);
    }
    const [only] = longer;
    const isOne = new Set(
      longer.map((each) => each.split(' ').slice(0, stem.split(' ').length).join(' ')),
    );
    if (only !== undefined && isOne.size === 1) join(stem, only);
  });
}

/** Puts stems of few lines with one of many that differs in a single letter. */
function joinMisspelt(seen: readonly SeenStem[], join: Join): void {
  const often = new Map<string, SeenStem[]>();
  for (const each of seen) {
    if (each.count < RARER) continue;
    for (const shape of withoutOne(each.stem)) {
      const same = often.get(shape);
      if (same) same.push(each);
      else often.set(shape, [each]);
    }
  }
  for (const each of seen) {
    if (each.stem.length < LONG) continue;
    const found = new Set<SeenStem>();
    for (const shape of withoutOne(each.stem)) {
      for (const other of often.get(shape) ?? []) {
        if (other.count >= RARER * each.count && isOneApart(each.stem, other.stem))
          found.add(other);
      }
    }
    const [best] = [...found].sort((a, b) => b.count - a.count);
    if (best) join(each.stem, best.stem);
  }
}

/** A stem, and the stem without each of its letters. */
function withoutOne(stem: string): string[] {
  if (stem.length < LONG || stem.length > 60) return [];
  return [stem, ...Array.from(stem, (_, at) => stem.slice(0, at) + stem.slice(at + 1))];
}

/** Whether two texts differ by one letter that is wrong, missing or too many, in a word long enough. */
function isOneApart(a: string, b: string): boolean {
  if (a === b || Math.abs(a.length - b.length) > 1) return false;
  let start = 0;
  while (start < a.length && a[start] === b[start]) start += 1;
  const [left, right] = [a.slice(start), b.slice(start)];
  const isSame =
    left.slice(1) === right.slice(1) || left.slice(1) === right || left === right.slice(1);
  // A short word with another letter is another word: BAY and DAY.
  const word = (text: string) =>
    text.slice(text.lastIndexOf(' ', start - 1) + 1).split(' ')[0] ?? '';
  return isSame && Math.min(word(a).length, word(b).length) >= LONG - 3;
}

import { isMovementWord } from './stemOf.ts';

/** A line of a stack: its wording as plainWording writes it, and its day, YYYY-MM-DD. */
export interface StackWording {
  readonly plain: string;
  readonly date: string;
}

/** Lines of a stack that a word or number sets apart. */
export interface StackPart {
  readonly word: string;
  readonly count: number;
}

/** What tells the lines of a stack apart. */
export interface StackParts {
  /** The word that stands before each of the parts' own; null where several do. */
  readonly before: string | null;
  /** The largest first. No line is in two of them. */
  readonly parts: readonly StackPart[];
}

const NONE: ReadonlySet<string> = new Set();

/** A part has so many lines at least, on so many days. */
const LEAST_LINES = 3;
const LEAST_DAYS = 2;
/** All parts together have this share of the lines at least. */
const LEAST_SHARE = 0.6;
/** More parts than this are running numbers or places rather than kinds. */
const MOST_PARTS = 8;

/**
 * What tells the lines of a stack apart: words or numbers that stand in the same place and come back on other
 * days, each on some of the lines. Days, years and words of how money moved are none of them.
 *
 * @param lines all lines of one stack
 * @param common words that stand with many payees, such as towns: they are no kinds of one of them
 * @returns the place whose words cover most lines, numbers before words; null where there is none
 * @example 120 lines with TERMINAL 40117730 and 78 with TERMINAL 40117748:
 * // { before: 'TERMINAL', parts: [{ word: '40117730', count: 120 }, { word: '40117748', count: 78 }] }
 */
export function stackParts(
  lines: readonly StackWording[],
  common: ReadonlySet<string> = NONE,
): StackParts | null {
  const words = new Map<string, Lines>();
  const places = new Map<string, Set<string>>();
  for (const [at, { plain, date }] of lines.entries()) {
    const said = plain.split(' ');
    for (const [position, word] of said.entries()) {
      if (!isPart(word) || common.has(word)) continue;
      const own = words.get(word) ?? { at: new Set(), days: new Set() };
      own.at.add(at);
      own.days.add(date);
      words.set(word, own);
      for (const place of [`after ${said[position - 1] ?? ''}`, `last ${said.length - position}`]) {
        places.set(place, (places.get(place) ?? new Set()).add(word));
      }
    }
  }
  let best: { readonly found: StackParts; readonly weight: number } | null = null;
  for (const [place, own] of places) {
    const parts = partsOf(own, words, lines.length);
    if (parts === null) continue;
    const isNumbered = parts.every(({ word }) => /\p{N}/u.test(word));
    const covered = parts.reduce((sum, { count }) => sum + count, 0);
    // A number that comes back is not there by chance.
    const weight = isNumbered ? 2 * covered : covered;
    if (best !== null && weight <= best.weight) continue;
    const [, before = ''] = /^after (.*)$/.exec(place) ?? [];
    best = { found: { before: before === '' ? null : before, parts }, weight };
  }
  return best?.found ?? null;
}

/** Which lines have a word, and on which days. */
interface Lines {
  readonly at: Set<number>;
  readonly days: Set<string>;
}

/** The words of one place as parts, if they part most of the lines and no line has two of them. */
function partsOf(
  own: ReadonlySet<string>,
  words: ReadonlyMap<string, Lines>,
  all: number,
): readonly StackPart[] | null {
  const taken = new Set<number>();
  const parts: StackPart[] = [];
  for (const word of own) {
    const { at, days } = words.get(word) ?? { at: taken, days: new Set() };
    if (at.size < LEAST_LINES || days.size < LEAST_DAYS) continue;
    if ([...at].some((line) => taken.has(line))) return null;
    for (const line of at) taken.add(line);
    parts.push({ word, count: at.size });
  }
  if (parts.length < 2 || parts.length > MOST_PARTS || taken.size < LEAST_SHARE * all) return null;
  return parts.sort((a, b) => b.count - a.count || (a.word < b.word ? -1 : 1));
}

/** Whether a word can set lines apart: not a day, a year, one letter or a word of how money moved. */
function isPart(word: string): boolean {
  if (/^\p{N}+$/u.test(word)) return word.length > 2 && !/^(19|20)\d\d$/.test(word);
  return word.length > 1 && !isMovementWord(word);
}

import { plainWording } from '../../text/plainWording.ts';
import type { RuleTakes } from './rule.ts';
import { paddedWords, type RuleLine } from './ruleLine.ts';

/** Finds among many lines those that a rule may take or nearly take, without looking at each. */
export interface WordingSearch {
  /** How many lines have a word or some in a row. */
  readonly linesWith: (words: string) => number;
  /** The lines worth a look, in their order. */
  readonly worthALook: <Line extends RuleLine>(
    lines: readonly Line[],
    takes: RuleTakes,
  ) => readonly Line[];
}

/** Prepares the wordings of lines, in their order: in which of them each word stands. */
export function searchWordings(lines: readonly RuleLine[]): WordingSearch {
  const linesOfWord = new Map<string, number[]>();
  lines.forEach(({ plain }, at) => {
    for (const word of wordsOf(plain.wording)) {
      const own = linesOfWord.get(word);
      if (own === undefined) linesOfWord.set(word, [at]);
      else if (own.at(-1) !== at) own.push(at);
    }
  });

  /** The lines in whose wording words stand in a row, of which there is at least one. */
  function having(padded: string): readonly number[] {
    const words = wordsOf(padded);
    const lists = words.map((word) => linesOfWord.get(word) ?? []);
    const fewest = lists.reduce((one, other) => (other.length < one.length ? other : one));
    if (words.length === 1) return fewest;
    return fewest.filter((at) => lines[at]?.plain.wording.includes(padded));
  }

  return {
    linesWith: (words) => having(paddedWords(words)).length,
    worthALook(all, takes) {
      const wanted = neededTexts(takes);
      if (wanted === null) return all;
      const found = new Set(wanted.flatMap(having));
      return [...found].sort((a, b) => a - b).flatMap((at) => all[at] ?? []);
    },
  };
}

/** The words of a text as it is compared by whole words. */
const wordsOf = (padded: string): string[] => padded.trim().split(' ');

const IN_WORDING: ReadonlySet<string> = new Set(['wording', 'description', 'reference', 'payee']);
const WHOLE_WORDS: ReadonlySet<string> = new Set(['has', 'is', 'startsWith', 'endsWith']);

/**
 * Runs of words of which a wording must have at least one for a rule to take the line, or to miss it by one
 * thing only; null where that can't be said.
 */
function neededTexts({ match, conditions }: RuleTakes): readonly string[] | null {
  const texts: string[] = [];
  for (const condition of conditions) {
    const isWording =
      condition.kind === 'text' &&
      IN_WORDING.has(condition.field) &&
      WHOLE_WORDS.has(condition.test) &&
      !condition.isExact &&
      plainWording(condition.text) !== '';
    if (isWording) texts.push(paddedWords(condition.text));
    // Where any one is enough, each must be such; and a group may look for what is not among them.
    else if (match === 'any' || condition.kind === 'group') return null;
    else if (
      condition.kind === 'text' &&
      condition.test !== 'hasNot' &&
      condition.test !== 'isEmpty'
    ) {
      return null;
    }
  }
  return texts.length === 0 ? null : texts;
}

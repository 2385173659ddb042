import { plainWording } from '../../text/plainWording.ts';
import type { RuleTakes } from './rule.ts';
import { paddedWords, type RuleLine } from './ruleLine.ts';

/** Finds among many lines those that a rule may take or nearly take, without looking at each. */
export interface WordingSearch {
  /** The lines worth a look, in their order. */
  /** How many lines have a word or some in a row. */
  readonly linesWith: (words: string) => number;
  readonly worthALook: <Line extends RuleLine>(
    lines: readonly Line[],
    takes: RuleTakes,
  ) => readonly Line[];
}

const BETWEEN = '\n';

/** Prepares the wordings of lines, in their order, as one long text that is searched at once. */
export function searchWordings(lines: readonly RuleLine[]): WordingSearch {
  const starts = new Int32Array(lines.length + 1);
  let length = 0;
  const texts = lines.map(({ plain }, at) => {
    starts[at] = length;
    length += plain.wording.length + 1;
    return plain.wording;
  });
  starts[lines.length] = length;
  const whole = `${texts.join(BETWEEN)}${BETWEEN}`;

  /** The line that a place in the whole text belongs to. */
  function lineAt(place: number): number {
    let low = 0;
    let high = lines.length;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if ((starts[middle] ?? 0) <= place) low = middle;
      else high = middle;
    }
    return low;
  }

  /** The lines in whose wording something stands. */
  function having(words: string): number[] {
    const found: number[] = [];
    let place = whole.indexOf(words);
    while (place >= 0) {
      const line = lineAt(place);
      found.push(line);
      place = whole.indexOf(words, (starts[line + 1] ?? length) - 1);
    }
    return found;
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
